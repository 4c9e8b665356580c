"""The ledger of a target: what is added and taken away at each instant, and from it the sums of each day.

Within an instant writes come first, then step-downs, then sweeps, then reclaims. A tick counts these phases: four to a
second, so that sorting by tick is sorting by instant and phase.
"""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Instants, Places, Ticks, begins_anew, sums_before
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.frame import AFTER_ALL, Frame

PHASES = 4
WRITE, STEP_DOWN, SWEEP, RECLAIM = range(PHASES)


def ticks(instants: Instants, phase: int) -> Ticks:
    """The ticks of a phase at the instants."""
    return instants * PHASES + phase


def arrival_ticks(life: Lifecycle) -> Ticks:
    """The ticks at which points come: by writes, or by step-downs."""
    return ticks(life.written, STEP_DOWN if life.moved_in else WRITE)


def departure_ticks(life: Lifecycle) -> Ticks:
    """The ticks at which points go: at sweeps, or at the write that takes the place of a rotation's tape."""
    swept = ticks(life.removed, SWEEP)
    return swept if life.written_over is None else np.where(life.written_over, ticks(life.removed, WRITE), swept)


class Days(NamedTuple):
    """Sums of each day: just before the midnight that ends it, and the largest one of the day."""

    at_end: Bytes
    peak: Bytes


class Ledger:
    """Entries of one quantity on one target."""

    def __init__(self) -> None:
        self._ticks: list[Ticks] = []
        self._amounts: list[Bytes] = []

    def add(self, at: Ticks, amounts: Bytes) -> None:
        """Entries at ticks; those past the design's end may be left in."""
        self._ticks.append(at)
        self._amounts.append(amounts)

    def add_between(self, begin: Ticks, end: Ticks, amounts: Bytes) -> None:
        """Amounts that are there from a tick to another."""
        self.add(begin, amounts)
        self.add(end, -amounts)

    def days(self, frame: Frame, reclaims: Instants | None = None) -> Days:
        """The sums of each day.

        The peak is taken after the writes and step-downs of an instant and before its removals, and is not less than
        what the day begins or ends with. With `reclaims`, what the sum falls by at a sweep is counted on until the next of
        them.
        """
        at, sums = self._sums(frame, reclaims)
        began = np.searchsorted(at, ticks(frame.midnights, WRITE))
        midnights = sums[began]
        peak = np.maximum(midnights[:-1], midnights[1:])
        last_come = _last_to_come(at)
        # Each day's stretch of them; what opening stock brought came before the first.
        edges = np.searchsorted(last_come, began)
        with_any = np.flatnonzero(edges[1:] > edges[:-1])
        if len(with_any):
            full = sums[last_come[: edges[-1]] + 1]
            peak[with_any] = np.maximum(peak[with_any], np.maximum.reduceat(full, edges[with_any]))
        return Days(midnights[1:], peak)

    def peak_ticks(self, frame: Frame, reclaims: Instants | None = None) -> Ticks:
        """For each day a tick just before which the sum is at the day's peak."""
        at, sums = self._sums(frame, reclaims)
        come = at[_last_to_come(at)] // PHASES
        asked = np.r_[ticks(frame.midnights[:-1], WRITE), ticks(come[come >= frame.begin], SWEEP)]
        return highest_of_days(asked, lambda ticks_asked: sums[np.searchsorted(at, ticks_asked)], frame)

    def reclaim_shifts(self, frame: Frame, reclaims: Instants) -> tuple[Instants, Instants]:
        """The ticks of the sweeps at which the sum falls, ascending, and the ticks at which this space is given back."""
        at, sums = self._sorted_sums(frame)
        falling, later, _ = _falls(at, sums, reclaims)
        return falling, later

    def integral(self, edges: Instants, frame: Frame, reclaims: Instants | None = None) -> Bytes:
        """The sum times seconds between each two of the ascending instants, as `days` counts it."""
        at, sums = self._sums(frame, reclaims)
        instants = at // PHASES
        since_first = np.r_[0.0, 0.0, np.cumsum(sums[1:-1] * np.diff(instants))][: len(sums)]
        which = np.searchsorted(instants, edges)
        until = since_first[which] + sums[which] * (edges - np.r_[edges[0], instants][which])
        return np.diff(until)

    def sums_at(self, asked: Ticks, frame: Frame) -> Bytes:
        """The sum just before each of the asked ticks."""
        at, sums = self._sorted_sums(frame)
        return sums[np.searchsorted(at, asked)]

    def _sums(self, frame: Frame, reclaims: Instants | None) -> tuple[Instants, Bytes]:
        at, sums = self._sorted_sums(frame)
        return (at, sums) if reclaims is None else _reclaimed_later(at, sums, reclaims)

    def _sorted_sums(self, frame: Frame) -> tuple[Instants, Bytes]:
        """The ticks of all entries in order, and the sum before each of them, and after the last."""
        at, amounts = self.entries(frame)
        return at, sums_before(amounts)

    def entries(self, frame: Frame) -> tuple[Ticks, Bytes]:
        """All entries in order, up to the end of the design."""
        at = np.concatenate([np.zeros(0, np.int64), *self._ticks])
        amounts = np.concatenate([np.zeros(0), *self._amounts])
        within = at < ticks(frame.midnights[-1:], WRITE)
        if not within.all():
            at, amounts = at[within], amounts[within]
        # The entries come as a few ascending stretches, which a merging sort puts together quickly.
        order = np.argsort(at, kind="stable")
        return at[order], amounts[order]


