"""Kinds of points as small numbers, for arrays."""

import numpy as np
from numpy.typing import NDArray

from shelf_core.arrays import Mask
from shelf_core.design.cadences import KINDS

Kinds = NDArray[np.int8]

FULL, SYNTHETIC, DIFFERENTIAL, INCREMENTAL, SNAPSHOT, LOG = range(6)
RANK = np.array([0, 1, 2, 3, 3, 4], np.int8)
"""Of runs at one instant the one with the lowest rank is left (domain: full, synthetic, differential, incremental or
snapshot, log)."""


def kind_number(name: str) -> int:
    """The number of a kind's name."""
    return KINDS.index(name)


def is_one_of(kinds: Kinds, *wanted: int) -> Mask:
    """Whether each point is of one of these kinds.

    >>> is_one_of(np.array([FULL, LOG, INCREMENTAL], np.int8), FULL, INCREMENTAL).tolist()
    [True, False, True]
    """
    among = np.zeros(len(KINDS), bool)
    among[list(wanted)] = True
    return among[kinds]


def is_self_contained(kinds: Kinds) -> Mask:
    """Whether each point can be restored by itself."""
    return is_one_of(kinds, FULL, SYNTHETIC, SNAPSHOT)
