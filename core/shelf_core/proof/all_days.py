"""What a case leaves of each workload, were it to come at the end of any day of the design."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Counts, Instants, Mask, Places
from shelf_core.design.workloads import Workload
from shelf_core.engine.schedule.frame import BEFORE_ALL
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.counting import reached_logs
from shelf_core.proof.lying import Lying
from shelf_core.proof.on_days import how_many, largest, places_between
from shelf_core.proof.spans import Spans, joined


@dataclass(frozen=True, eq=False)
class OfAllDays:
    """At the end of each day the newest moment (BEFORE_ALL for none) and how many moments there are.

    `stage` is the first of the workload's stages that reaches the newest; `several` says where more than one does.
    """

    newest: Instants
    moments: Counts
    stage: Places
    several: Mask


class _Reached(NamedTuple):
    """What is left of a stage: the moments with their stretches, and the newest moment at the end of each day."""

    taken: Instants
    spans: Spans
    newest: Bytes


class AllDays:
    """Finds that for each workload, once for all that are alike."""

    def __init__(self, after: Aftermath) -> None:
        self._after = after
        self._ends: Instants = after.result.frame.midnights[1:]
        self._asked = after.asked(self._ends)
        self._known: dict[tuple[object, ...], OfAllDays] = {}
        self._same: dict[tuple[object, ...], tuple[OfAllDays, Sequence[Lying]]] = {}

    def of(self, workload: Workload, lyings: Sequence[Lying]) -> OfAllDays:
        """All days of a workload, by its stages."""
        is_lost = workload.id in self._after.lost_originals
        stages = [(one.number, self._on_tape(one), id(one.ready), id(one.gone)) for one in lyings]
        same = (is_lost, *stages)
        if same not in self._same:
            # The arrays are kept, so that what has their place in memory later is not taken for them.
            self._same[same] = (self._alike(lyings, is_lost=is_lost), lyings)
        return self._same[same][0]

    def _alike(self, lyings: Sequence[Lying], *, is_lost: bool) -> OfAllDays:
        key = (is_lost, *((one.number, self._on_tape(one), one.ready.tobytes(), one.gone.tobytes()) for one in lyings))
        if key not in self._known:
            self._known[key] = self._found(lyings)
        return self._known[key]

    def _on_tape(self, one: Lying) -> str | None:
        """Of what lies on cartridges those of each workload differ."""
        return one.workload.id if one.target.media == "tape" else None

    def _found(self, lyings: Sequence[Lying]) -> OfAllDays:
        days = len(self._ends)
        stages = [self._reached(one) for one in lyings]
        newest = np.stack([np.full(days, -np.inf), *(one.newest for one in stages)])
        best = newest.max(axis=0)
        there = np.isfinite(best)
        moments = np.zeros(days, np.int64)
        if stages:
            columns = zip(*((one.taken[one.spans.place], one.spans.begin, one.spans.end) for one in stages), strict=True)
            # A moment is one, on however many stages it is.
            together = joined(*(np.concatenate(column) for column in columns))
            moments = how_many(*self._days(together.place, together), days)
        return OfAllDays(
            np.where(there, best, BEFORE_ALL).astype(np.int64),
            moments,
            np.maximum(newest.argmax(axis=0) - 1, 0),
            there & ((newest == best).sum(axis=0) > 1),
        )

    def _days(self, taken: Instants, spans: Spans) -> tuple[Places, Places]:
        """On which days moments are left: from the day on which the moment that is asked for has come to them."""
        first, last = places_between(spans.begin, spans.end, self._ends)
        return np.maximum(first, np.searchsorted(self._asked, taken, side="left")), last

    def _reached(self, lying: Lying) -> _Reached:
        spans, days = self._after.restorable(lying), len(self._ends)
        if not lying.is_log.any():
            first, last = self._days(lying.taken[spans.place], spans)
            return _Reached(lying.taken, spans, largest(first, last, lying.taken[spans.place].astype(float), days))
        begun, carried = reached_logs(lying, spans)
        columns = [
            np.concatenate([getattr(one, name) for one in (spans.of(~lying.is_log), begun[0], carried[0])])
            for name in ("place", "begin", "end")
        ]
        reached = joined(*columns)
        first, last = self._days(lying.taken[reached.place], reached)
        newest = largest(first, last, lying.taken[reached.place].astype(float), days)
        return _Reached(lying.taken, reached, np.where(self._passed(lying, begun[0], carried[0]), self._asked, newest))

    def _passed(self, lying: Lying, begun: Spans, carried: Spans) -> Mask:
        """On which days a log that is left reaches past the moment that is asked for, from a point or a log before it."""
        found = np.zeros(len(self._ends), bool)
        for spans, since in ((begun, lying.log_begins), (carried, lying.log_before)):
            first, last = places_between(spans.begin, spans.end, self._ends)
            taken, before = lying.taken[spans.place], lying.taken[np.maximum(since[spans.place], 0)]
            first = np.maximum(first, np.searchsorted(self._asked, before, side="left"))
            last = np.minimum(last, np.searchsorted(self._asked, taken, side="right"))
            found |= how_many(first, last, len(self._ends)) > 0
        return found
