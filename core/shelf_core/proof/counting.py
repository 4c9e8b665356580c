"""Which points count for an ask, and from when until when each does (docs/model.md, Duties)."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from shelf_core.arrays import Bytes, Instants, Mask, Places
from shelf_core.design.standing import Counted
from shelf_core.design.targets import Target
from shelf_core.design.values import duration_of
from shelf_core.design.workloads import Workload
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.cartridges import TapeLayouts
from shelf_core.proof.locks import lock_spans
from shelf_core.proof.lying import Lying
from shelf_core.proof.remains import free_again, remains_until
from shelf_core.proof.spans import Spans, carried_on, each

EVERYTHING = Counted()


@dataclass(frozen=True, eq=False)
class Moments:
    """Moments that can be restored, points and logs that are reached: each at the instants t with `begin` < t <= `end`.

    Each reaches from `since` to its `taken` (a point its own moment alone).
    """

    taken: Instants
    since: Instants
    begin: Bytes
    end: Bytes
    is_log: Mask


@dataclass(eq=False)
class Counting:
    """The points of a workload that count, those of all targets together.

    A point counts at an instant t if `begin` < t <= `end`; one that comes to count again stands there once more. `lying` is the
    place among `lyings` of the stage on which each lies, `place` where it stands there.
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

    @cached_property
    def moments(self) -> Moments:
        """All points, and the logs as far as an unbroken chain of them leads there from a point that counts."""
        points = ~self.is_log
        taken, since = [self.taken[points]], [self.taken[points]]
        spans = [Spans(self.place[points], self.begin[points], self.end[points])]
        for number, lying in enumerate(self.lyings):
            mine = self.lying == number
            if self.is_log[mine].any():
                for rows, on in reached_logs(lying, Spans(self.place[mine], self.begin[mine], self.end[mine])):
                    taken.append(lying.taken[rows.place])
                    since.append(lying.taken[on[rows.place]])
                    spans.append(rows)
        begin, end = (np.concatenate([getattr(one, name) for one in spans]) for name in ("begin", "end"))
        is_log = np.repeat([False, True], [len(taken[0]), len(begin) - len(taken[0])])
        return Moments(np.concatenate(taken), np.concatenate(since), begin, end, is_log)


def reached_logs(lying: Lying, spans: Spans) -> tuple[tuple[Spans, Places], tuple[Spans, Places]]:
    """When each log of a stage is reached, by what is there of it: right from a point, and from the log before it.

    With each the place of what it goes on from.
    """
    own, points = spans.of(lying.is_log), spans.of(~lying.is_log)
    begun = own.both(points, lying.log_begins)
    reached = carried_on(own, begun, lying.log_before)
    return (begun, lying.log_begins), (own.both(reached, lying.log_before), lying.log_before)


def names(counted: Counted, target: Target) -> bool:
    """Whether what lies on a target counts, by the targets that are named."""
    is_left_out = counted.not_targets is not None and target.id in counted.not_targets
    return not is_left_out and (counted.targets is None or target.id in counted.targets)


def counts_at(counted: Counted, site: str, workload: Workload) -> bool:
    """Whether what lies at a site counts for a workload."""
    is_off_site = not counted.off_site or site != workload.site
    return is_off_site and (counted.sites is None or site in counted.sites)


class Counter:
    """Finds what counts."""

    def __init__(self, result: Forecast, lyings: Mapping[str, list[Lying]]) -> None:
        self.result, self.lyings = result, lyings
        self.layouts = TapeLayouts(result)
        self._free: dict[str, list[int]] = {}
        self._known: dict[tuple[str, str, bool], Counting] = {}

    def counting(self, workload: str, counted: Counted | None, *, with_lock: bool = True) -> Counting:
        """What counts of a workload. Without `with_lock` what is said of locks is left aside."""
        chosen = counted or EVERYTHING
        key = (workload, chosen.model_dump_json(), with_lock)
        if key not in self._known:
            self._known[key] = self._counting(self.lyings[workload], chosen, with_lock=with_lock)
        return self._known[key]

    def _counting(self, lyings: list[Lying], chosen: Counted, *, with_lock: bool) -> Counting:
        parts = [(lying, self._spans(lying, chosen, with_lock=with_lock)) for lying in lyings]
        used = [(lying, spans) for lying, spans in parts if spans is not None and len(spans)]
        nothing = np.zeros(0)
        place = np.concatenate([nothing.astype(np.int64), *(spans.place for _, spans in used)])
        return Counting(
            [lying for lying, _ in used],
            np.repeat(np.arange(len(used)), [len(spans) for _, spans in used]),
            place,
            np.concatenate([nothing.astype(np.int64), *(lying.taken[spans.place] for lying, spans in used)]),
            np.concatenate([nothing, *(spans.begin for _, spans in used)]),
            np.concatenate([nothing, *(spans.end for _, spans in used)]),
            np.concatenate([nothing.astype(bool), *(lying.is_log[spans.place] for lying, spans in used)]),
        )

    def _spans(self, lying: Lying, counted: Counted, *, with_lock: bool) -> Spans | None:
        """When each point of a stage counts; None where none ever does."""
        target = lying.target
        # Snapshots on the source's own storage count only where they are asked for by name.
        asked_for = not lying.beside_source if counted.media is None else target.media in counted.media
        here, away = (counts_at(counted, site, lying.workload) for site in (target.site, target.away_site or target.site))
        if not (asked_for and names(counted, target) and (here or away)):
            return None
        found = each(lying.ready, lying.gone)
        if here != away:
            leaves = self.layouts.of(lying.target).leaves(lying)
            always = np.full(len(leaves), math.inf)
            found = found.within(-always, leaves) if here else found.within(leaves, always)
        if counted.locked is not None and with_lock:
            ahead = None if counted.locked_for is None else duration_of(counted.locked_for)
            found = found.both(lock_spans(lying, self.result, final=counted.locked == "final", ahead=ahead))
        return found

    def remains(self, lying: Lying) -> Instants:
        """Until when the bytes of each point are there: stranded on a cartridge or waiting for a reclaim, too."""
        layout, name = self.layouts.of(lying.target), lying.target.id
        if name not in self._free:
            self._free[name] = free_again(self.result, lying.target, layout)
        return remains_until(self.result, lying, layout, self._free[name])
