"""Picks: which point a rung has in each period, and since when that is settled (docs/model.md, Claims).

All arrays have one element per point, in the order in which the points were taken.
"""

from bisect import insort
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.periods import on_or_after, period_ends, period_numbers
from shelf_core.calendar.zones import Seconds
from shelf_core.design.ladders import Rung
from shelf_core.engine.frame import FAR, NEVER, Frame

Mask = NDArray[np.bool_]
Places = NDArray[np.int64]


class Picks(NamedTuple):
    """A rung's picks.

    `until` is when each point stops being the pick of its period (NEVER if it never was one), `decided` the instant at which
    the period's pick is known: with `first` when it is written, with `last` when the period is over.
    """

    until: Seconds
    decided: Seconds

    def known_at(self, written: Seconds) -> Seconds:
        """The instant at which each point is known to be the pick, NEVER where it is not or came too late for that."""
        return np.where((written <= self.decided) & (self.decided < self.until), self.decided, NEVER)


class Periods(NamedTuple):
    """The candidates of a rung: their places, the number of each one's period (0, 1, …) and where each period begins."""

    chosen: Places
    group: Places
    begins: Places


def periods_of(rung: Rung, taken: Seconds, eligible: Mask, frame: Frame) -> Periods:
    """The candidates among the eligible points, period by period."""
    local = frame.zone.local(taken)
    if rung.on is not None:
        eligible = eligible & on_or_after(local, rung.every, rung.on, frame.week_starts)
    chosen = np.flatnonzero(eligible)
    number = period_numbers(local[chosen], rung.every, frame.week_starts)
    is_first = np.r_[True, number[1:] != number[:-1]] if len(chosen) else np.zeros(0, bool)
    return Periods(chosen, np.cumsum(is_first) - 1, np.flatnonzero(is_first))


def picks_of(rung: Rung, periods: Periods, taken: Seconds, written: Seconds, frame: Frame) -> Picks:
    """The picks of a rung: of the candidates written so far the first or the last by `taken`.

    A pick moves on when a newer candidate is written (with `first`: an older one, which comes late).
    """
    until, decided = np.full(len(taken), NEVER, np.int64), np.full(len(taken), FAR, np.int64)
    chosen = periods.chosen
    came = written[chosen]
    if rung.pick == "first":
        until[chosen] = _earlier_than(came, _least_before(came, periods.group))
        decided[chosen] = came
    else:
        until[chosen] = _earlier_than(came, _least_before(came[::-1], -periods.group[::-1])[::-1])
        local = frame.zone.local(taken[chosen])
        decided[chosen] = frame.zone.instants(period_ends(local, rung.every, frame.week_starts))
    return Picks(until, decided)


def newest_periods_end(how_many: int, periods: Periods, written: Seconds) -> Seconds:
    """Until when each candidate's period is among the newest so many that have a candidate."""
    if how_many == 0 or len(periods.chosen) == 0:
        return np.full(len(periods.chosen), NEVER, np.int64)
    began = np.minimum.reduceat(written[periods.chosen], periods.begins)
    return nth_later(began, how_many)[periods.group]


def nth_later(written: Seconds, how_many: int) -> Seconds:
    """The instant at which so many newer ones have been written, FAR where that never comes."""
    count = len(written)
    if np.all(written[1:] >= written[:-1]):
        return np.r_[written[how_many:], np.full(min(how_many, count), FAR)]
    ends = np.full(count, FAR, np.int64)
    later: list[int] = []
    for place in range(count - 1, -1, -1):
        if len(later) >= how_many:
            ends[place] = later[how_many - 1]
        insort(later, int(written[place]))
    return ends


def _least_before(came: Seconds, group: Places) -> Seconds:
    """The least of those before each in its group (whose numbers rise), FAR for the first of a group."""
    if len(came) == 0:
        return came
    apart = int(came.max()) - int(came.min()) + 1
    least = np.minimum.accumulate(came - group * apart) + group * apart
    is_first = np.r_[True, group[1:] != group[:-1]]
    return np.where(is_first, FAR, np.r_[FAR, least[:-1]])


def _earlier_than(came: Seconds, until: Seconds) -> Seconds:
    """Ends of picks; what was no pick when it came never was one."""
    return np.where(until > came, until, NEVER)
