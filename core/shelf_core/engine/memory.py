"""What was computed before, by the content it was computed from: an edit recomputes only what it touches."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, NamedTuple

import numpy as np

from shelf_core.calendar.zones import DAY, Seconds, day_number
from shelf_core.design.base import Part
from shelf_core.design.cadences import Cadence
from shelf_core.design.document import Opening
from shelf_core.design.routes import Take
from shelf_core.design.values import duration_of
from shelf_core.engine.arrivals import Arrivals, following, from_runs, read_at_runs, with_opening
from shelf_core.engine.frame import Frame
from shelf_core.engine.kinds import LOG
from shelf_core.engine.lifecycle import CopyLife
from shelf_core.engine.lives import Circumstances, CopyRules, lives_of
from shelf_core.engine.picks import Mask
from shelf_core.engine.runs import Runs, runs_of

Window = tuple[str | None, str | None]
"""The dates from which and until which a workload runs."""


class Memory:
    """Results by key, the least recently used forgotten first. Safe to share between threads.

    `most` is the number of results that are kept: a copy of ten years is some 200 kB, and has four of them.
    """

    def __init__(self, most: int = 4000) -> None:
        self._most = most
        self._kept: OrderedDict[Hashable, Any] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, compute: Callable[[], Any]) -> Any:
        """The result for a key, computed if it is not there. Two threads may compute the same; the results are equal."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        result = compute()
        with self._lock:
            self._kept[key] = result
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
        return result

    def runs(self, cadence: Cadence, frame: Frame) -> Runs:
        """The runs of a cadence."""
        result: Runs = self.get(("runs", frame, cadence.model_dump_json()), lambda: runs_of(cadence, frame))
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
        return Brought(("first", cadence.model_dump_json(), self._window), lambda: from_runs(self._runs(cadence), cadence))

    def read(self, source: CopyLife, cadence: Cadence, not_taken: Mask | None = None) -> Brought:
        """What a copy reads of another at its own runs, of which `not_taken` could not take what they found."""
        runs = self._runs(cadence)
        missed = np.zeros(len(runs.instants), bool) if not_taken is None else not_taken.copy()
        key = ("reading", source, cadence.model_dump_json(), self._window, missed.tobytes())
        return Brought(key, lambda: read_at_runs(source, runs, cadence, missed))

    def followed(self, source: CopyLife, take: Take | None, delay: str, *, off_snapshots: bool) -> Brought:
        """What a copy that follows another receives."""
        taking = take.model_dump_json() if isinstance(take, Part) else "all"
        return Brought(
            ("following", source, taking, delay, off_snapshots),
            lambda: following(source, take, duration_of(delay), self._frame, off_snapshots=off_snapshots),
        )

    def written(self, brought: Brought, stock: tuple[Opening, ...]) -> Seconds:
        """The instants at which a copy writes that takes all that is brought, ascending."""
        return np.unique(with_opening(brought.arrivals(), stock, self._frame).written)

    def life(self, brought: Brought, rules: CopyRules, stock: tuple[Opening, ...]) -> CopyLife:
        """The lives of what is brought to a copy."""
        opening = tuple(point.model_dump_json(exclude={"route", "copy_", "workload"}) for point in stock)
        key = (*brought.key, self._frame, _content(rules), self._about_content(), opening)
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

    def _about_content(self) -> Hashable:
        return (tuple(member.model_dump_json() for member in self._about.members), self._about.holds)

    def _runs(self, cadence: Cadence) -> Runs:
        begins, ends = self._window
        frame = self._frame
        first = frame.midnight(begins) if begins else frame.begin
        last = frame.zone.instant((day_number(ends) + 1) * DAY) if ends else frame.end
        return self._memory.runs(cadence, frame).within(first, max(first, last))


def _first_log_that_was_not_taken(came: Arrivals, life: CopyLife) -> int | None:
    logs = came.written[came.kind == LOG]
    lost = logs[~np.isin(logs, life.points.written)]
    return int(lost[0]) if len(lost) else None


def _content(rules: CopyRules) -> tuple[Hashable, ...]:
    return (
        rules.ladder.model_dump_json() if rules.ladder else None,
        rules.rotation.model_dump_json() if rules.rotation else None,
        tuple(lock.model_dump_json() for lock in rules.locks),
        rules.sweep,
        rules.ground,
        tuple((stage.step.model_dump_json(), *stage[1:]) for stage in rules.stages),
        None if rules.sessions is None else rules.sessions.tobytes(),
    )
