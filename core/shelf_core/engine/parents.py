"""Parents: what each point builds on, and what becomes a full for want of one (docs/model.md, Runs and points)."""

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.zones import Seconds
from shelf_core.engine.frame import NEVER
from shelf_core.engine.kinds import DIFFERENTIAL, FULL, INCREMENTAL, LOG, SYNTHETIC, Kinds

Parents = NDArray[np.int64]
NONE = -1


def kinds_if_all_stay(declared: Kinds, follows: Parents | None) -> Kinds:
    """The kinds that are left when no parent ever goes: then only what has none from the start becomes a full."""
    kinds = declared.copy()
    if follows is None:
        first = np.flatnonzero(declared != LOG)[:1]
        kinds[first[np.isin(kinds[first], (DIFFERENTIAL, INCREMENTAL))]] = FULL
    else:
        kinds[(follows == NONE) & np.isin(declared, (DIFFERENTIAL, INCREMENTAL))] = FULL
    return kinds


def assign_parents(
    declared: Kinds, kinds: Kinds, written: Seconds, release: Seconds, follows: Parents | None, *, shared: bool
) -> tuple[Kinds, Parents]:
    """The kinds and parents of points in the order in which they were written.

    `kinds` is the guess that `release` was computed with: the sweep at which each point would go if nothing needed it.
    `follows` names the parents where the source decides them. Where every guessed parent is there by its own claim the
    guess is right; otherwise the points are gone through one by one. A log without a parent keeps NONE: it is not taken.
    """
    parents = _newest_candidates(kinds) if follows is None else np.where(_builds_on_another(kinds), follows, NONE)
    has_parent = parents >= 0
    # A log that is not taken takes its own logs with it when their parent is decided elsewhere.
    all_taken = follows is None or not np.any((kinds == LOG) & ~has_parent)
    guessed = all_taken and np.array_equal(kinds, kinds_if_all_stay(declared, follows))
    if guessed and bool(np.all(release[parents[has_parent]] >= written[has_parent])):
        return kinds, parents
    return _one_by_one(declared, written, release, follows, shared=shared)


def _builds_on_another(kinds: Kinds) -> NDArray[np.bool_]:
    return (kinds == DIFFERENTIAL) | (kinds == INCREMENTAL) | (kinds == LOG)


def _newest_candidates(kinds: Kinds) -> Parents:
    place = np.arange(len(kinds))
    fulls = _newest_before(np.isin(kinds, (FULL, SYNTHETIC)), place)
    points = _newest_before(kinds != LOG, place)
    anything = np.where(points >= 0, place - 1, NONE)
    parents = np.full(len(kinds), NONE, np.int64)
    for kind, newest in ((DIFFERENTIAL, fulls), (INCREMENTAL, points), (LOG, anything)):
        parents = np.where(kinds == kind, newest, parents)
    return parents


def _newest_before(wanted: NDArray[np.bool_], place: Parents) -> Parents:
    newest = np.maximum.accumulate(np.where(wanted, place, NONE))
    return np.r_[NONE, newest[:-1]][: len(place)]


def _one_by_one(
    declared: Kinds, written: Seconds, release: Seconds, follows: Parents | None, *, shared: bool
) -> tuple[Kinds, Parents]:
    """The same by going through the points: what is gone at a write is gone for good, so each stack only loses."""
    kinds, own, times = declared.tolist(), release.tolist(), written.tolist()
    given = None if follows is None else follows.tolist()
    stays = list(own)  # until when each point stays by its own claim or by what needs it so far
    parents = [NONE] * len(kinds)
    fulls: list[int] = []
    points: list[int] = []
    anything: list[int] = []
    stack_of = {DIFFERENTIAL: fulls, INCREMENTAL: points, LOG: anything}
    for place, kind in enumerate(kinds):
        if kind in stack_of:
            candidates = stack_of[kind] if given is None else [given[place]] if given[place] != NONE else []
            parent = parents[place] = _top_that_is_there(candidates, stays, times[place])
            if parent == NONE:
                if kind == LOG:
                    stays[place] = NEVER
                    continue
                kinds[place] = FULL
            elif not shared or kind == LOG:
                _keep_ancestors(parent, own[place], stays, parents, kinds, shared=shared)
        anything.append(place)
        if kind != LOG:
            points.append(place)
        if kinds[place] in (FULL, SYNTHETIC):
            fulls.append(place)
    return np.array(kinds, np.int8), np.array(parents, np.int64)


def _top_that_is_there(stack: list[int], stays: list[int], now: int) -> int:
    while stack and stays[stack[-1]] < now:
        stack.pop()
    return stack[-1] if stack else NONE


def _keep_ancestors(ancestor: int, until: int, stays: list[int], parents: list[int], kinds: list[int], *, shared: bool) -> None:
    while ancestor != NONE and stays[ancestor] < until:
        stays[ancestor] = until
        if shared and kinds[ancestor] != LOG:
            return
        ancestor = parents[ancestor]
