"""Interpolation through Chebyshev nodes: a curve is computed at few values and is then known at thousands of draws."""

from itertools import pairwise
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes

FEW = 12
"""So many distinct values are computed each by itself."""


class Nodes(NamedTuple):
    """Values at which a curve is computed, and for each draw how much each of them counts: shape (nodes, draws)."""

    values: Bytes
    weights: Bytes


def nodes_for(draws: Bytes, count: int, breaks: tuple[float, ...] = ()) -> Nodes:
    """Nodes for values of any shape, flattened: `count` of them between each two breaks that the values span.

    Few distinct values are nodes themselves. Barycentric weights: J.-P. Berrut and L. N. Trefethen, Barycentric Lagrange
    Interpolation, SIAM Review 46(3), 2004.
    """
    flat = draws.ravel()
    distinct = np.unique(flat)
    if len(distinct) <= FEW:
        return Nodes(distinct, (flat == distinct[:, None]).astype(float))
    low, high = float(distinct[0]), float(distinct[-1])
    edges = [low, *(one for one in sorted(breaks) if low < one < high), high]
    values, weights = [], []
    for number, (begin, end) in enumerate(pairwise(edges)):
        inside = (flat >= begin) & ((flat < end) if number < len(edges) - 2 else (flat <= end))
        here = (begin + end) / 2 - (end - begin) / 2 * np.cos(np.pi * (np.arange(count) + 0.5) / count)
        values.append(here)
        weights.append(np.where(inside, _lagrange(here, np.clip(flat, begin, end)), 0.0))
    return Nodes(np.concatenate(values), np.concatenate(weights))


def _lagrange(nodes: Bytes, at: Bytes) -> Bytes:
    """The value of each node's own polynomial at each place: shape (nodes, places)."""
    order = np.arange(len(nodes))
    barycentric = (-1.0) ** order * np.sin(np.pi * (order + 0.5) / len(nodes))
    away = at - nodes[:, None]
    exact = away == 0
    shares = barycentric[:, None] / np.where(exact, 1.0, away)
    found = shares / shares.sum(axis=0)
    hit = exact.any(axis=0)
    found[:, hit] = exact[:, hit]
    return found
