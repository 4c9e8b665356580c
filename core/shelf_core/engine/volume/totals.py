"""Totals: points and bytes of a target through the days of a design."""

from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes, Counts, Instants
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.sweeps import reclaims_of
from shelf_core.engine.volume.counts import Counter, count
from shelf_core.engine.volume.ledger import Days
from shelf_core.engine.volume.ledgers import ledger_of
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


def _days(target: Target, holdings: list[Holding], frame: Frame) -> Days:
    if target.media == "snapshot":
        lives = lives_of(holdings)
        return snapshot_days(lives, frame)
    return ledger_of(target, holdings, frame).days(frame, reclaims_of(target.reclaim, frame))


def stored_byte_seconds(target: Target, holdings: list[Holding], edges: Instants, frame: Frame) -> Bytes:
    """The stored bytes of a target times seconds between each two of the ascending instants, within the design."""
    if target.media == "snapshot":
        return snapshot_byte_seconds(lives_of(holdings), edges, frame)
    return ledger_of(target, holdings, frame).integral(edges, frame, reclaims_of(target.reclaim, frame))


def lives_of(holdings: list[Holding]) -> list[tuple[Lifecycle, tuple[Workload, ...]]]:
    """The points of each holding with the workloads they are of."""
    return [(holding.life, holding.workloads) for holding in holdings]
