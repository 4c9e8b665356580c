"""How many points and bytes a case of loss leaves on each target."""

from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from shelf_core.arrays import Mask
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.engine.volume.ledger import WRITE, ticks
from shelf_core.engine.volume.ledgers import pieces_of
from shelf_core.engine.volume.snapshots import snapshot_bytes_at
from shelf_core.proof.cases import World
from shelf_core.proof.lying import Lying


def left_on(world: World, target: int, lyings: Mapping[str, list[Lying]]) -> tuple[int, float]:
    """Points, those of all machines and no logs, and stored bytes that are left on a target, by its place in the design."""
    points, kept = 0, []
    for of_workload in lyings.values():
        for lying in of_workload:
            if lying.holding.target != target:
                continue
            life, left = lying.holding.life, world.there(lying)
            points += int((left & (life.stored_as != LOG)).sum()) * lying.workload.count
            kept.append(_only(lying, left, life))
    return points, _bytes_of(world, target, kept)


def _only(lying: Lying, left: Mask, life: Lifecycle) -> Holding:
    """A holding of one workload as if nothing but some of its points had ever been there."""
    never = np.where(left, life.removed, life.written)
    stages = list(lying.holding.whole.stages)
    stages[lying.holding.stage] = replace(life, removed=never)
    whole = replace(lying.holding.whole, stages=tuple(stages), _known={})
    holding = lying.holding
    return Holding(holding.route, holding.copy, holding.target, holding.stage, whole, (lying.workload,))


def _bytes_of(world: World, target: int, holdings: list[Holding]) -> float:
    result = world.result
    at = int(ticks(np.array([world.instant]), WRITE)[0])
    if result.design.targets[target].media == "snapshot":
        sums = [snapshot_bytes_at(one.life, one.workloads[0], at, result.frame).sum() for one in holdings]
        return float(sum(sums))
    pieces = pieces_of(result.design.targets[target], holdings, result.frame, by_workload=False)
    return float(sum(one.stored_bytes[(one.begin < at) & (at <= one.end)].sum() for one in pieces))
