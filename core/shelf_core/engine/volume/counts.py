"""Counts: how many things a target holds on each day, and on which days they come and go."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from shelf_core.arrays import Counts, Instants, Mask, begins_anew
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import LOG


class OnDays(NamedTuple):
    """How many things there are on which days of the design; one past the last day stands for never within it."""

    days: NDArray[np.int32]
    numbers: Counts


class Comings(NamedTuple):
    """On which days some things come, and go."""

    arrived: OnDays
    went: OnDays


class Counter:
    """Whole things on one target: how many at the end of each day, and whether there was anything on the day at all.

    What it takes grows with the number of things, not with that of holdings times days.
    """

    def __init__(self, frame: Frame) -> None:
        self._midnights = frame.midnights
        self._all: list[tuple[Comings, int]] = []

    def add(self, comings: Comings, how_many: int) -> None:
        """Things that come and go on days; each stands for so many."""
        self._all.append((comings, how_many))

    def days_of(self, written: Instants, removed: Instants) -> Comings:
        """The days of instants at which things come and go. What was there before the first day counts as come on it."""
        return Comings(self._days(written), self._days(removed))

    def at_end(self) -> Counts:
        """How many there are just before the midnight that ends each day."""
        return self.through_days()[0]

    def through_days(self) -> tuple[Counts, Mask]:
        """How many there are just before the midnight that ends each day, and whether there is anything at some time of it."""
        went = self._sum(1)
        at_end = np.cumsum(self._sum(0) - went)
        return at_end, (at_end + went) > 0

    def _days(self, instants: Instants) -> OnDays:
        days = np.sort(np.searchsorted(self._midnights[1:], instants, side="right").astype(np.int32))
        first = np.flatnonzero(begins_anew(days))
        return OnDays(days[first], np.diff(first, append=len(days)))

    def _sum(self, which: int) -> Counts:
        days = len(self._midnights) - 1
        on = np.concatenate([np.zeros(0, np.int32), *(comings[which].days for comings, _ in self._all)])
        numbers = np.concatenate([np.zeros(0), *(how_many * comings[which].numbers for comings, how_many in self._all)])
        # Sums of whole numbers are exact as far as these are below 2^53.
        return np.bincount(on, numbers, minlength=days + 1)[:days].astype(np.int64)


def count(holding: Holding, points: Counter, objects: Counter) -> None:
    """Count what a holding has: all objects, and those of them that are no logs."""
    how_many = sum(workload.count for workload in holding.workloads)
    all_days, of_points = holding.once("days", lambda: _days_of(holding.life, points))
    objects.add(all_days, how_many)
    points.add(of_points, how_many)


def _days_of(life: Lifecycle, counter: Counter) -> tuple[Comings, Comings]:
    """On which days points come and go: all, and those that are no logs."""
    countable = life.stored_as != LOG
    everything = counter.days_of(life.written, life.removed)
    if countable.all():
        return everything, everything
    return everything, counter.days_of(life.written[countable], life.removed[countable])
