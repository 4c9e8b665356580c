"""Ready-made duties to start from, with where each is published. All sources are given from memory: check the wording."""

from dataclasses import dataclass
from typing import Any

from shelf_core.design.standing import Duty


@dataclass(frozen=True)
class DutyStart:
    """A duty to start from, and what it is about. Its workloads are chosen when it is added; every value can be edited."""

    duty: Duty
    fits: str


def _start(name: str, source: str, fits: str, *asks: dict[str, Any]) -> DutyStart:
    key = "-".join(word for word in name.lower().replace(",", "").split() if word.isalnum())
    return DutyStart(
        Duty.model_validate({"id": key, "name": name, "source": source, "workloads": {}, "asks": list(asks)}), fits
    )


OFF_SITE = {"off_site": True}
DUTY_STARTS = (
    _start(
        "Nothing older than a day and a half",
        "",
        "A daily run with the time that it takes itself; one missed run already fails it.",
        {"rpo": "P1DT12H"},
    ),
    _start(
        "Three copies, two media, one off site",
        "",
        "The rule of thumb that most houses begin with, with copies that are fresh.",
        {"copies": 3, "media": 2, "off_site": 1, "fresh": "P8D"},
    ),
    # From memory.
    _start(
        "Health records, documentation for six years",
        "45 CFR 164.316(b)(2)",
        "Documentation is kept for six years from when it was made or was last in force.",
        {"history": "P6Y", "every": "year"},
    ),
    # From memory.
    _start(
        "Brokers' records, six years and unalterable",
        "17 CFR 240.17a-4",
        "Records are kept for six years in a form that nobody can rewrite or erase, the first two easily reached.",
        {"history": "P6Y", "every": "month", "counted": {"locked": "final"}},
        {"history": "P2Y", "every": "month", "counted": {"media": ["disk", "object"]}},
    ),
    # From memory.
    _start(
        "Card payments, audit logs for a year",
        "PCI DSS 4.0, 10.5.1",
        "Audit logs go back twelve months, of which three can be read at once.",
        {"history": "P1Y", "every": "week"},
        {"history": "P3M", "every": "day", "counted": {"media": ["disk", "object"]}},
    ),
    # From memory.
    _start(
        "Recovery of data, weekly, apart and tested",
        "CIS Controls v8, 11.2 to 11.5",
        "Backups at least every week, a copy that is isolated, a restore tested every quarter.",
        {"rpo": "P7DT12H"},
        {"copies": 2, "off_site": 1},
        {"rehearsed": "P3M"},
    ),
    # From memory.
    _start(
        "Financial firms, restored from a place apart",
        "Regulation (EU) 2022/2554 (DORA), article 12",
        "Backups are restored on systems that are physically and logically apart, and that is tested.",
        {"rpo": "P1DT12H", "counted": OFF_SITE},
        {"copies": 2, "off_site": 1},
        {"rehearsed": "P1Y"},
    ),
    # From memory.
    _start(
        "Personal data, gone in time",
        "Regulation (EU) 2016/679 (GDPR), article 5(1)(e)",
        "Personal data are kept no longer than their purpose needs: three years here; say how long yours does.",
        {"gone_after": "P3Y"},
    ),
)
