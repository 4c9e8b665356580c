"""From arrivals to lives: what a copy's ladder, locks and sweeps make of what is brought to it."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from shelf_core.design.ladders import Ladder
from shelf_core.design.routes import Lock
from shelf_core.engine.arrivals import Arrivals
from shelf_core.engine.claims import Candidates, claims_of, latest_end
from shelf_core.engine.frame import Frame
from shelf_core.engine.kinds import LOG
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.engine.locks import lock_ends, with_floor_of_locks
from shelf_core.engine.parents import NONE, assign_parents, kinds_if_all_stay
from shelf_core.engine.removals import first_sweep_from, sweep_instants, with_what_needs_it


class CopyRules(NamedTuple):
    """What a copy does with its points; `shared` is the packing of its target."""

    ladder: Ladder
    locks: list[Lock]
    sweep: str
    shared: bool


def lives_of(came: Arrivals, rules: CopyRules, frame: Frame) -> Lifecycle:
    """The lives of the points that come to a copy.

    Kinds depend on what is still there, that on claims and locks, and these on kinds. Each round is right at least up to
    one point further than the one before, since nothing depends on what comes later; nearly always the first is right.
    """
    ladder = with_floor_of_locks(rules.ladder, rules.locks)
    sweeps = sweep_instants(np.unique(came.runs), frame, rules.sweep)
    kinds = kinds_if_all_stay(came.kind, came.follows)
    for _ in range(len(kinds) + 1):
        points = Candidates(came.taken, came.written, kinds, came.run, came.run_ids)
        claims = claims_of(ladder, points, frame, shared=rules.shared)
        locked = lock_ends(rules.locks, points, claims, frame)
        unheld = np.maximum(np.maximum(latest_end(claims), locked), came.written)
        release = first_sweep_from(sweeps, unheld)
        found, parents = assign_parents(came.kind, kinds, came.written, release, came.follows, shared=rules.shared)
        if np.array_equal(found, kinds):
            break
        kinds = found
    needs_parent = (parents != NONE) & ((kinds == LOG) | (not rules.shared))
    everything = Lifecycle(
        came.taken,
        came.written,
        kinds,
        came.run,
        came.run_ids,
        parents,
        needs_parent,
        with_what_needs_it(release, parents, needs_parent),
        claims,
        locked,
    )
    return _without(everything, (kinds == LOG) & (parents == NONE))


def _without(life: Lifecycle, absent: NDArray[np.bool_]) -> Lifecycle:
    """The same without points that were not taken; nothing builds on those."""
    if not absent.any():
        return life
    keep = ~absent
    place = np.cumsum(keep) - 1
    return Lifecycle(
        life.taken[keep],
        life.written[keep],
        life.kind[keep],
        life.run[keep],
        life.run_ids,
        np.where(life.parent == NONE, NONE, place[life.parent])[keep],
        life.needs_parent[keep],
        life.removed[keep],
        {label: ends[keep] for label, ends in life.claims.items()},
        life.locked[keep],
    )
