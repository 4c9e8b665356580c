"""Which points count for an ask, and from when until when each does (docs/model.md, Duties)."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes, Instants, Mask, Places
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.design.standing import Counted
from shelf_core.design.values import duration_of
from shelf_core.engine.schedule.frame import AFTER_ALL
from shelf_core.engine.volume.ledger import PHASES
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.cartridges import TapeLayout, layout_of
from shelf_core.proof.locks import locked_until
from shelf_core.proof.lying import Lying
from shelf_core.proof.remains import free_again, remains_until

EVERYTHING = Counted()


@dataclass(eq=False)
class Counting:
    """The points of a workload that count, those of all targets together.

    A point counts at an instant t if `begin` < t <= `end`. `lying` is the place among `lyings` of the stage on which each lies,
    `place` where it stands there.
    """

    lyings: Sequence[Lying]
    lying: Places
    place: Places
    taken: Instants
    begin: Bytes
    end: Bytes
    is_log: Mask

    def at(self, instant: float) -> Places:
        """Which count at an instant, logs each by itself."""
        return np.flatnonzero((self.begin < instant) & (instant <= self.end))


class Counter:
    """Finds what counts, keeping how tapes lie."""

    def __init__(self, result: Forecast, lyings: dict[str, list[Lying]]) -> None:
        self.result, self.lyings = result, lyings
        self._layouts: dict[str, TapeLayout] = {}
        self._free: dict[str, list[int]] = {}

    def counting(self, workload: str, counted: Counted | None, *, with_lock: bool = True) -> Counting:
        """What counts of a workload. Without `with_lock` what is said of locks is left aside."""
        chosen = counted or EVERYTHING
        parts = [(lying, *self._interval(lying, chosen, with_lock=with_lock)) for lying in self.lyings[workload]]
        used = [(lying, begin, end) for lying, begin, end in parts if (begin < end).any()]
        lyings = [lying for lying, *_ in used]
        sizes = [len(lying.taken) for lying in lyings]
        nothing = np.zeros(0)
        return Counting(
            lyings,
            np.repeat(np.arange(len(used)), sizes),
            np.concatenate([nothing.astype(np.int64), *(np.arange(size) for size in sizes)]),
            np.concatenate([nothing.astype(np.int64), *(lying.taken for lying in lyings)]),
            np.concatenate([nothing, *(begin for _, begin, _ in used)]),
            np.concatenate([nothing, *(end for *_, end in used)]),
            np.concatenate([nothing.astype(bool), *(lying.is_log for lying in lyings)]),
        )

    def _interval(self, lying: Lying, counted: Counted, *, with_lock: bool) -> tuple[Bytes, Bytes]:
        """From when until when each point of a stage counts; an empty stretch for never."""
        target = lying.target
        never = np.full(len(lying.taken), math.inf), np.full(len(lying.taken), -math.inf)
        if counted.targets is not None and target.id not in counted.targets:
            return never
        if counted.not_targets is not None and target.id in counted.not_targets:
            return never
        # Snapshots lie on the source's own storage: they count only where they are asked for by name.
        asked_for = target.media != "snapshot" if counted.media is None else target.media in counted.media
        if not asked_for:
            return never
        begin, end = lying.ready.copy(), lying.gone.copy()
        here, away = (self._is_at(site, lying, counted) for site in (target.site, target.away_site or target.site))
        if not here and not away:
            return never
        if here != away:
            leaves = self._leaves(lying)
            begin, end = (begin, np.minimum(end, leaves)) if here else (np.maximum(begin, leaves), end)
        if counted.locked is not None and with_lock:
            end = np.minimum(end, self._locked(lying, counted))
        return begin, end

    def _is_at(self, site: str, lying: Lying, counted: Counted) -> bool:
        if counted.off_site and site == lying.workload.site:
            return False
        return counted.sites is None or site in counted.sites

    def _leaves(self, lying: Lying) -> Bytes:
        """When all cartridges of each point have left for the store; infinity for what lies on none, or never leaves."""
        found = np.full(len(lying.taken), math.inf)
        if lying.target.media != "tape" or lying.target.returns_after is None:
            return found
        layout = self.layout(lying)
        for place in range(len(found)):
            numbers = {
                number
                for machine in range(lying.workload.count)
                for number in layout.of(lying.number, lying.workload.id, place, machine)
            }
            ticks = [layout.away_from[number] for number in numbers]
            if ticks and max(ticks) < AFTER_ALL:
                found[place] = max(ticks) / PHASES
        return found

    def layout(self, lying: Lying) -> TapeLayout:
        """How the tape target that a stage lies on is laid out."""
        if lying.target.id not in self._layouts:
            self._layouts[lying.target.id] = layout_of(self.result, lying.target)
        return self._layouts[lying.target.id]

    def remains(self, lying: Lying) -> Instants:
        """Until when the bytes of each point are there: stranded on a cartridge or waiting for a reclaim, too."""
        layout, name = self.layout(lying), lying.target.id
        if name not in self._free:
            self._free[name] = free_again(self.result, lying.target, layout)
        return remains_until(self.result, lying, layout, self._free[name])

    def _locked(self, lying: Lying, counted: Counted) -> Bytes:
        """Until when each is locked for at least so long as is asked."""
        ends = locked_until(lying, AFTER_ALL, self.result, final=counted.locked == "final")
        if counted.locked_for is None:
            return ends.astype(float)
        length = duration_of(counted.locked_for)
        back = Duration(-length.months, -length.days, -length.seconds)
        known = (ends >= 0) & (ends < AFTER_ALL)
        found = ends.astype(float)
        found[known] = add_to_instants(ends[known], back, self.result.frame.zone)
        return found
