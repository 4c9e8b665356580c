"""Totals: points and bytes of a target through the days of a design."""

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.calendar.zones import Seconds
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.frame import Frame
from shelf_core.engine.holdings import Holding
from shelf_core.engine.kinds import LOG
from shelf_core.engine.ledger import STEP_DOWN, SWEEP, WRITE, Counter, Ledger, ticks
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.engine.runs import reclaim_instants
from shelf_core.engine.separate import log_bytes, point_bytes
from shelf_core.engine.shared import Spans, neighbour_spans, oldest_spans, spans_in_any_order
from shelf_core.engine.snapshots import snapshot_days
from shelf_core.engine.sizes import Behaviour, Bytes, Scale, behaviour_of, changed_bytes, scale_of, source_bytes


@dataclass(frozen=True, eq=False)
class Totals:
    """One element per day: points and bytes just before the midnight that ends it, and the largest sum of bytes."""

    points: Seconds
    stored_bytes: Bytes
    peak_bytes: Bytes


def totals_of(target: Target, holdings: list[Holding], frame: Frame) -> Totals:
    """The totals of one target, from all holdings that lie on it."""
    stored, points, objects = Ledger(), Counter(frame), Counter(frame)
    for holding in holdings:
        _count(holding, points, objects)
    if target.media == "snapshot":
        days = snapshot_days([(holding.life, holding.workloads) for holding in holdings], frame)
    elif target.packing == "shared":
        _add_shared(holdings, stored, frame)
        days = stored.days(frame, reclaim_instants(target.reclaim, frame) if target.reclaim else None)
    else:
        for holding in holdings:
            _add_separate(holding, stored, frame)
        days = stored.days(frame, reclaim_instants(target.reclaim, frame) if target.reclaim else None)
    # Sums of many sizes leave rounding dust. Where nothing lies there is nothing but space that waits for a reclaim.
    dust = 1e-9 * days.peak.max(initial=0.0)
    at_end = np.where((objects.at_end() > 0) | (days.at_end > dust), days.at_end, 0.0)
    peak = np.where(objects.at_some_time() | (days.peak > dust), days.peak, 0.0)
    return Totals(points.at_end(), at_end, peak)


def _count(holding: Holding, points: Counter, objects: Counter) -> None:
    life = holding.life
    how_many = sum(workload.count for workload in holding.workloads)
    objects.add(life.written, life.removed, how_many)
    countable = life.stored_as != LOG
    points.add(life.written[countable], life.removed[countable], how_many)


def _spans(life: Lifecycle) -> Spans:
    place = np.arange(len(life))
    return Spans(place, place, came_at(life), ticks(life.removed, SWEEP))


def came_at(life: Lifecycle) -> Seconds:
    """The ticks at which points come: by writes, or by step-downs."""
    return ticks(life.written, STEP_DOWN if life.moved_in else WRITE)


def _add_separate(holding: Holding, stored: Ledger, frame: Frame) -> None:
    scales: dict[Behaviour, Scale] = {}
    for workload in holding.workloads:
        _add_scale(scales, behaviour_of(workload, frame), scale_of(workload))
    sizes = np.zeros(len(holding.life))
    for behaviour, scale in scales.items():
        sizes += point_bytes(holding.life, behaviour, scale, frame)
    how_many = sum(workload.count for workload in holding.workloads)
    sizes = np.where(np.isnan(holding.life.given), sizes, how_many * holding.life.given)
    stored.add_spans(_spans(holding.life), sizes)


def _add_scale(scales: dict[Behaviour, Scale], behaviour: Behaviour, scale: Scale) -> None:
    scales[behaviour] = scales[behaviour].plus(scale) if behaviour in scales else scale


class _Likeness(NamedTuple):
    """What workloads on a shared target have in common, so that their bytes are one curve times a factor."""

    behaviour: Behaviour
    group: str | None
    percent: float


@dataclass
class _Weight:
    """The workloads of one likeness: their scale together, and the largest full of a single one at scale 1."""

    scale: Scale
    largest: float

    def add(self, workload: Workload) -> None:
        scale = scale_of(workload)
        self.scale = self.scale.plus(scale)
        self.largest = max(self.largest, scale.full / workload.count)


