"""Totals: points and bytes of a target through the days of a design."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial

import numpy as np

from shelf_core.arrays import Bytes, Counts, Instants, Ticks
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.holdings import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.engine.schedule.runs import reclaim_instants
from shelf_core.engine.volume.ledger import Comings, Counter, Days, Ledger
from shelf_core.engine.volume.pieces import Pieces, separate_pieces, shared_pieces
from shelf_core.engine.volume.snapshots import snapshot_byte_seconds, snapshot_days


@dataclass(frozen=True, eq=False)
class Totals:
    """One element per day: points and bytes just before the midnight that ends it, and the largest sum of bytes."""

    points: Counts
    stored_bytes: Bytes
    peak_bytes: Bytes


def totals_of(target: Target, holdings: list[Holding], frame: Frame) -> Totals:
    """The totals of one target, from all holdings that lie on it."""
    points, objects = Counter(frame), Counter(frame)
    for holding in holdings:
        count(holding, points, objects)
    days = _days(target, holdings, frame)
    # Sums of many sizes leave rounding dust. Where nothing lies there is nothing but space that waits for a reclaim.
    dust = 1e-9 * days.peak.max(initial=0.0)
    there_at_end, there_at_some_time = objects.through_days()
    at_end = np.where((there_at_end > 0) | (days.at_end > dust), days.at_end, 0.0)
    peak = np.where(there_at_some_time | (days.peak > dust), days.peak, 0.0)
    return Totals(points.at_end(), at_end, peak)


def pieces_of(target: Target, holdings: list[Holding], frame: Frame, *, by_workload: bool = False) -> Iterator[Pieces]:
    """The pieces of all that lies on a target that is no snapshot space."""
    make = shared_pieces if target.packing == "shared" else separate_pieces
    return make(holdings, frame, by_workload=by_workload)


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


def _days(target: Target, holdings: list[Holding], frame: Frame) -> Days:
    if target.media == "snapshot":
        return snapshot_days(lives_of(holdings), frame)
    return ledger_of(target, holdings, frame).days(frame, reclaims_of(target, frame))


def stored_byte_seconds(target: Target, holdings: list[Holding], edges: Instants, frame: Frame) -> Bytes:
    """The stored bytes of a target times seconds between each two of the ascending instants, within the design."""
    if target.media == "snapshot":
        return snapshot_byte_seconds(lives_of(holdings), edges, frame)
    return ledger_of(target, holdings, frame).integral(edges, frame, reclaims_of(target, frame))


def ledger_of(target: Target, holdings: list[Holding], frame: Frame) -> Ledger:
    """All bytes that come to a target, that is no snapshot space, and that go."""
    if target.packing == "shared":
        return _ledger(shared_pieces(holdings, frame))
    stored = Ledger()
    for holding in holdings:
        entries = partial(_entries, holding, frame)
        stored.add(*holding.once("entries", entries, frame))
    return stored


def _entries(holding: Holding, frame: Frame) -> tuple[Ticks, Bytes]:
    """What one holding brings to a ledger, in order, as long as its points lie each by itself."""
    return _ledger(separate_pieces([holding], frame)).entries(frame)


def _ledger(pieces: Iterator[Pieces]) -> Ledger:
    stored = Ledger()
    for one in pieces:
        stored.add_between(one.begin, one.end, one.stored_bytes)
    return stored


def reclaims_of(target: Target, frame: Frame) -> Instants | None:
    """The instants at which a target gives back the space of what went; None for at once."""
    return reclaim_instants(target.reclaim, frame) if target.reclaim else None


def lives_of(holdings: list[Holding]) -> list[tuple[Lifecycle, tuple[Workload, ...]]]:
    """The points of each holding with the workloads they are of."""
    return [(holding.life, holding.workloads) for holding in holdings]
