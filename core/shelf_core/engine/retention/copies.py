"""Copies made once for all workloads that share them: an edit recomputes only what it touches."""

from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants
from shelf_core.engine.memory import Memory
from shelf_core.engine.retention.arrivals import NO_STOCK, Arrivals, Stock, with_opening
from shelf_core.engine.retention.brought import Bringing, Brought
from shelf_core.engine.retention.keys import Ruled, Window, arrived_key, life_key, written_key
from shelf_core.engine.retention.lifecycle import CopyLife
from shelf_core.engine.retention.lives import Circumstances, lives_of
from shelf_core.engine.retention.resolved import CopyRuns, Group, ResolvedCopy
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import LOG


class CopyMaker:
    """Makes the lives of copies for workloads that share rules, dates, holds, parts and opening stock."""

    def __init__(self, memory: Memory, frame: Frame, window: Window, circumstances: Circumstances) -> None:
        self._memory = memory
        self._frame = frame
        self._circumstances = circumstances
        self.bringing = Bringing(frame, window)

    def written(self, brought: Brought, stock: Stock) -> Instants:
        """The instants at which a copy writes that takes all that is brought, ascending."""

        def instants() -> Instants:
            return np.unique(with_opening(brought.arrivals, stock).written)

        return self._memory.get(written_key(brought.key, self._frame, stock), instants)

    def life(self, brought: Brought, ruled: Ruled, stock: Stock) -> CopyLife:
        """The lives of what is brought to a copy: those that are known already where an edit brings the same as before."""

        def lives() -> CopyLife:
            arrivals = with_opening(brought.arrivals, stock)
            made = partial(lives_of, arrivals, ruled.rules, self._circumstances, self._frame)
            if brought.says_it_all:
                return made()
            return self._memory.get(life_key(arrived_key(arrivals), self._frame, ruled.key, self._circumstances, stock), made)

        return self._memory.get(life_key(brought.key, self._frame, ruled.key, self._circumstances, stock), lives)

    def reading_life(self, source: CopyLife, own: CopyRuns, brought: Brought, ruled: Ruled, stock: Stock) -> CopyLife:
        """The lives on a copy that reads another at its own runs; a log that finds no parent has not had what it read.

        `brought` is what it reads if it takes all that it finds.
        """
        runs = self.bringing.runs(own)
        not_taken = np.zeros(len(runs.instants), bool)
        takes_logs = bool(np.any(runs.kind == LOG))
        while True:
            life = self.life(brought, ruled, stock)
            lost = _first_log_that_was_not_taken(brought.arrivals, life) if takes_logs else None
            if lost is None:
                return life
            not_taken[np.searchsorted(runs.instants, lost)] = True
            brought = self.bringing.read(source, own, not_taken)


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


def lives_on(copy: ResolvedCopy, groups: list[GroupInMaking]) -> Iterator[CopyLife]:
    """The points of a copy, group by group. Under a rotation all groups share the copy's sessions."""
    stocks = [one.group.stock.get(copy.id, NO_STOCK) for one in groups]
    brought = [one.maker.bringing.to(copy, one.lives) for one in groups]
    ruled = copy.ruled
    if ruled.rules.rotation is not None:
        written = [one.maker.written(come, stock) for one, come, stock in zip(groups, brought, stocks, strict=True)]
        ruled = ruled.with_sessions(np.unique(np.concatenate([np.zeros(0, np.int64), *written])))
    for one, come, stock in zip(groups, brought, stocks, strict=True):
        if copy.source is not None and copy.own is not None:
            yield one.maker.reading_life(one.lives[copy.source], copy.own, come, ruled, stock)
        else:
            yield one.maker.life(come, ruled, stock)
