"""The life of all points of one copy, computed once for all workloads that share its rules."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.zones import Seconds
from shelf_core.design.cadences import Cadence
from shelf_core.design.ladders import Ladder
from shelf_core.engine.claims import Candidates, claims_of, latest_end
from shelf_core.engine.frame import Frame
from shelf_core.engine.kinds import LOG, Kinds
from shelf_core.engine.parents import NONE, Parents, assign_parents, kinds_if_all_stay
from shelf_core.engine.removals import first_sweep_from, sweep_instants, with_what_needs_it
from shelf_core.engine.runs import Runs


@dataclass(frozen=True, eq=False)
class Lifecycle:
    """The points of a copy in the order in which they were written, one array element per point.

    `removed` is the sweep at which a point goes (FAR when it stays past the design's end), `parent` the place of what it
    builds on (-1 for none), `needs_parent` whether it cannot be there without it, `claims` the end of each rule's claim.
    """

    taken: Seconds
    written: Seconds
    kind: Kinds
    run: Seconds
    run_ids: tuple[str, ...]
    parent: Parents
    needs_parent: NDArray[np.bool_]
    removed: Seconds
    claims: dict[str, Seconds]

    def __len__(self) -> int:
        return len(self.taken)


def lifecycle_of(runs: Runs, cadence: Cadence, ladder: Ladder, sweep: str, frame: Frame, *, shared: bool) -> Lifecycle:
    """The points that these runs leave under a ladder.

    Kinds depend on what is still there, that on claims, and claims on kinds. Each round is right at least up to one
    point further than the one before, since nothing depends on what comes later; nearly always the first round is right.
    """
    run_ids = tuple(run.id for run in cadence.runs)
    sweeps = sweep_instants(runs.instants, frame, sweep)
    kinds = kinds_if_all_stay(runs.kind)
    for _ in range(len(kinds) + 1):
        claims = claims_of(ladder, Candidates(runs.instants, kinds, runs.run, run_ids), frame, shared=shared)
        release = first_sweep_from(sweeps, np.maximum(latest_end(claims), runs.instants))
        found, parents = assign_parents(runs.kind, kinds, runs.instants, release, shared=shared)
        if np.array_equal(found, kinds):
            break
        kinds = found
    needs_parent = (parents != NONE) & ((kinds == LOG) | (not shared))
    removed = with_what_needs_it(release, parents, needs_parent)
    everything = Lifecycle(runs.instants, runs.instants, kinds, runs.run, run_ids, parents, needs_parent, removed, claims)
    return _without(everything, (kinds == LOG) & (parents == NONE))


def _without(life: Lifecycle, absent: NDArray[np.bool_]) -> Lifecycle:
    """The same without points that were not taken; nothing builds on those."""
    if not absent.any():
        return life
    keep = ~absent
    place = np.cumsum(keep) - 1
    parent = np.where(life.parent == NONE, NONE, place[life.parent])[keep]
    claims = {label: ends[keep] for label, ends in life.claims.items()}
    return Lifecycle(
        life.taken[keep],
        life.written[keep],
        life.kind[keep],
        life.run[keep],
        life.run_ids,
        parent,
        life.needs_parent[keep],
        life.removed[keep],
        claims,
    )
