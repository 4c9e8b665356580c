"""Locks one by one: when a lock holds which points against whom."""

import numpy as np

from shelf_core.arrays import Instants, Mask
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.design.cadences import KINDS
from shelf_core.design.routes import Lock
from shelf_core.design.values import duration_of
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.lying import Lying, locks_of
from shelf_core.proof.spans import NONE, Spans, each, either, handed_down


def lock_spans(lying: Lying, result: Forecast, *, final: bool, ahead: Duration | None = None) -> Spans:
    """When each point is locked, through all time; with `ahead` when it is for at least so much longer.

    With `final` only locks count that nobody can lift. A lock counts as far as the target can keep it: a final one is liftable
    where the target knows liftable ones alone, and none holds where it knows none. What a locked point needs is locked from
    when that was written.
    """
    life, target = lying.holding.life, lying.target
    found = each(np.zeros(0), np.zeros(0))
    if target.lock == "none" or (final and target.lock == "liftable"):
        return found
    back = None if ahead is None else Duration(-ahead.months, -ahead.days, -ahead.seconds)
    for lock in locks_of(lying.copy, lying.holding.stage):
        if not final or lock.mode == "final":
            ends = np.where(_applies(lock, life), _until(lock, life, result), BEFORE_ALL)
            if back is not None:
                known = (ends >= 0) & (ends < AFTER_ALL)
                ends[known] = add_to_instants(ends[known], back, result.frame.zone)
            found = either(found, each(life.written.astype(float), ends.astype(float)))
    return handed_down(found, np.where(life.needs_parent, life.parent, NONE))


def _until(lock: Lock, life: Lifecycle, result: Forecast) -> Instants:
    if lock.for_ == "kept":
        return np.maximum.reduce([np.full(len(life), BEFORE_ALL, np.int64), *life.claims.values()])
    return add_to_instants(life.written, duration_of(lock.for_), result.frame.zone)


def _applies(lock: Lock, life: Lifecycle) -> Mask:
    applies = np.ones(len(life), bool)
    if lock.runs is not None:
        applies &= np.isin(life.run, [at for at, name in enumerate(life.run_ids) if name in lock.runs])
    if lock.kinds is not None:
        applies &= np.isin(life.kind, [KINDS.index(kind) for kind in lock.kinds])
    if lock.rungs is not None:
        applies &= np.logical_or.reduce([life.claims[name] > life.written for name in lock.rungs])
    return applies
