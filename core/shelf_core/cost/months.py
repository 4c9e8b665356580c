"""The calendar months of a design, between instants."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from shelf_core.arrays import Bytes, Instants, Lengths, Places
from shelf_core.calendar.arithmetic import add_to_local
from shelf_core.calendar.zones import DAY, day_text
from shelf_core.engine.schedule.frame import Frame

LONGEST_STAY_MONTHS = 130
"""Minimum stays reach past the end of a design, by 3,660 days at most."""


@dataclass(frozen=True, eq=False)
class Months:
    """`names` such as 2027-01 of each month that the design touches; the instants at which these and some later ones begin.

    `edges` are those of the design's own months, cut off at its first and last instant: one more than there are months.
    """

    names: list[str]
    begins: Instants
    edges: Instants

    @property
    def seconds(self) -> Lengths:
        """How long each of the design's months lasts, whole, also where the design covers a part of it."""
        return np.diff(self.begins)[: len(self.names)]

    @property
    def days(self) -> Lengths:
        """How many days each of the design's months has, whole, also where the design covers a part of it."""
        months = np.array(self.names, "datetime64[M]")
        return ((months + 1).astype("datetime64[D]") - months.astype("datetime64[D]")).astype(np.int64)

    def of(self, instants: Instants) -> Places:
        """The place of the month that each instant lies in."""
        return np.searchsorted(self.begins, instants, side="right") - 1

    def since_start(self, instants: Instants) -> Bytes:
        """Months from the beginning of the first one to each instant, parts of a month as its share."""
        return np.interp(instants, self.begins, np.arange(len(self.begins)))


@lru_cache(maxsize=64)
def months_of(frame: Frame) -> Months:
    """The months of a design."""
    first_local = frame.first_day * DAY
    day = np.array([first_local // DAY]).astype("datetime64[D]").astype("datetime64[M]").astype("datetime64[D]")
    first = day.astype(np.int64) * DAY
    last_day = frame.first_day + frame.days - 1
    count = _month_number(last_day) - _month_number(frame.first_day) + 1
    local = np.concatenate([add_to_local(first, ahead, 0) for ahead in range(count + LONGEST_STAY_MONTHS)])
    begins = frame.zone.instants(local)
    edges = begins[: count + 1].copy()
    edges[0], edges[-1] = frame.begin, frame.end
    names = [day_text(int(second) // DAY)[:7] for second in local[:count]]
    return Months(names, begins, edges)


def _month_number(day: int) -> int:
    return int(np.int64(day).astype("datetime64[D]").astype("datetime64[M]").astype(np.int64))
