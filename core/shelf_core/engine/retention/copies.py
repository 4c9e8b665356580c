"""Copies made once for all workloads that share them: an edit recomputes only what it touches."""

from collections.abc import Callable, Hashable, Iterator
from functools import cached_property, partial
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants, Mask
from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.cadences import Cadence
from shelf_core.design.document import Opening
from shelf_core.design.routes import Copy, Route, Take, TakeRungs
from shelf_core.design.values import duration_of
from shelf_core.engine.memory import Memory
from shelf_core.engine.retention.arrivals import Arrivals, ComesAs, following, from_runs, read_at_runs, with_opening
from shelf_core.engine.retention.groups import DesignParts, Group
from shelf_core.engine.retention.keys import (
    Window,
    arrived_key,
    followed_key,
    life_key,
    read_key,
    rules_key,
    runs_key,
    taken_key,
    written_key,
)
from shelf_core.engine.retention.lifecycle import CopyLife
from shelf_core.engine.retention.lives import Circumstances, CopyRules, lives_of
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.engine.schedule.runs import Runs, runs_of


def runs_kept(memory: Memory, cadence: Cadence, frame: Frame) -> Runs:
    """The runs of a cadence."""
    return memory.get(runs_key(cadence, frame), lambda: runs_of(cadence, frame))


class Brought:
    """What is brought to a copy: a key of all that it depends on, and how it is found, once it is needed.

    `says_it_all` where another key always stands for other arrivals. What a source keeps longer may be read by nobody.
    """

    def __init__(self, key: tuple[Hashable, ...], find: Callable[[], Arrivals], *, says_it_all: bool = False) -> None:
        self.key = key
        self.says_it_all = says_it_all
        self._find = find

    @cached_property
    def arrivals(self) -> Arrivals:
        """What is brought."""
        return self._find()


class Ruled(NamedTuple):
    """The rules of a copy, and what stands for all of them in keys."""

    rules: CopyRules
    key: tuple[Hashable, ...]


class CopyMaker:
    """Makes the lives of copies for workloads that share rules, dates, holds, parts and opening stock."""

    def __init__(self, memory: Memory, frame: Frame, window: Window, circumstances: Circumstances) -> None:
        self._memory = memory
        self._frame = frame
        self._window = window
        self._circumstances = circumstances

    def taken(self, cadence: Cadence) -> Brought:
        """What a copy takes itself."""
        return Brought(taken_key(cadence, self._window), lambda: from_runs(self._runs(cadence), cadence), says_it_all=True)

    def read(self, source: CopyLife, cadence: Cadence, not_taken: Mask | None = None) -> Brought:
        """What a copy reads of another at its own runs, of which `not_taken` (none) could not take what they found."""
        runs = self._runs(cadence)
        missed = np.zeros(len(runs.instants), bool) if not_taken is None else not_taken.copy()
        return Brought(read_key(source, cadence, self._window, missed), lambda: read_at_runs(source, runs, cadence, missed))

    def followed(self, source: CopyLife, take: Take | None, delay: str, comes_as: ComesAs) -> Brought:
        """What a copy that follows another receives."""
        return Brought(
            followed_key(source, take, delay, comes_as),
            lambda: following(source, take, duration_of(delay), self._frame, comes_as),
        )

    def written(self, brought: Brought, stock: tuple[Opening, ...]) -> Instants:
        """The instants at which a copy writes that takes all that is brought, ascending."""

        def instants() -> Instants:
            return np.unique(with_opening(brought.arrivals, stock, self._frame).written)

        return self._memory.get(written_key(brought.key, self._frame, stock), instants)

    def life(self, brought: Brought, ruled: Ruled, stock: tuple[Opening, ...]) -> CopyLife:
        """The lives of what is brought to a copy: those that are known already where an edit brings the same as before."""

        def lives() -> CopyLife:
            arrivals = with_opening(brought.arrivals, stock, self._frame)
            made = partial(lives_of, arrivals, ruled.rules, self._circumstances, self._frame)
            if brought.says_it_all:
                return made()
            return self._memory.get(life_key(arrived_key(arrivals), self._frame, ruled.key, self._circumstances, stock), made)

        return self._memory.get(life_key(brought.key, self._frame, ruled.key, self._circumstances, stock), lives)

    def reading_life(
        self, source: CopyLife, cadence: Cadence, brought: Brought, ruled: Ruled, stock: tuple[Opening, ...]
    ) -> CopyLife:
        """The lives on a copy that reads another at its own runs; a log that finds no parent has not had what it read.

        `brought` is what it reads if it takes all that it finds.
        """
        runs = self._runs(cadence)
        not_taken = np.zeros(len(runs.instants), bool)
        takes_logs = bool(np.any(runs.kind == LOG))
        while True:
            life = self.life(brought, ruled, stock)
            lost = _first_log_that_was_not_taken(brought.arrivals, life) if takes_logs else None
            if lost is None:
                return life
            not_taken[np.searchsorted(runs.instants, lost)] = True
            brought = self.read(source, cadence, not_taken)

    def _runs(self, cadence: Cadence) -> Runs:
        begins, ends = self._window
        frame = self._frame
        first = frame.midnight(begins) if begins else frame.begin
        last = frame.zone.instant((day_number(ends) + 1) * DAY) if ends else frame.end
        return runs_kept(self._memory, cadence, frame).within(first, max(first, last))


