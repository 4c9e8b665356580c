"""What nobody can free: what stays when every rule is cut, because of locks and minimum stays (docs/model.md)."""

from dataclasses import replace

import numpy as np

from shelf_core.arrays import Bytes, Places
from shelf_core.calendar.arithmetic import add_to_local
from shelf_core.design.targets import Target
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import CopyLife, Lifecycle
from shelf_core.engine.retention.parents import NONE
from shelf_core.engine.retention.states import standing_on
from shelf_core.engine.schedule.frame import BEFORE_ALL, Frame
from shelf_core.engine.volume.pieces import separate_bytes
from shelf_core.engine.volume.totals import totals_of
from shelf_core.forecast.forecast import Forecast


def cannot_be_freed(result: Forecast, target: str, day: str, *, by_locks_alone: bool = False) -> Bytes:
    """From a day on, the stored bytes at the end of each day that stay there if no rule claimed anything any more.

    Only what is there at the end of `day` counts, until its lock has ended and its minimum stay is over; `by_locks_alone`
    only until the lock has ended: what is in its minimum stay could be deleted, but would be billed all the same.

    Raises KeyError for an unknown target, ValueError for a day outside.
    """
    first = result.place_of(day)
    place = next((at for at, one in enumerate(result.design.targets) if one.id == target), None)
    if place is None:
        raise KeyError(target)
    one = _as_it_holds(result.design.targets[place], by_locks_alone=by_locks_alone)
    locked = [_held_alone(holding, one, result, first) for holding in result.holdings if holding.target == place]
    return totals_of(one, locked, result.frame).stored_bytes[first:]


def least_each_day(result: Forecast, target: str, *, by_locks_alone: bool = False) -> Bytes:
    """For each day the stored bytes at its end that would stay if every rule were cut right then.

    `by_locks_alone` as in `cannot_be_freed`.

    Raises KeyError for an unknown target.
    """
    place = next((at for at, one in enumerate(result.design.targets) if one.id == target), None)
    if place is None:
        raise KeyError(target)
    one = _as_it_holds(result.design.targets[place], by_locks_alone=by_locks_alone)
    found = np.zeros(result.frame.days)
    here = [holding for holding in result.holdings if holding.target == place]
    if one.packing == "shared" or one.media == "snapshot":
        # Nothing there needs another, logs apart: each point stays until its own time is over, whatever comes later.
        return totals_of(one, [_until_its_own_end(holding, one, result.frame) for holding in here], result.frame).stored_bytes
    for holding in here:
        life = _with_minimum_stay(holding.life, one, result.frame)
        there = standing_on(life, result.frame, np.arange(result.frame.days))
        held = there.locked >= result.frame.midnights[there.day + 1]
        sizes = separate_bytes(life, holding.workloads, result.frame)[there.place]
        found += np.bincount(there.day, np.where(held, sizes, 0.0), result.frame.days)
    return found


def _as_it_holds(target: Target, *, by_locks_alone: bool) -> Target:
    """The target without what only delays the space of what went, and, if asked, without its minimum stay."""
    return target.model_copy(update={"reclaim": None, **({"minimum_days": 0} if by_locks_alone else {})})


def _with_minimum_stay(life: Lifecycle, target: Target, frame: Frame) -> Lifecycle:
    """The same points, each locked until its minimum stay is over as well."""
    if not target.minimum_days:
        return life
    stays = frame.zone.instants(add_to_local(frame.zone.local(life.written), 0, target.minimum_days))
    return replace(life, locked=np.maximum(life.locked, stays))


def _until_its_own_end(holding: Holding, target: Target, frame: Frame) -> Holding:
    life = _with_minimum_stay(holding.life, target, frame)
    return _alone(holding, replace(life, removed=np.clip(life.locked, life.written, life.removed), written_over=None))


def _alone(holding: Holding, life: Lifecycle) -> Holding:
    whole = CopyLife((life,), life.removed, {}, 0)
    return Holding(holding.route, holding.copy, holding.target, 0, whole, holding.workloads)


def _held_alone(holding: Holding, target: Target, result: Forecast, day: int) -> Holding:
    """A holding with what is locked or in its minimum stay at the end of a day, each point until that ends."""
    life = _with_minimum_stay(holding.life, target, result.frame)
    there = standing_on(life, result.frame, np.array([day]))
    kept = there.locked >= result.frame.midnights[day + 1]
    order = np.argsort(there.place[kept])
    stays = _subset(life, there.place[kept][order], there.locked[kept][order])
    return _alone(holding, stays)


def _subset(life: Lifecycle, places: Places, removed: Places) -> Lifecycle:
    place = np.full(len(life) + 1, NONE, np.int64)
    place[places] = np.arange(len(places))
    return replace(
        life,
        **{name: getattr(life, name)[places] for name in ("taken", "written", "kind", "stored_as", "run", "needs_parent")},
        **{name: getattr(life, name)[places] for name in ("locked", "moved_on", "given", "place")},
        parent=place[life.parent[places]],
        removed=removed,
        claims={"locked": np.full(len(places), BEFORE_ALL, np.int64)},
        held=(),
        tape_set=None,
        written_over=None,
    )
