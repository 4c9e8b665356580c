"""Copies made once for all workloads that share them: an edit recomputes only what it touches."""

from collections.abc import Callable, Hashable
from typing import NamedTuple

import numpy as np

from shelf_core.calendar.zones import DAY, Seconds, day_number
from shelf_core.design.cadences import Cadence
from shelf_core.design.document import Opening
from shelf_core.design.routes import Take
from shelf_core.design.values import duration_of
from shelf_core.engine.arrivals import Arrivals, following, from_runs, read_at_runs, with_opening
from shelf_core.engine.frame import Frame
from shelf_core.engine.keys import Window, followed_key, life_key, read_key, runs_key, taken_key
from shelf_core.engine.kinds import LOG
from shelf_core.engine.lifecycle import CopyLife
from shelf_core.engine.lives import Circumstances, CopyRules, lives_of
from shelf_core.engine.memory import Memory
from shelf_core.engine.picks import Mask
from shelf_core.engine.runs import Runs, runs_of


def runs_kept(memory: Memory, cadence: Cadence, frame: Frame) -> Runs:
    """The runs of a cadence."""
    result: Runs = memory.get(runs_key(cadence, frame), lambda: runs_of(cadence, frame))
    return result


class Brought(NamedTuple):
    """What is brought to a copy: a key of all that it depends on, and how it is found."""

    key: tuple[Hashable, ...]
    arrivals: Callable[[], Arrivals]


class CopyMaker:
    """Makes the lives of copies for workloads that share rules, dates, holds, parts and opening stock."""

    def __init__(self, memory: Memory, frame: Frame, window: Window, about: Circumstances) -> None:
        self._memory = memory
        self._frame = frame
        self._window = window
        self._about = about

    def taken(self, cadence: Cadence) -> Brought:
        """What a copy takes itself."""
        return Brought(taken_key(cadence, self._window), lambda: from_runs(self._runs(cadence), cadence))

    def read(self, source: CopyLife, cadence: Cadence, not_taken: Mask | None = None) -> Brought:
        """What a copy reads of another at its own runs, of which `not_taken` could not take what they found."""
        runs = self._runs(cadence)
        missed = np.zeros(len(runs.instants), bool) if not_taken is None else not_taken.copy()
        return Brought(read_key(source, cadence, self._window, missed), lambda: read_at_runs(source, runs, cadence, missed))

    def followed(self, source: CopyLife, take: Take | None, delay: str, *, off_snapshots: bool) -> Brought:
        """What a copy that follows another receives."""
        return Brought(
            followed_key(source, take, delay, off_snapshots=off_snapshots),
            lambda: following(source, take, duration_of(delay), self._frame, off_snapshots=off_snapshots),
        )

    def written(self, brought: Brought, stock: tuple[Opening, ...]) -> Seconds:
        """The instants at which a copy writes that takes all that is brought, ascending."""
        return np.unique(with_opening(brought.arrivals(), stock, self._frame).written)

    def life(self, brought: Brought, rules: CopyRules, stock: tuple[Opening, ...]) -> CopyLife:
        """The lives of what is brought to a copy."""
        key = life_key(brought.key, self._frame, rules, self._about, stock)
        result: CopyLife = self._memory.get(
            key, lambda: lives_of(with_opening(brought.arrivals(), stock, self._frame), rules, self._about, self._frame)
        )
        return result

    def reading_life(self, source: CopyLife, cadence: Cadence, rules: CopyRules, stock: tuple[Opening, ...]) -> CopyLife:
        """The lives on a copy that reads another at its own runs; a log that finds no parent has not had what it read."""
        instants = self._runs(cadence).instants
        not_taken = np.zeros(len(instants), bool)
        while True:
            brought = self.read(source, cadence, not_taken)
            life = self.life(brought, rules, stock)
            lost = _first_log_that_was_not_taken(brought.arrivals(), life)
            if lost is None:
                return life
            not_taken[np.searchsorted(instants, lost)] = True

    def _runs(self, cadence: Cadence) -> Runs:
        begins, ends = self._window
        frame = self._frame
        first = frame.midnight(begins) if begins else frame.begin
        last = frame.zone.instant((day_number(ends) + 1) * DAY) if ends else frame.end
        return runs_kept(self._memory, cadence, frame).within(first, max(first, last))


def _first_log_that_was_not_taken(came: Arrivals, life: CopyLife) -> int | None:
    logs = came.written[came.kind == LOG]
    lost = logs[~np.isin(logs, life.points.written)]
    return int(lost[0]) if len(lost) else None
