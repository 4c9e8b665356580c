"""Moved bytes: what a point brings over the way to its target (docs/model.md, Moved bytes)."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from shelf_core.arrays import Bytes, Instants, Mask, Numbers, Places, Ticks
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import LOG, SNAPSHOT, SYNTHETIC
from shelf_core.engine.volume.ledger import arrival_ticks, departure_ticks
from shelf_core.engine.volume.pieces import separate_bytes
from shelf_core.engine.volume.sizes import changed_sum, scales_of
from shelf_core.engine.volume.snapshots import replicated_bytes

NOTHING = -1


def moved_bytes(holding: Holding, target: Target, frame: Frame, *, shares: bool, on_target: Sequence[Holding] = ()) -> Bytes:
    """What each point of a holding on its target moves, summed over its workloads.

    A full moves all, a change what changed, a synthetic what changed since the newest point of its copy there (all, when
    nothing is there). `shares` says that the points come from a shared target to this one, which is shared too: then each
    moves only what is not there of the workload, from any copy, route or stage; `on_target` are then all holdings there, in
    the order of the document. Snapshots beside their source and opening stock move nothing; a replica what changed.
    """
    if shares and len(on_target) > 1:
        return _sum_of_workloads(holding, target, frame, on_target)
    life = holding.life
    before = holding.whole.once(("before", holding.stage), lambda: newest_there_before(life))
    return _moved(holding, target, frame, life.taken[before], found=before != NOTHING, shares=shares)


def _sum_of_workloads(holding: Holding, target: Target, frame: Frame, on_target: Sequence[Holding]) -> Bytes:
    """The same where workloads differ in what else of them lies on the target."""
    total = np.zeros(len(holding.life))
    for places, workloads in _by_what_is_there(holding, on_target).items():
        mine = next(at for at, place in enumerate(places) if _same_points(on_target[place], holding))
        since, found = _newest_of_all([on_target[place].life for place in places], mine)
        part = Holding(holding.route, holding.copy, holding.target, holding.stage, holding.whole, tuple(workloads))
        total += _moved(part, target, frame, since, found=found, shares=True)
    return total


def _same_points(one: Holding, other: Holding) -> bool:
    return one.whole is other.whole and one.stage == other.stage and (one.route, one.copy) == (other.route, other.copy)


def _by_what_is_there(holding: Holding, on_target: Sequence[Holding]) -> dict[tuple[int, ...], list[Workload]]:
    """The workloads of a holding by the places of the holdings that they lie in, this one among them."""
    lies_in: dict[str, list[int]] = {workload.id: [] for workload in holding.workloads}
    for at, other in enumerate(on_target):
        for workload in other.workloads:
            if workload.id in lies_in:
                lies_in[workload.id].append(at)
    found: dict[tuple[int, ...], list[Workload]] = defaultdict(list)
    for workload in holding.workloads:
        found[tuple(lies_in[workload.id])].append(workload)
    return found


def _moved(holding: Holding, target: Target, frame: Frame, since: Instants, *, found: Mask, shares: bool) -> Bytes:
    """What points move; where `found`, there is an older point there, taken at `since`, that the change may build on."""
    life = holding.life
    if life.replica:
        moved = replicated_bytes(life.taken, since, found, holding.workloads, frame)
        return np.where(life.written < frame.begin, 0.0, moved)
    given = np.where(life.moved_in & (target.packing == "separate"), life.given, np.nan)
    moved = separate_bytes(replace(life, given=given), holding.workloads, frame)
    by_change = found & (life.stored_as != LOG) & ((life.stored_as == SYNTHETIC) | shares)
    moved[by_change] = _changes_since(since[by_change], life.taken[by_change], holding.workloads, frame)
    moved[(life.stored_as == SNAPSHOT) | (life.written < frame.begin)] = 0.0
    return moved


def newest_there_before(life: Lifecycle) -> Places:
    """For each point the newest older one, by `taken`, that is there when it comes; NOTHING where there is none."""
    counted = np.flatnonzero(life.stored_as != LOG)
    order = counted[np.argsort(life.taken[counted], kind="stable")]
    arrived = arrival_ticks(life)[order]
    candidate = _candidates(arrived, arrived, departure_ticks(life)[order])
    found = np.full(len(life), NOTHING, np.int64)
    found[order] = np.where(candidate >= 0, order[np.maximum(candidate, 0)] if len(order) else candidate, NOTHING)
    return found


def _newest_of_all(lives: list[Lifecycle], mine: int) -> tuple[Instants, Mask]:
    """For each point of one of these when the newest older one of all was taken that is there when it comes; which have one.

    A point of the same moment that is there already counts as older. What comes at one instant comes in the order of lives.
    """
    counted = [np.flatnonzero(life.stored_as != LOG) for life in lives]
    pairs = list(zip(lives, counted, strict=True))
    taken = np.concatenate([life.taken[here] for life, here in pairs])
    arrived = np.concatenate([arrival_ticks(life)[here] for life, here in pairs])
    went = np.concatenate([departure_ticks(life)[here] for life, here in pairs])
    of_life = np.repeat(np.arange(len(lives)), [len(here) for here in counted])
    turn = np.empty(len(taken), np.int64)
    turn[np.lexsort((taken, of_life, arrived))] = np.arange(len(taken))
    order = np.lexsort((turn, taken))
    newest = np.full(len(taken), NOTHING, np.int64)
    newest[order] = _candidates(turn[order], arrived[order], went[order])
    since, found = np.zeros(len(lives[mine]), np.int64), np.zeros(len(lives[mine]), bool)
    of_mine = newest[of_life == mine]
    since[counted[mine]] = taken[order][np.maximum(of_mine, 0)] if len(taken) else of_mine
    found[counted[mine]] = of_mine >= 0
    return since, found


def _candidates(turn: Numbers, arrived: Ticks, went: Ticks) -> Places:
    """Of points in the order of `taken` the place of the nearest before each that is there when it comes, or below 0.

    What goes at the write of the point itself is not there; `turn` ascends in the order in which they come.
    """
    candidate = np.arange(len(arrived)) - 1
    while True:
        here = np.maximum(candidate, 0)
        absent = np.flatnonzero((candidate >= 0) & ((turn[here] > turn) | (went[here] <= arrived)))
        if len(absent) == 0:
            return candidate
        candidate[absent] -= 1


def _changes_since(since: Instants, taken: Instants, workloads: tuple[Workload, ...], frame: Frame) -> Bytes:
    changes = {behaviour: scale.change for behaviour, scale in scales_of(workloads, frame).items()}
    return changed_sum(changes, since, taken, frame.begin)


def moved_per_day(holding: Holding, moved: Bytes, frame: Frame) -> Bytes:
    """The sum of what comes on each day."""
    day = np.searchsorted(frame.midnights, holding.life.written, side="right") - 1
    inside = (day >= 0) & (day < frame.days)
    return np.asarray(np.bincount(day[inside], weights=moved[inside], minlength=frame.days), float)
