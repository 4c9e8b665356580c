"""Pieces: which bytes lie on a target from when until when, and which point they are there for (docs/model.md, Bytes).

On `separate` packing a piece is a point. On `shared` packing it is the change between a point and its older neighbour, or
what the oldest point stores in full. All sums of a target come from its pieces, whole or split.
"""

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Places, Ticks
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.engine.volume.ledger import arrival_ticks, departure_ticks
from shelf_core.engine.volume.rows import Row, row_of_points
from shelf_core.engine.volume.separate import log_bytes, point_bytes
from shelf_core.engine.volume.shared import Spans
from shelf_core.engine.volume.sizes import (
    Behaviour,
    Scale,
    behaviour_of,
    changed_sum,
    scale_of,
    scales_of,
    source_bytes,
    source_sum,
)


class Pieces(NamedTuple):
    """Bytes from tick `begin` to tick `end`, one array element per piece.

    `holding` and `place` say which point of which holding each is there for, `workload` which one's they are (None: those of
    all workloads together that lie there).
    """

    holding: Places
    place: Places
    begin: Ticks
    end: Ticks
    stored_bytes: Bytes
    workload: str | None


def separate_pieces(holdings: list[Holding], frame: Frame, *, by_workload: bool = False) -> Iterator[Pieces]:
    """The points that lie each by itself, holding by holding."""
    for at, holding in enumerate(holdings):
        for one in [holding.of(workload) for workload in holding.workloads] if by_workload else [holding]:
            name, life = one.workloads[0].id if by_workload else None, one.life
            sizes = one.once("separate bytes", partial(separate_bytes, life, one.workloads, frame))
            arrived, went = arrival_ticks(life), departure_ticks(life)
            yield Pieces(np.full(len(life), at), np.arange(len(life)), arrived, went, sizes, name)


def separate_bytes(life: Lifecycle, workloads: tuple[Workload, ...], frame: Frame) -> Bytes:
    """The stored size of each point where it lies by itself, summed over workloads; opening stock may come with its own."""
    sizes = point_bytes(life, scales_of(workloads, frame), frame)
    how_many = sum(workload.count for workload in workloads)
    return np.where(np.isnan(life.given), sizes, how_many * life.given)


def shared_pieces(holdings: list[Holding], frame: Frame, *, by_workload: bool = False) -> Iterator[Pieces]:
    """What workloads store on a target that shares their blocks, from any copy, route or stage."""
    common: dict[str, list[_InCommon]] = defaultdict(list)
    for places, weights in _by_holdings(holdings, frame, by_workload=by_workload).items():
        row = row_of_points(holdings, places)
        for name, alike in _by_name(weights).items():
            yield from _changes_and_fulls(row, name, alike, common, frame)
            yield from _logs(holdings, places, name, [weight.scale for _, weight in alike])
    for members in common.values():
        yield from _largest_in_common(members)


class _Likeness(NamedTuple):
    """What workloads on a shared target have in common, so that their bytes are one curve times a factor."""

    behaviour: Behaviour
    group: str | None
    percent: float
    workload: str | None


@dataclass
class _Weight:
    """The workloads of one likeness: their scale together, and the largest full of a single one at scale 1."""

    scale: Scale
    largest: float

    def add(self, workload: Workload) -> None:
        scale = scale_of(workload)
        self.scale = self.scale.plus(scale)
        self.largest = max(self.largest, scale.full / workload.count)


class _InCommon(NamedTuple):
    """The share of its oldest full that a likeness has in common with its group, for each span of the row's oldest."""

    row: Row
    amounts: Bytes
    workload: str | None


def _by_holdings(
    holdings: list[Holding], frame: Frame, *, by_workload: bool
) -> dict[tuple[int, ...], dict[_Likeness, _Weight]]:
    """The workloads by the holdings they lie in (the points of all of them are one row of neighbours), then by likeness."""
    found: dict[tuple[int, ...], dict[_Likeness, _Weight]] = defaultdict(dict)
    for places, workloads in holdings_of_workloads(holdings).items():
        for workload in workloads:
            group, percent = (workload.alike.group, workload.alike.percent) if workload.alike else (None, 0.0)
            like = _Likeness(behaviour_of(workload, frame), group, percent, workload.id if by_workload else None)
            found[places].setdefault(like, _Weight(Scale(0.0, 0.0, 0.0), 0.0)).add(workload)
    return found


