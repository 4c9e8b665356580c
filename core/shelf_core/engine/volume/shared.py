"""Bytes of points whose blocks are shared (docs/model.md, Bytes: shared).

What is there of a workload is stored as its oldest point in full and the change between neighbours. So the sum moves
only when a pair of neighbours begins or ends, or when the oldest changes; both follow from the lives of the points.
"""

from bisect import bisect_left
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Places, Ticks


class Spans(NamedTuple):
    """Stretches of time between ticks `begin` and `end`; the places say which points each is about."""

    older: Places
    newer: Places
    begin: Ticks
    end: Ticks


def neighbour_spans(written: Ticks, removed: Ticks) -> Spans:
    """When which points are neighbours: `older` and `newer` with nothing between them that is there.

    `written` and `removed` are ticks of the points in the order of `taken`, which must also be that of writing.
    A pair begins with the writing of its newer point, or when the last point between the two goes.
    """
    count = len(written)
    previous, following = _longer_lived_before(removed), _longer_lived_after(removed)
    middle = np.flatnonzero((previous >= 0) & (following < count))
    place = np.arange(count)
    older = np.concatenate([place[:-1], previous[middle]])
    newer = np.concatenate([place[1:], following[middle]])
    begin = np.concatenate([written[1:], np.maximum(removed[middle], written[following[middle]])])
    end = np.minimum(removed[older], removed[newer])
    real = begin < end
    return Spans(older[real], newer[real], begin[real], end[real])


def oldest_spans(written: Ticks, removed: Ticks) -> Spans:
    """When which point is the oldest that is there; `older` and `newer` are both that point."""
    gone_before = np.r_[np.int64(-1), np.maximum.accumulate(removed)[:-1]] if len(removed) else removed
    begin = np.maximum(written, gone_before)
    place = np.flatnonzero(begin < removed)
    return Spans(place, place, begin[place], removed[place])


class AllSpans(NamedTuple):
    """The spans of neighbours, of the oldest and of the newest."""

    neighbours: Spans
    oldest: Spans
    newest: Spans


def spans_in_any_order(written: Ticks, removed: Ticks) -> AllSpans:
    """All spans for points that were not written in the order in which they were taken.

    Goes through all writings and removals once; two copies on one target bring their points like that.
    """
    count = len(written)
    events = sorted(
        [(tick, place, True) for place, tick in enumerate(written.tolist())]
        + [(tick, place, False) for place, tick in enumerate(removed.tolist())]
    )
    there: list[int] = []
    since: dict[tuple[int, int], int] = {}
    pairs: list[tuple[int, int, int, int]] = []

    def link(older: int, newer: int, tick: int) -> None:
        since[older, newer] = tick

    def unlink(older: int, newer: int, tick: int) -> None:
        pairs.append((older, newer, since.pop((older, newer)), tick))

    for tick, place, comes in events:
        at = bisect_left(there, place)
        if not comes:
            del there[at]
        older = there[at - 1] if at > 0 else -1
        newer = there[at] if at < len(there) else count
        if comes:
            if (older, newer) in since:
                unlink(older, newer, tick)
            there.insert(at, place)
            link(older, place, tick)
            link(place, newer, tick)
        else:
            unlink(older, place, tick)
            unlink(place, newer, tick)
            link(older, newer, tick)
    spans = np.array([span for span in pairs if span[2] < span[3]], np.int64).reshape(-1, 4)
    older_places, newer_places, begin, end = spans.T
    neighbours = (older_places >= 0) & (newer_places < count)
    oldest = (older_places < 0) & (newer_places < count)
    newest = (older_places >= 0) & (newer_places == count)
    return AllSpans(
        Spans(older_places[neighbours], newer_places[neighbours], begin[neighbours], end[neighbours]),
        Spans(newer_places[oldest], newer_places[oldest], begin[oldest], end[oldest]),
        Spans(older_places[newest], older_places[newest], begin[newest], end[newest]),
    )


def _longer_lived_after(removed: Ticks) -> Places:
    """The nearest later point that stays longer (of equals the later counts as longer), or the count of points."""
    count = len(removed)
    lives = np.r_[removed, np.iinfo(np.int64).max]
    following = np.r_[np.arange(1, count + 1), count]
    while True:
        short = np.flatnonzero(lives[following[:count]] < removed)
        if len(short) == 0:
            return following[:count]
        following[short] = following[following[short]]


def _longer_lived_before(removed: Ticks) -> Places:
    """The nearest earlier point that stays longer (of equals the later counts as longer), or -1."""
    count = len(removed)
    lives = np.r_[np.iinfo(np.int64).max, removed]
    previous = np.r_[0, np.arange(count)]
    while True:
        short = np.flatnonzero(lives[previous[1:]] <= removed)
        if len(short) == 0:
            return previous[1:] - 1
        previous[short + 1] = previous[previous[short + 1]]
