"""Locks: until when a point cannot be deleted (docs/model.md, Locks)."""

import numpy as np

from shelf_core.arrays import Instants, Mask
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.design.ladders import Ladder
from shelf_core.design.routes import Lock
from shelf_core.design.values import duration_of
from shelf_core.engine.retention.claims import Candidates, Claims, narrowed
from shelf_core.engine.schedule.frame import BEFORE_ALL, Frame


def lock_ends(locks: list[Lock], points: Candidates, claims: Claims, frame: Frame) -> Instants:
    """The end of the longest lock that applies to each point, BEFORE_ALL where none does.

    A lock runs from `points.written`, which for a stage is the time of the move.
    """
    ends = np.full(len(points.taken), BEFORE_ALL, np.int64)
    for lock in locks:
        ends = np.maximum(ends, np.where(_applies(lock, points, claims), _until(lock, points, claims, frame), BEFORE_ALL))
    return ends


def _until(lock: Lock, points: Candidates, claims: Claims, frame: Frame) -> Instants:
    if lock.for_ == "kept":
        return claims.latest()
    return add_to_instants(points.written, duration_of(lock.for_), frame.zone)


def with_floor_of_locks(ladder: Ladder, locks: list[Lock]) -> Ladder:
    """The ladder as it counts under its locks: one that lasts as long as the point is kept allows no floor."""
    if any(lock.for_ == "kept" for lock in locks):
        return ladder.model_copy(update={"floor": 0})
    return ladder


def _applies(lock: Lock, points: Candidates, claims: Claims) -> Mask:
    applies = narrowed(points, lock.runs, list(lock.kinds) if lock.kinds else None)
    if lock.rungs is not None:
        applies &= np.logical_or.reduce([claims.ends[name] > points.written for name in lock.rungs])
    return applies
