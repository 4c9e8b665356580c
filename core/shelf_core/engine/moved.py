"""Moved bytes: what a point brings over the way to its target (docs/model.md, Moved bytes)."""

from collections import defaultdict
from dataclasses import replace

import numpy as np

from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.frame import Frame
from shelf_core.engine.holdings import Holding
from shelf_core.engine.kinds import LOG, SNAPSHOT, SYNTHETIC
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.engine.picks import Mask, Places
from shelf_core.engine.pieces import came_at, separate_bytes
from shelf_core.engine.sizes import Behaviour, Bytes, Scale, behaviour_of, changed_sum, scale_of

NOTHING = -1


def moved_bytes(holding: Holding, came_from: Target | None, target: Target, frame: Frame) -> Bytes:
    """What each point of a holding moves, summed over its workloads.

    A full moves all, a change what changed, a synthetic what changed since the newest point there (all, when nothing is
    there); between two shared targets only what the second does not have. Snapshots and opening stock move nothing.
    `came_from` is the target of the copy or stage before, None for the source itself.
    """
    life = holding.life
    moved = separate_bytes(_without_given_sizes(life), holding.workloads, frame)
    before = holding.whole.once(("before", holding.stage), lambda: newest_there_before(life))
    both_shared = came_from is not None and came_from.packing == "shared" and target.packing == "shared"
    by_change = (before != NOTHING) & (life.stored_as != LOG) & ((life.stored_as == SYNTHETIC) | both_shared)
    moved[by_change] = _changes_since(life, before, by_change, holding.workloads, frame)
    moved[(life.stored_as == SNAPSHOT) | (life.written < frame.begin)] = 0.0
    return moved


def newest_there_before(life: Lifecycle) -> Places:
    """For each point the newest older one, by `taken`, that is there when it comes; NOTHING where there is none."""
    counted = np.flatnonzero(life.stored_as != LOG)
    order = counted[np.argsort(life.taken[counted], kind="stable")]
    came, went = came_at(life)[order], life.removed[order]
    arrived = life.written[order]
    candidate = np.arange(len(order)) - 1
    while True:
        here = np.maximum(candidate, 0)
        absent = np.flatnonzero((candidate >= 0) & ((came[here] > came) | (went[here] < arrived)))
        if len(absent) == 0:
            break
        candidate[absent] -= 1
    found = np.full(len(life), NOTHING, np.int64)
    found[order] = np.where(candidate >= 0, order[np.maximum(candidate, 0)] if len(order) else candidate, NOTHING)
    return found


def _changes_since(life: Lifecycle, before: Places, which: Mask, workloads: tuple[Workload, ...], frame: Frame) -> Bytes:
    scales: dict[Behaviour, Scale] = defaultdict(lambda: Scale(0.0, 0.0, 0.0))
    for workload in workloads:
        behaviour = behaviour_of(workload, frame)
        scales[behaviour] = scales[behaviour].plus(scale_of(workload))
    changes = {behaviour: scale.change for behaviour, scale in scales.items()}
    return changed_sum(changes, life.taken[before[which]], life.taken[which], frame.begin)


def _without_given_sizes(life: Lifecycle) -> Lifecycle:
    return replace(life, given=np.full(len(life), np.nan))


def moved_per_day(holding: Holding, moved: Bytes, frame: Frame) -> Bytes:
    """The sum of what comes on each day."""
    day = np.searchsorted(frame.midnights, holding.life.written, side="right") - 1
    inside = (day >= 0) & (day < frame.days)
    return np.asarray(np.bincount(day[inside], weights=moved[inside], minlength=frame.days), float)
