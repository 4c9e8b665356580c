"""Removals: the sweep at which a point really goes (docs/model.md, Sweeps)."""

import numpy as np

from shelf_core.arrays import Instants, Mask
from shelf_core.engine.retention.parents import Parents
from shelf_core.engine.schedule.frame import AFTER_ALL


def first_sweep_from(sweeps: Instants, unclaimed: Instants) -> Instants:
    """The first sweep at or after each instant, AFTER_ALL when there is none."""
    return np.append(sweeps, AFTER_ALL)[np.searchsorted(sweeps, unclaimed, side="left")]


def with_what_needs_it(release: Instants, parents: Parents, link_counts: Mask) -> Instants:
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
