"""What a case of loss leaves of a stage through all time, were it to come at any instant."""

from collections.abc import Callable

import numpy as np

from shelf_core.engine.retention.parents import NONE
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.cartridges import TapeLayout
from shelf_core.proof.cases import World
from shelf_core.proof.locks import lock_spans
from shelf_core.proof.lying import Lying
from shelf_core.proof.spans import Spans, each, either, held_up_by

Layouts = Callable[[Lying], TapeLayout]


def surviving(world: World, lying: Lying, layouts: Layouts) -> Spans:
    """When each point of a stage could be restored after the case, logs each by itself, with all that each goes back to.

    The same for all instants at once as `World.left` says for one; of the world only what is lost is looked at.
    """
    found, target = each(lying.ready, lying.gone), lying.target
    if target.media == "snapshot" and lying.workload.id in world.lost_originals:
        return found.only(np.zeros(len(found), bool))
    for_ever = np.full(len(lying.taken), np.inf)
    if target.id in world.lost_targets:
        if not _has_a_store(lying) or target.away_site in world.lost_sites:
            return found.only(np.zeros(len(found), bool))
        found = found.within(layouts(lying).leaves(lying), for_ever)
    elif target.away_site in world.lost_sites and _has_a_store(lying):
        found = found.within(-for_ever, layouts(lying).leaves(lying, last=False))
    if _is_reached(world, lying):
        found = found.both(_out_of_reach(world, world.result, lying, layouts))
    return held_up_by(found, np.where(lying.holding.life.needs_parent, lying.parent, NONE))


def _has_a_store(lying: Lying) -> bool:
    return lying.target.media == "tape" and lying.target.returns_after is not None


def _is_reached(world: World, lying: Lying) -> bool:
    intruder = world.case.intruder if world.case else None
    return intruder is not None and lying.target.account in intruder.accounts and lying.target.id not in world.lost_targets


def _out_of_reach(world: World, result: Forecast, lying: Lying, layouts: Layouts) -> Spans:
    """When no intruder can delete a point: while a lock holds it, or all that it lies on is away."""
    rights = world.case.intruder.rights if world.case and world.case.intruder else "account"
    locked = lock_spans(lying, result, final=rights == "special")
    if not _has_a_store(lying):
        return locked
    return either(locked, each(layouts(lying).leaves(lying), np.full(len(lying.taken), np.inf)))
