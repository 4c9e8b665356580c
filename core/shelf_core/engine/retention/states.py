"""States: why each point is there at the end of each day (docs/model.md, States)."""

from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants, Mask, Places
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.retention.parents import NONE
from shelf_core.engine.retention.removals import with_what_needs_it
from shelf_core.engine.schedule.frame import BEFORE_ALL, Frame
from shelf_core.engine.schedule.kinds import Kinds

STATES = ("kept", "locked", "needed", "due")
KEPT, LOCKED, NEEDED, DUE = range(4)


class Standing(NamedTuple):
    """Points at the ends of days, one array element per point and day on which it is there.

    `day` is the day's place in the design, `place` the point's in its lifecycle, `state` a number of STATES, `locked` the
    end of its lock as it stands then: its own, or that of what needs it by then. `needed_by` is the place of the oldest
    point there that needs it directly, -1 for none.
    """

    day: Places
    place: Places
    state: Kinds
    locked: Instants
    needed_by: Places


def standing_on(life: Lifecycle, frame: Frame, days: Places) -> Standing:
    """Which points are there just before the midnight that ends each of the days, and why. The days ascend."""
    midnights = frame.midnights[days + 1]
    first = np.searchsorted(midnights, life.written, side="right")
    last = np.searchsorted(midnights, life.removed, side="right")
    how_many = np.maximum(last - first, 0)
    place = np.repeat(np.arange(len(life)), how_many)
    which = np.arange(len(place)) - np.repeat(np.cumsum(how_many) - how_many, how_many) + first[place]
    order = np.argsort(which, kind="stable")
    place, which = place[order], which[order]
    midnight = midnights[which]
    parent = _parents_on_the_same_day(life, place, which)
    needs = life.needs_parent[place] & (parent != NONE)
    locked = with_what_needs_it(life.locked[place], np.where(needs, parent, NONE), needs)
    needed_by = np.full(len(place), NONE, np.int64)
    children = np.flatnonzero(needs)[::-1]
    needed_by[parent[children]] = place[children]
    kept = _claimed(life, place, midnight) & (life.moved_on[place] >= midnight)
    state = np.select([kept, locked >= midnight, needed_by != NONE], [KEPT, LOCKED, NEEDED], DUE).astype(np.int8)
    return Standing(days[which], place, state, locked, needed_by)


def _claimed(life: Lifecycle, place: Places, midnight: Instants) -> Mask:
    until = np.maximum.reduce([*life.claims.values(), np.full(len(life), BEFORE_ALL)])
    claimed = until[place] >= midnight
    for claim in life.held:
        claimed |= claim.points[place] & (claim.begins < midnight) & (midnight <= claim.ends)
    return claimed


def _parents_on_the_same_day(life: Lifecycle, place: Places, which: Places) -> Places:
    """Where the parent of each element stands among the elements; NONE where it is not there."""
    keys = which * len(life) + place
    wanted = np.where(life.parent[place] == NONE, -1, which * len(life) + life.parent[place])
    found = np.searchsorted(keys, wanted)
    there = (found < len(keys)) & (np.r_[keys, -2][found] == wanted)
    return np.where(there, found, NONE)