def _first_log_that_was_not_taken(arrivals: Arrivals, life: CopyLife) -> int | None:
    logs = arrivals.written[arrivals.kind == LOG]
    lost = logs[~np.isin(logs, life.points.written)]
    return int(lost[0]) if len(lost) else None


class GroupInMaking(NamedTuple):
    """A group of workloads while the copies of its route are made, and what has been made of them."""

    group: Group
    maker: CopyMaker
    lives: dict[str, CopyLife]


def in_making(group: Group, frame: Frame, memory: Memory) -> GroupInMaking:
    """A group of which no copy has been made yet."""
    return GroupInMaking(group, CopyMaker(memory, frame, group.window, group.circumstances), {})


def lives_on(copy: Copy, route: Route, groups: list[GroupInMaking], parts: DesignParts) -> Iterator[CopyLife]:
    """The points of a copy, group by group. Under a rotation all groups share the copy's sessions."""
    rules = parts.rules(copy)._replace(taken_rungs=_taken_rungs(copy, route))
    stocks = [one.group.stock.get(copy.id, ()) for one in groups]
    brought = [_brought(copy, route, one, parts) for one in groups]
    if copy.rotation is not None:
        written = [one.maker.written(come, stock) for one, come, stock in zip(groups, brought, stocks, strict=True)]
        rules = rules._replace(sessions=np.unique(np.concatenate([np.zeros(0, np.int64), *written])))
    ruled = Ruled(rules, rules_key(rules))
    for one, come, stock in zip(groups, brought, stocks, strict=True):
        if copy.from_ is not None and copy.cadence is not None:
            yield one.maker.reading_life(one.lives[copy.from_], parts.cadences[copy.cadence], come, ruled, stock)
        else:
            yield one.maker.life(come, ruled, stock)


def _taken_rungs(copy: Copy, route: Route) -> frozenset[str]:
    takes = (other.take for other in route.copies if other.from_ == copy.id)
    return frozenset(name for take in takes if isinstance(take, TakeRungs) for name in take.rungs)


def _brought(copy: Copy, route: Route, one: GroupInMaking, parts: DesignParts) -> Brought:
    if copy.from_ is None:
        return one.maker.taken(parts.cadences[copy.cadence or ""])
    source = one.lives[copy.from_]
    if copy.cadence is not None:
        return one.maker.read(source, parts.cadences[copy.cadence])
    source_copy = next(other for other in route.copies if other.id == copy.from_)
    return one.maker.followed(source, copy.take, copy.delay or "PT0S", _comes_as(copy, source_copy, parts))


def _comes_as(copy: Copy, source: Copy, parts: DesignParts) -> ComesAs:
    if parts.targets[copy.target].media == "snapshot":
        return "snapshot"
    return "change" if parts.targets[source.target].media == "snapshot" else "taken"