def _reclaimed_later(at: Ticks, sums: Bytes, reclaims: Instants) -> tuple[Instants, Bytes]:
    """The same sums where the space of a sweep comes back only at the first reclaim from that instant on."""
    falling, later, (ticks_once, change) = _falls(at, sums, reclaims)
    falls = np.isin(ticks_once, falling)
    moved_at = np.r_[ticks_once[~falls], later]
    moved = np.r_[change[~falls], change[falls]]
    order = np.argsort(moved_at, kind="stable")
    return moved_at[order], sums_before(moved[order])


def _falls(at: Ticks, sums: Bytes, reclaims: Instants) -> tuple[Instants, Instants, tuple[Instants, Bytes]]:
    """The sweeps at which a sum falls, the ticks of the reclaims after them, and the change of the sum at every tick."""
    edges = np.flatnonzero(begins_anew(at))
    ticks_once, change = at[edges], np.diff(sums[np.r_[edges, len(at)]])
    falling = ticks_once[(ticks_once % PHASES == SWEEP) & (change < 0)]
    later = np.r_[reclaims, AFTER_ALL][np.searchsorted(reclaims, falling // PHASES, side="left")]
    return falling, ticks(later, RECLAIM), (ticks_once, change)


def _last_to_come(at: Ticks) -> Places:
    """The place of the last entry of each instant at which something comes: a write or a step-down, before all that goes."""
    halves = at >> 1  # each instant's comings (even) and goings (odd)
    last = np.ones(len(at), bool)
    np.not_equal(halves[1:], halves[:-1], out=last[:-1])
    return np.flatnonzero(last & (halves & 1 == 0))


def highest_of_days(asked: Ticks, sums_at: Callable[[Instants], Bytes], frame: Frame) -> Ticks:
    """For each day the one of the asked ticks that lie in it (its first tick among them) with the highest sum.

    It is the tick of the midnight that ends the day where the sum is higher then.
    """
    sums = sums_at(asked)
    day = np.searchsorted(frame.midnights, asked // PHASES, side="right") - 1
    inside = (day >= 0) & (day < frame.days)
    order = np.lexsort((sums[inside], day[inside]))
    last_of_day = np.searchsorted(day[inside][order], np.arange(frame.days), side="right") - 1
    highest, at_end = asked[inside][order][last_of_day], ticks(frame.midnights[1:], WRITE)
    return np.where(sums_at(at_end) > sums[inside][order][last_of_day], at_end, highest)
