"""The words and lists that a page offers to choose from, said once: how they are called, and how each is written down."""

from typing import Any

from shelf_core.calendar.names import WEEKDAYS
from shelf_core.design.glossary import GLOSSARY
from shelf_core.design.patterns import DAY_NAMES, MONTH_NAMES
from shelf_core.design.targets import Prices
from shelf_core.digits import SEPARATORS
from shelf_core.inks import PART_INKS

DAYS_OF = {"hour": 1 / 24, "day": 1.0, "week": 7.0, "month": 365.2425 / 12, "quarter": 365.2425 / 4, "year": 365.2425}
"""About how many days each period has, in mean Gregorian years; for drawing and for ordering, not for dates."""
HEIGHTS = {"hour": 1, "day": 2, "week": 3, "month": 4, "quarter": 5, "year": 6}
"""How tall a spine is drawn: by the longest period of the rungs that claim it."""
LOWEST = 1
"""How tall a spine is that only the recent part, a hold or a rotation claims."""

_WEEKDAY_NAMES = dict(zip(WEEKDAYS, DAY_NAMES, strict=True))
_LETTERS = {
    "minute": ("PT", "M"),
    "hour": ("PT", "H"),
    "day": ("P", "D"),
    "week": ("P", "W"),
    "month": ("P", "M"),
    "year": ("P", "Y"),
}


def _ticks(*ages: tuple[float, str]) -> list[dict[str, Any]]:
    return [{"days": round(days, 2), "name": name} for days, name in ages]


VOCABULARY: dict[str, Any] = {
    "picks": {"first": "first", "last": "last"},
    "periods": {every: every for every in DAYS_OF},
    "weekdays": _WEEKDAY_NAMES,
    "days_of_week": {code: f"from {name} on" for code, name in _WEEKDAY_NAMES.items()},
    "days_of_month": {
        "1SU": "from the first Sunday on",
        "1SA": "from the first Saturday on",
        "15": "from the 15th on",
        "-1FR": "from the last Friday on",
        "31": "on its last day",
    },
    "months": list(MONTH_NAMES),
    "separators": SEPARATORS,
    "part_inks": list(PART_INKS),
    "reclaims": {
        "FREQ=DAILY": "every day",
        **{f"FREQ=WEEKLY;BYDAY={code}": f"every {name}" for code, name in _WEEKDAY_NAMES.items()},
    },
    "kinds": {
        "full": "full",
        "synthetic": "synthetic full",
        "differential": "differential",
        "incremental": "incremental",
        "snapshot": "snapshot",
        "log": "log",
    },
    "durations": {unit: {"name": f"{unit}s", "before": before, "after": after} for unit, (before, after) in _LETTERS.items()},
    "asks": {
        "rpo": {"name": "the newest point is never older than", "ask": {"rpo": "P1DT12H"}},
        "history": {"name": "there is a point", "ask": {"history": "P1Y", "every": "month"}},
        "copies": {"name": "there are", "ask": {"copies": 3, "media": 2, "off_site": 1, "fresh": "P8D"}},
        "gone_after": {"name": "nothing is left after", "ask": {"gone_after": "P3Y"}},
        "stands-rpo": {"name": "it stands", "ask": {"rpo": "P2D"}},
        "stands-rto": {"name": "it comes back after", "ask": {"rto": "PT8H"}},
        "rehearsed": {"name": "a recovery was rehearsed within", "ask": {"rehearsed": "P6M"}},
    },
    "every_period": {every: f"of each {every}" for every in DAYS_OF},
    "no_time": "PT0S",
    "hours": [f"{hour:02}:00" for hour in range(24)],
    "first": {
        "logs": "P7D",
        "lock": "P30D",
        "delay": "PT0H",
        "returns_after": "P0D",
        "count": 4,
        "weekday": "SA",
        "weekly_set": "FR",
        "rrule": "FREQ=DAILY",
        "prices": Prices().whole(),
        "line_speed": "1 Gbit/s",
        "window": {"opens": "22:00", "closes": "06:00"},
        "limit": {"from": "08:00", "to": "18:00"},
        "spread": "PT1H",
        "ask": {"rpo": "P1DT12H"},
        "plan_ready": "PT2H",
        "distance": "P1D",
        "group": {"workloads": {"ids": [], "tags": []}, "then": None},
    },
    "glossary": GLOSSARY,
    "shelf": {
        "youngest_days": 0.25,
        "oldest_days": 30 * DAYS_OF["year"],
        "ticks": _ticks(
            (1, "a day"), (7, "a week"), (DAYS_OF["month"], "a month"), (DAYS_OF["year"], "a year"), (3652.43, "10 years")
        ),
    },
    "ladder": {
        "ticks": _ticks(
            (1, "a day"),
            (7, "a week"),
            (DAYS_OF["month"], "a month"),
            (DAYS_OF["quarter"], "a quarter"),
            (DAYS_OF["year"], "a year"),
            (5 * DAYS_OF["year"], "5 years"),
            (20 * DAYS_OF["year"], "20 years"),
            (100 * DAYS_OF["year"], "100 years"),
        )
    },
}
"""What is offered, by where it is offered.

A choice has a name for each value of the document. A duration is a count between what stands `before` and what stands `after`
it. `first` is what a field holds when it is first asked for; it can always be edited. Ticks are ages on an axis.
"""
