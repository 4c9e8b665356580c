"""The text of recurrence rules (RFC 5545, section 3.3.10), read without computing a single date."""

import re
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated

from pydantic import AfterValidator, Field

from shelf_core.calendar.names import WEEKDAYS

FREQUENCIES = ("YEARLY", "MONTHLY", "WEEKLY", "DAILY", "HOURLY", "MINUTELY")

_LISTS = {
    "BYMONTH": (1, 12),
    "BYMONTHDAY": (-31, 31),
    "BYYEARDAY": (-366, 366),
    "BYWEEKNO": (-53, 53),
    "BYSETPOS": (-366, 366),
    "BYHOUR": (0, 23),
    "BYMINUTE": (0, 59),
}
_PART = re.compile(r"[A-Z]+=[A-Z0-9,+-]+")
_WEEKDAY = re.compile(r"([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)")


@dataclass(frozen=True)
class Rule:
    """The parts of a rule. Weekdays are (n or 0, weekday with Monday 0)."""

    frequency: str
    interval: int = 1
    count: int | None = None
    week_start: int = 0
    weekdays: tuple[tuple[int, int], ...] = ()
    months: tuple[int, ...] = ()
    month_days: tuple[int, ...] = ()
    year_days: tuple[int, ...] = ()
    week_numbers: tuple[int, ...] = ()
    positions: tuple[int, ...] = ()
    hours: tuple[int, ...] = ()
    minutes: tuple[int, ...] = ()


@lru_cache(maxsize=4096)
def parse_rule(text: str) -> Rule:
    """The rule of a text such as `FREQ=WEEKLY;BYDAY=SA`.

    Raises ValueError for what RFC 5545 does not allow, and for SECONDLY, BYSECOND and UNTIL, which a run does not use.
    """
    parts: dict[str, str] = {}
    for part in text.split(";"):
        if not _PART.fullmatch(part):
            raise _wrong(f"a part such as INTERVAL=2 in the rule, got {part!r}")
        name, value = part.split("=")
        if name in parts:
            raise _wrong(f"{name} once, got it twice")
        parts[name] = value
    frequency = parts.pop("FREQ", "nothing")
    if frequency not in FREQUENCIES:
        raise _wrong(f"FREQ to be one of {', '.join(FREQUENCIES)}, got {frequency}")
    rule = Rule(
        frequency,
        interval=_number(parts, "INTERVAL", 1, 100_000) or 1,
        count=_number(parts, "COUNT", 1, 10_000_000),
        week_start=_week_start(parts),
        weekdays=_weekdays(parts.pop("BYDAY", ""), frequency),
        **{field: _numbers(parts, name) for name, field in _FIELDS.items()},
    )
    if parts:
        raise _wrong(f"only parts that a run uses, got {next(iter(parts))}")
    return _checked(rule)


_FIELDS = {
    "BYMONTH": "months",
    "BYMONTHDAY": "month_days",
    "BYYEARDAY": "year_days",
    "BYWEEKNO": "week_numbers",
    "BYSETPOS": "positions",
    "BYHOUR": "hours",
    "BYMINUTE": "minutes",
}


def _number(parts: dict[str, str], name: str, low: int, high: int) -> int | None:
    text = parts.pop(name, None)
    if text is None:
        return None
    if not text.isdecimal() or not low <= int(text) <= high:
        raise _wrong(f"{name} from {low} to {high}, got {text}")
    return int(text)


def _numbers(parts: dict[str, str], name: str) -> tuple[int, ...]:
    text = parts.pop(name, None)
    if text is None:
        return ()
    low, high = _LISTS[name]
    found = []
    for one in text.split(","):
        if not re.fullmatch(r"[+-]?\d{1,3}", one) or not low <= int(one) <= high or (low < 0 and int(one) == 0):
            raise _wrong(f"{name} with numbers from {low} to {high}, got {one}")
        found.append(int(one))
    return tuple(found)


def _week_start(parts: dict[str, str]) -> int:
    text = parts.pop("WKST", "MO")
    if text not in WEEKDAYS:
        raise _wrong(f"WKST to be a weekday such as SU, got {text}")
    return WEEKDAYS.index(text)


def _weekdays(text: str, frequency: str) -> tuple[tuple[int, int], ...]:
    found = []
    for one in text.split(",") if text else ():
        match = _WEEKDAY.fullmatch(one)
        if match is None:
            raise _wrong(f"BYDAY with weekdays such as SA or 1SU, got {one}")
        nth = int(match[1] or 0)
        if match[1] and (nth == 0 or abs(nth) > 53 or frequency not in ("MONTHLY", "YEARLY")):
            raise _wrong(f"an n-th weekday only with FREQ=MONTHLY or YEARLY, got {one}")
        found.append((nth, WEEKDAYS.index(match[2])))
    return tuple(found)


def _checked(rule: Rule) -> Rule:
    if rule.week_numbers and rule.frequency != "YEARLY":
        raise _wrong("BYWEEKNO only with FREQ=YEARLY")
    if rule.year_days and rule.frequency in ("DAILY", "WEEKLY", "MONTHLY"):
        raise _wrong("BYYEARDAY only with FREQ=YEARLY")
    if rule.month_days and rule.frequency == "WEEKLY":
        raise _wrong("BYMONTHDAY not with FREQ=WEEKLY")
    if rule.week_numbers and any(nth for nth, _ in rule.weekdays):
        raise _wrong("no n-th weekday beside BYWEEKNO")
    return rule


def _wrong(text: str) -> ValueError:
    return ValueError(f"expected {text}")


def _check_rule(value: str) -> str:
    parse_rule(value)
    return value


RuleText = Annotated[str, AfterValidator(_check_rule), Field(max_length=2000, description="RFC 5545 RRULE without UNTIL")]
