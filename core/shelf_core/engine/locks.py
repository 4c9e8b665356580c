"""Locks: until when a point cannot be deleted (docs/model.md, Locks)."""

import numpy as np

from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.zones import Seconds
from shelf_core.design.ladders import Ladder
from shelf_core.design.routes import Lock
from shelf_core.design.values import duration_of
from shelf_core.engine.claims import Candidates, Mask, latest_end
from shelf_core.engine.frame import NEVER, Frame
from shelf_core.engine.kinds import kind_number


def lock_ends(locks: list[Lock], points: Candidates, claims: dict[str, Seconds], frame: Frame) -> Seconds:
    """The end of the longest lock that applies to each point, NEVER where none does. A lock runs from the writing."""
    ends = np.full(len(points.taken), NEVER, np.int64)
    for lock in locks:
        if lock.for_ == "kept":
            until = latest_end(claims)
        else:
            until = add_to_instants(points.written, duration_of(lock.for_), frame.zone)
        ends = np.maximum(ends, np.where(_applies(lock, points, claims), until, NEVER))
    return ends


def with_floor_of_locks(ladder: Ladder, locks: list[Lock]) -> Ladder:
    """The ladder as it counts under its locks: one that lasts as long as the point is kept allows no floor."""
    if any(lock.for_ == "kept" for lock in locks):
        return ladder.model_copy(update={"floor": 0})
    return ladder


def _applies(lock: Lock, points: Candidates, claims: dict[str, Seconds]) -> Mask:
    applies = np.ones(len(points.taken), bool)
    if lock.runs is not None:
        applies &= np.isin(points.run, [place for place, name in enumerate(points.run_ids) if name in lock.runs])
    if lock.kinds is not None:
        applies &= np.isin(points.kind, [kind_number(name) for name in lock.kinds])
    if lock.rungs is not None:
        applies &= np.logical_or.reduce([claims[name] > points.written for name in lock.rungs])
    return applies
