"""What each transfer waits for, and which are asked for once it has ended."""

from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Counts, Places
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.nights.transfers import NONE, READ, Lane

Pairs = list[tuple[Places, Places]]
"""Numbers of transfers, and for each the number of one that it names, NONE for none."""


class Named:
    """For each transfer those that name it."""

    def __init__(self, count: int, pairs: Pairs) -> None:
        who = np.concatenate([np.zeros(0, np.int64), *(mine for mine, _ in pairs)])
        whom = np.concatenate([np.zeros(0, np.int64), *(named for _, named in pairs)])
        some = whom != NONE
        # Named twice, as a parent that is also the one before, counts once.
        named, naming = np.divmod(np.unique(whom[some] * count + who[some]), max(count, 1))
        self._who: list[int] = naming.tolist()
        self._from: list[int] = np.searchsorted(named, np.arange(count + 1)).tolist()
        self.how_many: Counts = np.bincount(naming, minlength=count)

    def of(self, number: int) -> list[int]:
        """Those that name a transfer."""
        return self._who[self._from[number] : self._from[number + 1]]


class Waiting(NamedTuple):
    """`unlocks` are those that wait for a transfer, `brings` those that follow it and are asked for when it has ended.

    `follows` is the number of what each follows, `reads` of what it reads at its own run; NONE for nothing.
    """

    unlocks: Named
    brings: Named
    follows: Places
    reads: Places


def waiting_of(lanes: list[Lane], count: int) -> Waiting:
    """What the transfers of lanes wait for: their source, their parent, and the one before of the same copy and machine."""
    waits: Pairs = []
    brings: Pairs = []
    follows, reads = np.full(count, NONE, np.int64), np.full(count, NONE, np.int64)
    for lane in lanes:
        before, parent = _within(lane)
        for machine in range(lane.machines):
            base = lane.first + machine * lane.points
            mine = np.arange(base, base + lane.points)
            source = np.where(lane.source == NONE, NONE, lane.source + machine * lane.source_step)
            waits += [(mine, np.where(one == NONE, NONE, base + one)) for one in (before, parent)]
            (waits if lane.how == READ else brings).append((mine, source))
            (reads if lane.how == READ else follows)[mine] = source
    return Waiting(Named(count, waits), Named(count, brings), follows, reads)


def _within(lane: Lane) -> tuple[Places, Places]:
    """The places in its lane of the transfer before each, and of its parent: a log waits for the log before it alone."""
    is_log = lane.kind == LOG
    first_of_chain = is_log & (lane.parent != NONE) & (lane.kind[lane.parent] != LOG)
    before = np.where(first_of_chain, NONE, lane.before)
    return before, np.where(is_log & ~first_of_chain, NONE, lane.parent)
