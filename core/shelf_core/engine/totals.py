"""Totals: points and bytes of a target through the days of a design."""

from collections import defaultdict
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.calendar.zones import Seconds
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.frame import Frame
from shelf_core.engine.holdings import Holding
from shelf_core.engine.kinds import LOG
from shelf_core.engine.ledger import SWEEP, WRITE, Ledger, ticks
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.engine.separate import log_bytes, point_bytes
from shelf_core.engine.shared import Spans, neighbour_spans, oldest_spans
from shelf_core.engine.sizes import Behaviour, Bytes, Scale, behaviour_of, changed_bytes, scale_of, source_bytes


@dataclass(frozen=True, eq=False)
class Totals:
    """One element per day: points and bytes just before the midnight that ends it, and the largest sum of bytes."""

    points: Seconds
    stored_bytes: Bytes
    peak_bytes: Bytes


def totals_of(target: Target, holdings: list[Holding], frame: Frame) -> Totals:
    """The totals of one target, from all holdings that lie on it."""
    stored, points, objects = Ledger(), Ledger(), Ledger()
    for holding in holdings:
        _count(holding, points, objects)
    if target.packing == "shared":
        _add_shared(holdings, stored, frame)
    else:
        for holding in holdings:
            _add_separate(holding, stored, frame)
    bytes_, things = stored.days(frame), objects.days(frame)
    # Sums of many sizes leave rounding dust; where nothing lies there is nothing.
    at_end = np.where(things.at_end > 0.5, bytes_.at_end, 0.0)
    peak = np.where(things.peak > 0.5, bytes_.peak, 0.0)
    return Totals(np.rint(points.days(frame).at_end).astype(np.int64), at_end, peak)


def _count(holding: Holding, points: Ledger, objects: Ledger) -> None:
    life = holding.life
    how_many = float(sum(workload.count for workload in holding.workloads))
    spans = _spans(life)
    objects.add_spans(spans, np.full(len(life), how_many))
    points.add_spans(spans, np.where(life.kind == LOG, 0.0, how_many))


def _spans(life: Lifecycle) -> Spans:
    place = np.arange(len(life))
    return Spans(place, place, ticks(life.written, WRITE), ticks(life.removed, SWEEP))


def _add_separate(holding: Holding, stored: Ledger, frame: Frame) -> None:
    scales: dict[Behaviour, Scale] = {}
    for workload in holding.workloads:
        _add_scale(scales, behaviour_of(workload, frame), scale_of(workload))
    sizes = np.zeros(len(holding.life))
    for behaviour, scale in scales.items():
        sizes += point_bytes(holding.life, behaviour, scale, frame)
    stored.add_spans(_spans(holding.life), sizes)


def _add_scale(scales: dict[Behaviour, Scale], behaviour: Behaviour, scale: Scale) -> None:
    scales[behaviour] = scales[behaviour].plus(scale) if behaviour in scales else scale


class _Likeness(NamedTuple):
    """What workloads on a shared target have in common, so that their bytes are one curve times a factor."""

    holdings: tuple[int, ...]
    behaviour: Behaviour
    group: str | None
    percent: float


def _add_shared(holdings: list[Holding], stored: Ledger, frame: Frame) -> None:
    lies_in: dict[str, list[int]] = defaultdict(list)
    workloads: dict[str, Workload] = {}
    for place, holding in enumerate(holdings):
        for workload in holding.workloads:
            lies_in[workload.id].append(place)
            workloads[workload.id] = workload
    scales: dict[_Likeness, Scale] = {}
    largest: dict[_Likeness, float] = {}
    for name, workload in workloads.items():
        group, percent = (workload.alike.group, workload.alike.percent) if workload.alike else (None, 0.0)
        like = _Likeness(tuple(lies_in[name]), behaviour_of(workload, frame), group, percent)
        scale = scale_of(workload)
        scales[like] = scales[like].plus(scale) if like in scales else scale
        largest[like] = max(largest.get(like, 0.0), scale.full / workload.count)
    common: dict[str, list[tuple[Spans, Bytes]]] = defaultdict(list)
    for like, scale in scales.items():
        oldest, full = _add_likeness([holdings[place].life for place in like.holdings], like, scale, stored, frame)
        if like.group is not None:
            common[like.group].append((oldest, full * largest[like] * like.percent / 100))
    for members in common.values():
        stored.add(*_largest_in_common(members))


def _add_likeness(
    lives: list[Lifecycle], like: _Likeness, scale: Scale, stored: Ledger, frame: Frame
) -> tuple[Spans, Bytes]:
    """Enter what such workloads store, but for what a group has in common; give their oldest fulls at scale 1."""
    for life in lives:
        logs = log_bytes(life, scale)
        if logs.any():
            stored.add_spans(_spans(life), logs)
    taken, written, removed = _in_order_of_taking(lives)
    pairs = neighbour_spans(written, removed)
    changes = changed_bytes(like.behaviour, taken[pairs.older], taken[pairs.newer], frame.begin)
    stored.add_spans(pairs, scale.change * changes)
    oldest = oldest_spans(written, removed)
    full = source_bytes(like.behaviour, taken[oldest.older], frame.begin)
    stored.add_spans(oldest, scale.full * (1 - like.percent / 100) * full)
    return oldest, full


def _in_order_of_taking(lives: list[Lifecycle]) -> tuple[Seconds, Seconds, Seconds]:
    """Taken, and the ticks of writing and removal, of all points that are no logs."""
    keep = [life.kind != LOG for life in lives]
    taken = np.concatenate([life.taken[kept] for life, kept in zip(lives, keep, strict=True)])
    written = np.concatenate([ticks(life.written[kept], WRITE) for life, kept in zip(lives, keep, strict=True)])
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
