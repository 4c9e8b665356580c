"""What holds at many instants in order, of things that each are there for some of them in a row."""

import numpy as np

from shelf_core.arrays import Bytes, Counts, Instants, Places


def places_between(begin: Bytes, end: Bytes, instants: Instants) -> tuple[Places, Places]:
    """Of stretches (begin, end] the place of the first instant in each, and that after the last."""
    return np.searchsorted(instants, begin, side="right"), np.searchsorted(instants, end, side="right")


def largest(first: Places, last: Places, values: Bytes, count: int) -> Bytes:
    """At each of so many instants the largest value of what is there, -inf where nothing is.

    A stretch is covered by two that are as long as a power of two; what stands for a long one is handed to its halves, so
    that n stretches over m instants take n + m log m steps (the table of Bender and Farach-Colton, 2000, filled from above).

    >>> largest(np.array([0, 1]), np.array([3, 2]), np.array([5.0, 7.0]), 4).tolist()
    [5.0, 7.0, 5.0, -inf]
    """
    some = first < last
    first, last, values = first[some], last[some], values[some]
    levels = np.log2(last - first, where=last > first, out=np.zeros(len(first))).astype(np.int64)
    lengths = 1 << levels
    tall = int(levels.max(initial=0))
    table = np.full((tall + 1, count), -np.inf)
    np.maximum.at(table, (levels, first), values)
    np.maximum.at(table, (levels, last - lengths), values)
    for level in range(tall, 0, -1):
        half = 1 << (level - 1)
        np.maximum(table[level - 1], table[level], out=table[level - 1])
        np.maximum(table[level - 1, half:], table[level, : count - half], out=table[level - 1, half:])
    return table[0]


def how_many(first: Places, last: Places, count: int) -> Counts:
    """At each of so many instants how many stretches there are."""
    some = first < last
    changes = np.bincount(first[some], minlength=count + 1) - np.bincount(last[some], minlength=count + 1)
    found: Counts = np.cumsum(changes)[:count]
    return found
