"""Between instants and local wall-clock times of a zone, on arrays.

Instants are seconds since 1970-01-01T00:00Z; local seconds count the same way as if the wall clock showed UTC. Both are
int64 arrays.
"""

from bisect import bisect_right
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from functools import lru_cache
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np

from shelf_core.arrays import Instants, Lengths, LocalSeconds

DAY = 86_400
EPOCH = date(1970, 1, 1)
_PROBE_SECONDS = 5 * DAY
"""Offsets are compared this often to find the changes: no zone has two changes closer together and back to where it was."""


@dataclass(frozen=True, eq=False)
class Zone:
    """The offsets of a zone over a range of years.

    `changes` are the instants of the offset changes, `offsets` the seconds east of UTC before, between and after them
    (one more), `local_changes` the local time from which a wall clock reading is read with the offset after the change.
    """

    changes: Instants
    offsets: Lengths
    local_changes: LocalSeconds

    def local(self, instants: Instants) -> LocalSeconds:
        """Local seconds at the instants."""
        return instants + self.offsets[np.searchsorted(self.changes, instants, side="right")]

    def instants(self, local: LocalSeconds) -> Instants:
        """Instants of local times.

        A skipped time is read with the offset before the change, one that occurs twice means the first (RFC 5545,
        section 3.3.5).
        """
        return local - self.offsets[np.searchsorted(self.local_changes, local, side="right")]

    def instant(self, local: int) -> int:
        """The instant of one local time."""
        return local - int(self.offsets[bisect_right(self.local_changes.tolist(), local)])


@lru_cache(maxsize=64)
def zone(name: str, first_year: int, last_year: int) -> Zone:
    """The zone `name` for all instants from the start of `first_year` to the end of `last_year`."""
    info = ZoneInfo(name)
    begin, end = _utc_second(first_year), _utc_second(last_year + 1)
    changes: list[int] = []
    offsets = [_offset(info, begin)]
    for probe in range(begin + _PROBE_SECONDS, end + _PROBE_SECONDS, _PROBE_SECONDS):
        offset = _offset(info, probe)
        if offset != offsets[-1]:
            changes.append(_change_between(info, probe - _PROBE_SECONDS, probe))
            offsets.append(offset)
    at, east = np.array(changes, np.int64), np.array(offsets, np.int64)
    # From the later of the two readings at a change on, only the offset after it applies: a skipped reading lies
    # between them, and so does the second occurrence of a reading that comes twice.
    return Zone(at, east, at + np.maximum(east[:-1], east[1:]))


def day_number(day: date | str) -> int:
    """Days from 1970-01-01 to a date."""
    found = date.fromisoformat(day) if isinstance(day, str) else day
    return (found - EPOCH).days


def day_text(number: int) -> str:
    """The ISO date of a day number."""
    return (EPOCH + timedelta(days=int(number))).isoformat()


def clock_seconds(text: str) -> int:
    """The seconds of a time of day such as 22:00 since local midnight.

    >>> clock_seconds("22:30")
    81000
    """
    return int(text[:2]) * 3600 + int(text[3:]) * 60


def local_second(text: str) -> int:
    """Local seconds of a local time such as 2027-01-31T22:00."""
    return int((datetime.fromisoformat(text).replace(tzinfo=UTC) - datetime(1970, 1, 1, tzinfo=UTC)).total_seconds())


def local_text(seconds: int) -> str:
    """A local time such as 2027-01-31T22:00, with seconds only where there are any."""
    found = datetime(1970, 1, 1) + timedelta(seconds=int(seconds))  # noqa: DTZ001 - a wall clock reading has no zone
    return found.isoformat(timespec="seconds" if found.second else "minutes")


def _utc_second(year: int) -> int:
    return int(datetime(year, 1, 1, tzinfo=UTC).timestamp())


def _offset(info: ZoneInfo, second: int) -> int:
    offset: Any = datetime.fromtimestamp(second, info).utcoffset()
    return int(offset.total_seconds())


def _change_between(info: ZoneInfo, low: int, high: int) -> int:
    before = _offset(info, low)
    while high - low > 1:
        middle = (low + high) // 2
        if _offset(info, middle) == before:
            low = middle
        else:
            high = middle
    return high
