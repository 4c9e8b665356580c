"""The time that a design covers."""

from dataclasses import dataclass
from datetime import date
from functools import lru_cache

import numpy as np

from shelf_core.arrays import Instants
from shelf_core.calendar.arithmetic import add_to_local
from shelf_core.calendar.zones import DAY, Zone, day_number, day_text, zone
from shelf_core.design.document import Design

AFTER_ALL = int(np.iinfo(np.int64).max // 16)
"""An instant after all others: when what stays for good goes, and when what does not happen happens."""
BEFORE_ALL = -1
"""An instant before all others: when a claim ends that was never made, and a lock that there is not."""


@dataclass(frozen=True, eq=False)
class Frame:
    """Days and zone of a design.

    `midnights` has one instant more than there are days: day d lasts from `midnights[d]` to before `midnights[d + 1]`.
    """

    zone: Zone
    first_day: int
    midnights: Instants
    week_starts: str
    first_year: int
    last_year: int

    @property
    def days(self) -> int:
        """How many days the design covers."""
        return len(self.midnights) - 1

    @property
    def begin(self) -> int:
        """The first instant."""
        return int(self.midnights[0])

    @property
    def end(self) -> int:
        """The first instant after the last day."""
        return int(self.midnights[-1])

    def place_of(self, day: str) -> int:
        """The place of a date among the design's days. Raises ValueError for a date outside of them."""
        try:
            place = day_number(day) - self.first_day
        except ValueError:
            place = -1
        if not 0 <= place < self.days:
            first, last = day_text(self.first_day), day_text(self.first_day + self.days - 1)
            raise ValueError(f"expected a date from {first} to {last}, got {day}")
        return place

    def midnight(self, day: str) -> int:
        """The instant at which a date begins."""
        return self.zone.instant(day_number(day) * DAY)

    def zone_named(self, name: str) -> Zone:
        """Another zone over the same years."""
        return zone(name, self.first_year, self.last_year)


def frame_of(design: Design, days_beyond: int = 0) -> Frame:
    """The frame of a design; equal settings share one. With `days_beyond` as if the design ran on so long."""
    return _frame(design.timezone, design.starts, design.years, design.week_starts, days_beyond)


def frames_of(design: Design) -> tuple[Frame, Frame]:
    """The frame of a design, and the one that it is computed in, so that every release that a step-down asks for is foreseen.

    That reaches twice the longest minimum stay further: claims within it may hang on moves that are decided within it.
    """
    minimum = {target.id: target.minimum_days for target in design.targets}
    steps = [step for route in design.routes for copy in route.copies for step in copy.step_downs if step.skip_if_short]
    beyond = 2 * max((minimum[step.target] for step in steps), default=0)
    return frame_of(design), frame_of(design, beyond)


@lru_cache(maxsize=64)
def _frame(timezone: str, starts: str, years: int, week_starts: str, days_beyond: int) -> Frame:
    start = date.fromisoformat(starts)
    first_day = day_number(start)
    last_year = start.year + years + days_beyond // 365 + 1
    end_day = int(add_to_local(np.array([first_day * DAY]), 12 * years, days_beyond)[0]) // DAY
    around = zone(timezone, start.year - 1, last_year + 1)
    midnights = around.instants(np.arange(first_day, end_day + 1, dtype=np.int64) * DAY)
    return Frame(around, first_day, midnights, week_starts, start.year - 1, last_year + 1)