def _add_shared(holdings: list[Holding], stored: Ledger, frame: Frame) -> None:
    common: dict[str, list[tuple[Spans, Bytes]]] = defaultdict(list)
    for places, weights in _by_holdings(holdings, frame).items():
        lives = [holdings[place].life for place in places]
        for group, oldest in _add_likenesses(lives, weights, stored, frame):
            common[group].append(oldest)
    for members in common.values():
        stored.add(*_largest_in_common(members))


def _by_holdings(holdings: list[Holding], frame: Frame) -> dict[tuple[int, ...], dict[_Likeness, _Weight]]:
    """The workloads by the holdings they lie in (the points of all of them are one row of neighbours), then by likeness."""
    lies_in: dict[str, list[int]] = defaultdict(list)
    workloads: dict[str, Workload] = {}
    for place, holding in enumerate(holdings):
        for workload in holding.workloads:
            lies_in[workload.id].append(place)
            workloads[workload.id] = workload
    found: dict[tuple[int, ...], dict[_Likeness, _Weight]] = defaultdict(dict)
    for name, workload in workloads.items():
        group, percent = (workload.alike.group, workload.alike.percent) if workload.alike else (None, 0.0)
        like = _Likeness(behaviour_of(workload, frame), group, percent)
        found[tuple(lies_in[name])].setdefault(like, _Weight(Scale(0.0, 0.0, 0.0), 0.0)).add(workload)
    return found


def _add_likenesses(
    lives: list[Lifecycle], weights: dict[_Likeness, _Weight], stored: Ledger, frame: Frame
) -> Iterator[tuple[str, tuple[Spans, Bytes]]]:
    """Enter what such workloads store, but for what a group has in common: give the group its share of each oldest full."""
    taken, written, removed = _in_order_of_taking(lives)
    if np.all(np.diff(written) >= 0):
        pairs, oldest = neighbour_spans(written, removed), oldest_spans(written, removed)
    else:
        pairs, oldest, _ = spans_in_any_order(written, removed)
    changes, fulls = np.zeros(len(pairs.begin)), np.zeros(len(oldest.begin))
    logs = Scale(0.0, 0.0, 0.0)
    for like, weight in weights.items():
        logs = logs.plus(weight.scale)
        changed = changed_bytes(like.behaviour, taken[pairs.older], taken[pairs.newer], frame.begin)
        changes += weight.scale.change * changed
        full = source_bytes(like.behaviour, taken[oldest.older], frame.begin)
        fulls += weight.scale.full * (1 - like.percent / 100) * full
        if like.group is not None:
            yield like.group, (oldest, full * weight.largest * like.percent / 100)
    stored.add_spans(pairs, changes)
    stored.add_spans(oldest, fulls)
    for life in lives:
        if logs.log_per_second:
            stored.add_spans(_spans(life), log_bytes(life, logs))


def _in_order_of_taking(lives: list[Lifecycle]) -> tuple[Seconds, Seconds, Seconds]:
    """Taken, and the ticks of writing and removal, of all points that are no logs."""
    keep = [life.stored_as != LOG for life in lives]
    taken = np.concatenate([life.taken[kept] for life, kept in zip(lives, keep, strict=True)])
    written = np.concatenate([came_at(life)[kept] for life, kept in zip(lives, keep, strict=True)])
    removed = np.concatenate([ticks(life.removed[kept], SWEEP) for life, kept in zip(lives, keep, strict=True)])
    order = np.argsort(taken, kind="stable")
    return taken[order], written[order], removed[order]


def _largest_in_common(members: list[tuple[Spans, Bytes]]) -> tuple[Seconds, Bytes]:
    """Entries of what a group has in common: at each time the largest of its members' amounts."""
    at = np.unique(np.concatenate([edge for spans, _ in members for edge in (spans.begin, spans.end)]))
    largest = np.zeros(len(at))
    for spans, amounts in members:
        place = np.searchsorted(spans.begin, at, side="right") - 1
        is_there = (place >= 0) & (at < np.r_[spans.end, 0][place])
        largest = np.maximum(largest, np.where(is_there, np.r_[amounts, 0.0][place], 0.0))
    return at, np.diff(np.r_[0.0, largest])