def holdings_of_workloads(holdings: list[Holding]) -> dict[tuple[int, ...], list[Workload]]:
    """The workloads by the holdings that they lie in."""
    lies_in: dict[str, list[int]] = defaultdict(list)
    workloads: dict[str, Workload] = {}
    for place, holding in enumerate(holdings):
        for workload in holding.workloads:
            lies_in[workload.id].append(place)
            workloads[workload.id] = workload
    found: dict[tuple[int, ...], list[Workload]] = defaultdict(list)
    for name, workload in workloads.items():
        found[tuple(lies_in[name])].append(workload)
    return found


_Alike = list[tuple[_Likeness, _Weight]]


def _by_name(weights: dict[_Likeness, _Weight]) -> dict[str | None, _Alike]:
    """The likenesses by the workload they are told apart by: all together, or each workload's own."""
    found: dict[str | None, _Alike] = defaultdict(list)
    for like, weight in weights.items():
        found[like.workload].append((like, weight))
    return found


def _changes_and_fulls(
    row: Row, name: str | None, alike: _Alike, common: dict[str, list[_InCommon]], frame: Frame
) -> Iterator[Pieces]:
    """The changes and fulls of all likenesses together; what a group has in common of them is kept for later."""
    pairs, oldest = row.neighbours, row.oldest
    changes: dict[Behaviour, float] = defaultdict(float)
    fulls: dict[Behaviour, float] = defaultdict(float)
    for like, weight in alike:
        changes[like.behaviour] += weight.scale.change
        fulls[like.behaviour] += weight.scale.full * (1 - like.percent / 100)
        if like.group is not None:
            full = source_bytes(like.behaviour, row.taken[oldest.older], frame.begin)
            common[like.group].append(_InCommon(row, full * weight.largest * like.percent / 100, name))
    changed = changed_sum(changes, row.taken[pairs.older], row.taken[pairs.newer], frame.begin)
    whole = source_sum(fulls, row.taken[oldest.older], frame.begin)
    yield _pieces(row, pairs, changed, name)
    yield _pieces(row, oldest, whole, name)


def _pieces(row: Row, spans: Spans, amounts: Bytes, workload: str | None) -> Pieces:
    return Pieces(row.holding[spans.newer], row.place[spans.newer], spans.begin, spans.end, amounts, workload)


def _logs(holdings: list[Holding], places: tuple[int, ...], name: str | None, scales: list[Scale]) -> Iterator[Pieces]:
    together = Scale(0.0, 0.0, sum(scale.log_per_second for scale in scales))
    if not together.log_per_second:
        return
    for at in places:
        life = holdings[at].life
        here = np.flatnonzero(life.stored_as == LOG)
        begin, end = arrival_ticks(life)[here], departure_ticks(life)[here]
        yield Pieces(np.full(len(here), at), here, begin, end, log_bytes(life, together)[here], name)


def _largest_in_common(members: list[_InCommon]) -> Iterator[Pieces]:
    """What a group has in common is stored once: at each time as the largest of its members' amounts."""
    spans = [one.row.oldest for one in members]
    at = np.unique(np.concatenate([edge for one in spans for edge in (one.begin, one.end)]))
    largest, who = np.zeros(len(at)), np.full(len(at), -1)
    which = np.zeros((len(members), len(at)), np.int64)
    for number, member in enumerate(members):
        oldest = spans[number]
        order = np.argsort(oldest.begin, kind="stable")
        begin, end = oldest.begin[order], oldest.end[order]
        span = np.searchsorted(begin, at, side="right") - 1
        is_there = (span >= 0) & (at < np.r_[end, 0][span])
        amounts = np.where(is_there, np.r_[member.amounts[order], 0.0][span], 0.0)
        which[number] = np.r_[order, 0][span]
        who = np.where(amounts > largest, number, who)
        largest = np.maximum(largest, amounts)
    until = np.r_[at[1:], at[-1:]]
    for number, member in enumerate(members):
        mine = np.flatnonzero((who == number) & (until > at))
        point = spans[number].older[which[number][mine]]
        yield Pieces(member.row.holding[point], member.row.place[point], at[mine], until[mine], largest[mine], member.workload)
