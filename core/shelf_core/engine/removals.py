"""Removals: the sweep at which a point really goes (docs/model.md, Sweeps)."""

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.zones import Seconds
from shelf_core.engine.frame import FAR, Frame
from shelf_core.engine.parents import Parents


def sweep_instants(own_runs: Seconds, frame: Frame, sweep: str) -> Seconds:
    """When a copy is swept: at its own runs and, unless it is swept with its runs alone, at the end of each day."""
    instants = np.sort(own_runs if sweep == "with-runs" else np.r_[own_runs, frame.midnights[1:]], kind="stable")
    return instants[np.r_[True, instants[1:] != instants[:-1]][: len(instants)]]


def first_sweep_from(sweeps: Seconds, unclaimed: Seconds) -> Seconds:
    """The first sweep at or after each instant, FAR when there is none."""
    return np.r_[sweeps, FAR][np.searchsorted(sweeps, unclaimed, side="left")]


def with_what_needs_it(release: Seconds, parents: Parents, link_counts: NDArray[np.bool_]) -> Seconds:
    """When each point goes: not before anything that needs it, directly or through others.

    `link_counts` says for each point whether it really needs its parent. Works by doubling the distance that is looked
    down the tree, so that a chain of n points takes log2(n) steps.
    """
    latest = release.copy()
    ancestor = np.where(link_counts, parents, -1)
    while True:
        has = np.flatnonzero(ancestor >= 0)
        if len(has) == 0:
            return latest
        further = latest.copy()
        np.maximum.at(further, ancestor[has], latest[has])
        latest = further
        ancestor[has] = ancestor[ancestor[has]]
