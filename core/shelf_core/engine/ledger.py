"""The ledger of a target: what is added and taken away at each instant, and from it the sums of each day.

Within an instant writes come first, then step-downs, then sweeps, then reclaims. A tick counts these phases: four to a
second, so that sorting by tick is sorting by instant and phase.
"""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.zones import Seconds
from shelf_core.engine.frame import Frame
from shelf_core.engine.shared import Spans
from shelf_core.engine.sizes import Bytes

PHASES = 4
WRITE, STEP_DOWN, SWEEP, RECLAIM = range(PHASES)


def ticks(instants: Seconds, phase: int) -> Seconds:
    """The ticks of a phase at the instants."""
    return instants * PHASES + phase


class Days(NamedTuple):
    """Sums of each day: just before the midnight that ends it, and the largest one of the day."""

    at_end: Bytes
    peak: Bytes


class Ledger:
    """Entries of one quantity on one target."""

    def __init__(self) -> None:
        self._ticks: list[Seconds] = []
        self._amounts: list[NDArray[np.float64]] = []

    def add(self, at: Seconds, amounts: NDArray[np.float64]) -> None:
        """Entries at ticks; those past the design's end may be left in."""
        self._ticks.append(at)
        self._amounts.append(amounts)

    def add_spans(self, spans: Spans, amounts: NDArray[np.float64]) -> None:
        """Amounts that are there from the begin to the end of each span."""
        self.add(spans.begin, amounts)
        self.add(spans.end, -amounts)

    def days(self, frame: Frame) -> Days:
        """The sums of each day.

        The peak is taken after the writes and step-downs of an instant and before its removals, and is not less than
        what the day began with.
        """
        if not self._ticks:
            nothing = np.zeros(frame.days)
            return Days(nothing, nothing)
        at, place = np.unique(np.concatenate(self._ticks), return_inverse=True)
        sums = np.r_[0.0, np.cumsum(np.bincount(place, weights=np.concatenate(self._amounts)))]
        midnights = sums[np.searchsorted(at, ticks(frame.midnights, WRITE))]
        peak = midnights[:-1].copy()
        written = np.unique(at[(at % PHASES < SWEEP) & (at < ticks(frame.midnights[-1:], WRITE))] // PHASES)
        full = sums[np.searchsorted(at, ticks(written, SWEEP))]
        np.maximum.at(peak, np.searchsorted(frame.midnights, written, side="right") - 1, full)
        return Days(midnights[1:], peak)
