"""Parents: what each point builds on, and what becomes a full for want of one (docs/model.md, Points and parents)."""

from bisect import insort
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from shelf_core.arrays import Instants, Mask
from shelf_core.engine.schedule.frame import BEFORE_ALL
from shelf_core.engine.schedule.kinds import DIFFERENTIAL, FULL, INCREMENTAL, LOG, SYNTHETIC, Kinds, is_one_of

Parents = NDArray[np.int64]
NONE = -1
OWN = -2
"""Instead of a place: the copy's own chain decides the parent."""


def _kinds_if_all_stay(declared: Kinds, follows: Parents) -> Kinds:
    """The kinds that are left when no parent ever goes: then only what has none from the start becomes a full."""
    kinds = declared.copy()
    first = np.flatnonzero(declared != LOG)[:1]
    first = first[follows[first] == OWN]
    kinds[first[is_one_of(kinds[first], DIFFERENTIAL, INCREMENTAL)]] = FULL
    without = (follows == NONE) | (follows >= np.arange(len(follows)))
    kinds[without & is_one_of(declared, DIFFERENTIAL, INCREMENTAL)] = FULL
    return kinds


def _likely_parents(kinds: Kinds, follows: Parents) -> Parents:
    """The parents of points of these kinds if no parent ever goes."""
    own = _newest_candidates(kinds)
    given = np.where(_builds_on_another(kinds) & (follows < np.arange(len(follows))), follows, NONE)
    return np.where(follows == OWN, own, given)


class Declared(NamedTuple):
    """Points in the order in which they are written: the kinds they are meant to be, and what decides their parents.

    `follows` is the place of the parent where the source decides it, NONE where it has none here, OWN where the copy's own
    chain decides.
    """

    kind: Kinds
    taken: Instants
    written: Instants
    follows: Parents


class Chain(NamedTuple):
    """What points are taken as, and on what they build."""

    kinds: Kinds
    parents: Parents

    def equals(self, other: "Chain") -> bool:
        """Whether both say the same of every point."""
        return self is other or (np.array_equal(self.kinds, other.kinds) and np.array_equal(self.parents, other.parents))


def if_all_stay(declared: Kinds, follows: Parents) -> Chain:
    """The kinds and parents of points if no parent ever goes."""
    kinds = _kinds_if_all_stay(declared, follows)
    return Chain(kinds, _likely_parents(kinds, follows))


def assign_parents(points: Declared, guess: Chain, likely: Chain, release: Instants, *, shared: bool) -> Chain:
    """The kinds and parents of points, decided by what is there at each write.

    `guess` is what `release` was computed with: the sweep at which each point would go if nothing needed it; `likely` what
    they are if all stay. Where both say the same, and every guessed parent is there by its own claim, the guess is right;
    otherwise the points are gone through one by one. A log without a parent keeps NONE: it is not taken.
    """
    _, taken, written, follows = points
    kinds, parents = guess
    has_parent = parents >= 0
    # A log that is not taken takes its own logs with it when their parent is decided elsewhere; on a chain of its own only
    # logs before the first point are not taken, and nothing would build on those.
    guessed = (
        not np.any((kinds == LOG) & ~has_parent & (follows != OWN))
        and bool(np.all(taken[1:] >= taken[:-1]))
        and guess.equals(likely)
    )
    if guessed and bool(np.all(release[parents[has_parent]] >= written[has_parent])):
        return guess
    return _one_by_one(points, release, shared=shared)


def _builds_on_another(kinds: Kinds) -> Mask:
    return is_one_of(kinds, DIFFERENTIAL, INCREMENTAL, LOG)


def _newest_candidates(kinds: Kinds) -> Parents:
    place = np.arange(len(kinds))
    fulls = _newest_before(is_one_of(kinds, FULL, SYNTHETIC), place)
    points = _newest_before(kinds != LOG, place)
    anything = np.where(points >= 0, place - 1, NONE)
    parents = np.full(len(kinds), NONE, np.int64)
    for kind, newest in ((DIFFERENTIAL, fulls), (INCREMENTAL, points), (LOG, anything)):
        parents = np.where(kinds == kind, newest, parents)
    return parents


def _newest_before(wanted: Mask, place: Parents) -> Parents:
    newest = np.maximum.accumulate(np.where(wanted, place, NONE))
    return np.concatenate([[NONE], newest])[:-1]


def _one_by_one(points_to_be: Declared, release: Instants, *, shared: bool) -> Chain:
    """The same by going through the points: what is gone at a write is gone for good, so each list only loses.

    The lists hold the points that are there by the order in which they were taken, the newest at the end.
    """
    kinds, data, times, given = (column.tolist() for column in points_to_be)
    own = release.tolist()
    stays = list(own)  # until when each point stays by its own claim or by what needs it so far
    parents = [NONE] * len(kinds)
    fulls: list[tuple[int, int]] = []
    points: list[tuple[int, int]] = []
    anything: list[tuple[int, int]] = []
    list_of = {DIFFERENTIAL: fulls, INCREMENTAL: points, LOG: anything}
    for place, kind in enumerate(kinds):
        if kind in list_of:
            if given[place] == OWN:
                parent = _newest_that_is_there(list_of[kind], stays, times[place])
            else:
                parent = given[place] if _is_there(given[place], place, parents, kinds, stays, times[place]) else NONE
            parents[place] = parent
            if parent == NONE:
                if kind == LOG:
                    stays[place] = BEFORE_ALL
                    continue
                kinds[place] = FULL
            elif not shared or kind == LOG:
                _keep_ancestors(parent, own[place], stays, parents, kinds, shared=shared)
        insort(anything, (data[place], place))
        if kind != LOG:
            insort(points, (data[place], place))
        if kinds[place] in (FULL, SYNTHETIC):
            insort(fulls, (data[place], place))
    return Chain(np.array(kinds, np.int8), np.array(parents, np.int64))


def _is_there(parent: int, place: int, parents: list[int], kinds: list[int], stays: list[int], now: int) -> bool:
    if parent == NONE or parent >= place:
        return False
    return stays[parent] >= now and not (kinds[parent] == LOG and parents[parent] == NONE)


def _newest_that_is_there(ordered: list[tuple[int, int]], stays: list[int], now: int) -> int:
    while ordered and stays[ordered[-1][1]] < now:
        ordered.pop()
    return ordered[-1][1] if ordered else NONE


def _keep_ancestors(ancestor: int, until: int, stays: list[int], parents: list[int], kinds: list[int], *, shared: bool) -> None:
    while ancestor != NONE and stays[ancestor] < until:
        stays[ancestor] = until
        if shared and kinds[ancestor] != LOG:
            return
        ancestor = parents[ancestor]
