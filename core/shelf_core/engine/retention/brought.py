"""What is brought to a copy: by its own runs, or from another copy (docs/model.md, Copies of copies)."""

from collections.abc import Callable
from functools import cached_property

import numpy as np

from shelf_core.arrays import Mask
from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.routes import Take
from shelf_core.design.values import duration_of
from shelf_core.engine.retention.arrivals import Arrivals, ComesAs, following, from_runs, read_at_runs
from shelf_core.engine.retention.keys import Key, Window, followed_key, read_key, taken_key
from shelf_core.engine.retention.lifecycle import CopyLife
from shelf_core.engine.retention.resolved import CopyRuns, ResolvedCopy
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.runs import Runs


class Brought:
    """What is brought to a copy: a key of all that it depends on, and how it is found, once it is needed.

    `says_it_all` where another key always stands for other arrivals. What a source keeps longer may be read by nobody.
    """

    def __init__(self, key: Key, find: Callable[[], Arrivals], *, says_it_all: bool = False) -> None:
        self.key = key
        self.says_it_all = says_it_all
        self._find = find

    @cached_property
    def arrivals(self) -> Arrivals:
        """What is brought."""
        return self._find()


class Bringing:
    """Finds what is brought to the copies of a route, for workloads that run in the same `window`."""

    def __init__(self, frame: Frame, window: Window) -> None:
        self._frame = frame
        self._window = window

    def to(self, copy: ResolvedCopy, lives: dict[str, CopyLife]) -> Brought:
        """What is brought to a copy, from which others have been made before."""
        if copy.source is None:
            if copy.own is None:
                raise ValueError("expected a cadence, or a copy that this one is made from, got neither")
            return self._taken(copy.own)
        source = lives[copy.source]
        if copy.own is not None:
            return self.read(source, copy.own)
        return self._followed(source, copy.take, copy.delay, copy.comes_as)

    def _taken(self, own: CopyRuns) -> Brought:
        """What a copy takes itself."""
        cadence = own.cadence
        return Brought(taken_key(cadence, self._window), lambda: from_runs(self.runs(own), cadence), says_it_all=True)

    def read(self, source: CopyLife, own: CopyRuns, not_taken: Mask | None = None) -> Brought:
        """What a copy reads of another at its own runs, of which `not_taken` (none) could not take what they found."""
        cadence, runs = own.cadence, self.runs(own)
        missed = np.zeros(len(runs.instants), bool) if not_taken is None else not_taken.copy()
        return Brought(read_key(source, cadence, self._window, missed), lambda: read_at_runs(source, runs, cadence, missed))

    def _followed(self, source: CopyLife, take: Take | None, delay: str, comes_as: ComesAs) -> Brought:
        """What a copy that follows another receives."""
        return Brought(
            followed_key(source, take, delay, comes_as),
            lambda: following(source, take, duration_of(delay), self._frame, comes_as),
        )

    def runs(self, own: CopyRuns) -> Runs:
        """The runs in the time of the workloads."""
        begins, ends = self._window
        frame = self._frame
        first = frame.midnight(begins) if begins else frame.begin
        last = frame.zone.instant((day_number(ends) + 1) * DAY) if ends else frame.end
        return own.runs.within(first, max(first, last))
