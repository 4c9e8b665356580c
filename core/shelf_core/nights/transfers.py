"""Transfers: what one arrival of a point on a copy moves for one machine of one workload, and what it waits for."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from shelf_core.arrays import Bytes, Instants, Mask, Places
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.design.routes import Copy, Route
from shelf_core.design.targets import Target
from shelf_core.design.values import bytes_of, duration_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.hardware.tape import closing_ticks
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import DIFFERENTIAL, FULL, INCREMENTAL, LOG, SYNTHETIC, Kinds
from shelf_core.engine.volume.ledger import RECLAIM, WRITE, ticks
from shelf_core.engine.volume.moved import NOTHING, newest_there_before
from shelf_core.engine.volume.pieces import separate_bytes
from shelf_core.engine.volume.sizes import behaviour_of, scale_of, source_bytes
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.moves import moved_of

NONE = -1
PRIORITY = 5
"""The priority of what has none of its own."""
HOW = ("run", "read", "follow", "step-down")
RUN, READ, FOLLOW, STEP_DOWN = HOW


@dataclass(eq=False)
class Lane:
    """The transfers of one workload to one stage of a copy. Arrays have an element for each of its points, in their order.

    The transfers of machine m (from 0) have the numbers `first + m * points` and on. `place` is where each point stands in
    the lifecycle of its stage, `source` the number that the transfer that brought it to where it is read from has for the
    first machine (NONE for none), `source_step` what is added to it for each further machine; `source_target` is the place of
    the target that it is read from (NONE for the workload itself). `read` is how many bytes are read from there for each that
    is moved, `put_together` what a synthetic full then reads and writes on its own target, `parent` and `before` the places in
    this lane of what it waits for, `after` that of the next one; `comes_whole` says which synthetic
    fulls have nothing there to be put together from, `is_first`
    which point is the first of all on the copy. `cartridges` are those that each machine's transfers begin,
    of shape (machines, points).
    """

    route: Route
    copy: Copy
    stage: int
    workload: Workload
    order: int
    target: Target
    how: str
    holding: Holding
    place: Places
    taken: Instants
    written: Instants
    kind: NDArray[np.int8]
    moved_bytes: Bytes
    source: Places
    source_step: int
    source_target: Places
    read: Bytes
    put_together: Bytes
    parent: Places
    before: Places
    after: Places
    tape_set: Places
    comes_whole: Mask
    is_first: Mask
    first: int = 0
    asked: Bytes | None = None
    cartridges: NDArray[np.int64] | None = None

    @cached_property
    def points(self) -> int:
        """How many points there are."""
        return len(self.place)

    @cached_property
    def machines(self) -> int:
        """How many machines there are, each with transfers of its own."""
        return self.workload.count

    @cached_property
    def priority(self) -> int:
        """1 for what comes first, to 9."""
        return self.copy.priority or self.workload.priority or PRIORITY

    @property
    def delay(self) -> Duration:
        """How long after its source a following transfer is asked for."""
        return duration_of(self.copy.delay or "PT0S") if self.how == FOLLOW else Duration(0, 0, 0)


class _Where(NamedTuple):
    """In which lane each point of a stage is transferred: the number of each by its place there; NONE where it is not."""

    first: int
    step: int
    number: Places


class _Known(NamedTuple):
    """What lanes are made from: the holdings of each workload on a copy, and in which lane what has been found so far lies."""

    result: Forecast
    begin: float
    end: float
    orders: dict[str, int]
    holdings: dict[tuple[str, str, str], list[Holding]]
    where: dict[tuple[str, str, str, int], _Where]


def lanes_of(result: Forecast, since: float = 0.0, until: float = math.inf) -> list[Lane]:
    """All transfers of a design, in the order of the document. Snapshots and opening stock move nothing, but step-downs do.

    With `since` and `until`, seconds of the design, only those of what arrives from then on to before then: what came before is
    taken to be over.
    """
    design = result.design
    routes = {route.id: route for route in design.routes}
    orders = {workload.id: place for place, workload in enumerate(design.workloads)}
    end = min(float(result.frame.end), result.frame.begin + until)
    known = _Known(result, result.frame.begin + since, end, orders, {}, {})
    for holding in result.holdings:
        for workload in holding.workloads:
            known.holdings.setdefault((holding.route, holding.copy, workload.id), []).append(holding)
    found: list[Lane] = []
    count = 0
    for holding in result.holdings:
        route = routes[holding.route]
        copy = next(one for one in route.copies if one.id == holding.copy)
        for workload in holding.workloads:
            lane = _lane(known, holding, route, copy, workload)
            if lane is None:
                continue
            lane.first = count
            number = np.full(len(holding.life), NONE, np.int64)
            number[lane.place] = np.arange(lane.points)
            known.where[route.id, copy.id, workload.id, holding.stage] = _Where(count, lane.points, number)
            count += lane.points * lane.machines
            found.append(lane)
    _spread(found, result)
    for target in design.targets:
        if target.media == "tape" and target.cartridge is not None:
            _begin_cartridges([lane for lane in found if lane.target is target], target, result)
    return found


def _lane(known: _Known, holding: Holding, route: Route, copy: Copy, workload: Workload) -> Lane | None:
    result = known.result
    target, life, frame = result.design.targets[holding.target], holding.life, result.frame
    if target.media == "snapshot" and not life.replica:
        return None
    place = np.flatnonzero((life.written >= known.begin) & (life.written < known.end))
    if len(place) == 0:
        return None
    one = holding.of(workload)
    moved = moved_of(result, one)[place] / workload.count
    if holding.stage > 0:
        sources = _left_stage(known, holding, copy, workload, place, moved)
    else:
        sources = _copied(known, holding, copy, workload, place)
    number = np.full(len(life) + 1, NONE, np.int64)
    number[place] = np.arange(len(place))
    before = _before(life.stored_as[place] == LOG)
    nothing_there = holding.whole.once(("before", holding.stage), lambda: newest_there_before(life)) == NOTHING
    comes_whole = (life.kind[place] == SYNTHETIC) & nothing_there[place]
    return Lane(
        route=route,
        copy=copy,
        stage=holding.stage,
        workload=workload,
        order=known.orders[workload.id],
        target=target,
        how=_how(copy, holding.stage),
        holding=holding,
        place=place,
        taken=life.taken[place],
        written=life.written[place],
        kind=life.kind[place],
        moved_bytes=moved,
        source=sources.number,
        source_step=sources.step,
        source_target=sources.target,
        read=sources.read,
        put_together=_put_together(result, target, life, workload, place, comes_whole),
        parent=number[life.parent[place]],
        before=before,
        after=_after(before),
        tape_set=np.zeros(len(place), np.int64) if life.tape_set is None else life.tape_set[place],
        comes_whole=comes_whole,
        is_first=_first_of_all(life, frame)[place],
    )


def _first_of_all(life: Lifecycle, frame: Frame) -> Mask:
    """Which point of a stage is the first there, logs and opening stock apart."""
    found = np.zeros(len(life), bool)
    comes = np.flatnonzero((life.stored_as != LOG) & (life.written >= frame.begin))
    if len(comes) and life.written.min() >= frame.begin:
        found[comes[0]] = True
    return found


def _how(copy: Copy, stage: int) -> str:
    if stage > 0:
        return STEP_DOWN
    if copy.from_ is None:
        return RUN
    return READ if copy.cadence is not None else FOLLOW


def _before(is_log: Mask) -> Places:
    """For each point the one before it of the same sort, logs among themselves; NONE for the first."""
    before = np.full(len(is_log), NONE, np.int64)
    for chosen in (np.flatnonzero(is_log), np.flatnonzero(~is_log)):
        before[chosen[1:]] = chosen[:-1]
    return before


def _after(before: Places) -> Places:
    """For each point the next one of the same sort; NONE for the last."""
    after = np.full(len(before), NONE, np.int64)
    some = before != NONE
    after[before[some]] = np.flatnonzero(some)
    return after


def _put_together(
    result: Forecast, target: Target, life: Lifecycle, workload: Workload, place: Places, comes_whole: Mask
) -> Bytes:
    """What a synthetic full on separate packing reads from its own target and writes there, once its changes have come."""
    found = np.zeros(len(place))
    if target.packing == "shared" or life.moved_in:
        return found
    made = np.flatnonzero((life.stored_as[place] == SYNTHETIC) & ~comes_whole)
    if len(made):
        sizes = source_bytes(behaviour_of(workload, result.frame), life.taken[place[made]], result.frame.begin)
        found[made] = sizes * scale_of(workload).full / workload.count
    return found


class _Sources(NamedTuple):
    """Where points are read: the fields of a lane, `source`, `source_step`, `source_target` and `read`."""

    number: Places
    step: int
    target: Places
    read: Bytes


def _from_workload(count: int) -> _Sources:
    return _Sources(np.full(count, NONE, np.int64), 0, np.full(count, NONE, np.int64), np.ones(count))


def _left_stage(known: _Known, holding: Holding, copy: Copy, workload: Workload, place: Places, moved: Bytes) -> _Sources:
    """A step-down reads from the stage before."""
    life, targets = holding.life, known.result.design.targets
    stages = known.holdings[holding.route, copy.id, workload.id]
    before = next(one for one in stages if one.stage == holding.stage - 1)
    if targets[before.target].media == "snapshot" and not before.life.replica:
        return _from_workload(len(place))
    at = np.full(int(max(before.life.place.max(initial=0), life.place.max(initial=0))) + 1, NONE, np.int64)
    at[before.life.place] = np.arange(len(before.life))
    there = at[life.place[place]]
    if before.life.replica:
        read = _unreduced(life.stored_as[place], workload)
    else:
        read = _chain_read(known.result, before, workload, there, life.stored_as[place], moved)
    number, step = _numbers(known.where.get((holding.route, copy.id, workload.id, before.stage)), there)
    return _Sources(number, step, np.full(len(place), before.target), read)


def _copied(known: _Known, holding: Holding, copy: Copy, workload: Workload, place: Places) -> _Sources:
    """What a copy reads: the workload, or the point of its source where it lay when it was read, on the first of its stages."""
    count = len(place)
    if copy.from_ is None:
        return _from_workload(count)
    stages = sorted(known.holdings[holding.route, copy.from_, workload.id], key=lambda one: one.stage)
    first = stages[0].life
    if known.result.design.targets[stages[0].target].media == "snapshot" and not first.replica:
        return _from_workload(count)
    of_source, written = _points_of_source(stages[0].whole.points, holding.life, place), holding.life.written[place]
    number, step, target = np.full(count, NONE, np.int64), 0, np.full(count, stages[0].target)
    undecided = np.ones(count, bool)
    for stage in stages:
        at = np.full(len(stages[0].whole.points) + 1, NONE, np.int64)
        at[stage.life.place] = np.arange(len(stage.life))
        there = at[of_source]
        lies = undecided & (there != NONE) & (stage.life.written[there] <= written) & (stage.life.removed[there] >= written)
        numbers, stage_step = _numbers(known.where.get((holding.route, copy.from_, workload.id, stage.stage)), there)
        number[lies], target[lies] = numbers[lies], stage.target
        step = stage_step or step
        undecided &= ~lies
    reads_more = first.replica and not holding.life.replica
    read = _unreduced(holding.life.stored_as[place], workload) if reads_more else np.ones(count)
    return _Sources(number, step, target, np.where(target == stages[0].target, read, 1.0))


def _unreduced(stored_as: Kinds, workload: Workload) -> Bytes:
    """How many bytes are read of a replica, which is not reduced, for each that is written elsewhere."""
    changes = workload.change_reduction or workload.reduction
    return np.where(np.isin(stored_as, (INCREMENTAL, DIFFERENTIAL)), changes, workload.reduction)


def _points_of_source(points: Lifecycle, life: Lifecycle, place: Places) -> Places:
    """The places among the points of a source of those that are copied; a log may be taken off a point of its moment."""
    key = 2 * points.taken + (points.kind == LOG)
    order = np.argsort(key, kind="stable")
    is_log = (life.kind[place] == LOG).astype(np.int64)
    wanted = 2 * life.taken[place] + is_log
    found = np.minimum(np.searchsorted(key[order], wanted), len(order) - 1)
    plain = np.minimum(np.searchsorted(key[order], wanted - is_log), len(order) - 1)
    return order[np.where(key[order][found] == wanted, found, plain)]


def _numbers(where: _Where | None, there: Places) -> tuple[Places, int]:
    """The numbers, for the first machine, of the transfers that brought points of a stage there."""
    if where is None:
        return np.full(len(there), NONE, np.int64), 0
    local = np.r_[where.number, NONE][there]
    return np.where(local == NONE, NONE, where.first + local), where.step


def _chain_read(
    result: Forecast, before: Holding, workload: Workload, there: Places, stored_as: NDArray[np.int8], moved: Bytes
) -> Bytes:
    """For each byte that a step-down moves, those that it reads: for a full of what is no full there, all of its chain."""
    life = before.life
    becomes_full = (stored_as == FULL) & (life.stored_as[there] != FULL) & (life.stored_as[there] != SYNTHETIC)
    read = np.ones(len(there))
    if result.design.targets[before.target].packing == "shared" or not becomes_full.any():
        return read
    sizes = separate_bytes(life, (workload,), result.frame) / workload.count
    chain = sizes.copy()
    for place in range(len(life)):
        # A parent stands before what builds on it.
        if life.parent[place] >= 0:
            chain[place] += chain[life.parent[place]]
    some = becomes_full & (moved > 0)
    read[some] = chain[there[some]] / moved[some]
    return read


def _spread(lanes: list[Lane], result: Forecast) -> None:
    """When each transfer is asked for, machine by machine: at its arrival, or spread over some time after its run."""
    by_copy: dict[tuple[str, str], list[Lane]] = {}
    for lane in lanes:
        asked = np.tile(lane.written - result.frame.begin, lane.machines).astype(float)
        lane.asked = asked
        if lane.copy.spread is not None and lane.how in (RUN, READ):
            by_copy.setdefault((lane.route.id, lane.copy.id), []).append(lane)
    for together in by_copy.values():
        together.sort(key=lambda one: one.order)
        written = np.concatenate([np.tile(lane.written, lane.machines) for lane in together])
        order = np.argsort(written, kind="stable")
        instants, first, how_many = np.unique(written[order], return_index=True, return_counts=True)
        length = duration_of(together[0].copy.spread or "PT0S")
        seconds = add_to_instants(instants, length, result.frame.zone) - instants
        rank = np.empty(len(written), np.int64)
        rank[order] = np.arange(len(written)) - np.repeat(first, how_many)
        run = np.searchsorted(instants, written)
        later = seconds[run] * rank / how_many[run]
        at = 0
        for lane in together:
            size = lane.points * lane.machines
            lane.asked = lane.asked + later[at : at + size] if lane.asked is not None else None
            at += size


class _Write(NamedTuple):
    """What one machine writes onto a media set, in the order in which a set is written."""

    tick: int
    priority: int
    order: int
    machine: int
    place: int
    holding: int
    media_set: tuple[str, str, int, int]
    closing: int
    moved: float
    lane: Lane | None
    point: int


def _begin_cartridges(lanes: list[Lane], target: Target, result: Forecast) -> None:
    """How many cartridges each transfer begins: those of a media set fill one after another, in the order of rank."""
    capacity = bytes_of(target.cartridge or 0)
    for lane in lanes:
        lane.cartridges = np.zeros((lane.machines, lane.points), np.int64)
    room: dict[tuple[object, ...], tuple[float, int]] = {}
    # What was written before the first of the lanes has left its cartridges as they are then.
    for one in sorted(_writes(lanes, target, result), key=lambda one: one[:6]):
        amount = one.moved
        left, closed_at = room.get(one.media_set, (0.0, -1))
        left = 0.0 if closed_at <= one.tick else left
        begun = 0
        while amount > left:
            amount, left, begun, closed_at = amount - left, capacity, begun + 1, one.closing
        room[one.media_set] = (left - amount, closed_at)
        if one.lane is not None and one.lane.cartridges is not None:
            one.lane.cartridges[one.machine, one.point] = begun


def _writes(lanes: list[Lane], target: Target, result: Forecast) -> Iterator[_Write]:
    by_key = {(lane.route.id, lane.copy.id, lane.stage, lane.workload.id): lane for lane in lanes}
    copies = {(route.id, copy.id): copy for route in result.design.routes for copy in route.copies}
    orders = {workload.id: place for place, workload in enumerate(result.design.workloads)}
    for number, holding in enumerate(result.holdings):
        if result.design.targets[holding.target] is not target:
            continue
        life = holding.life
        place = np.flatnonzero((life.written >= result.frame.begin) & (life.written < result.frame.end))
        written = life.written[place]
        at = ticks(written, WRITE).tolist()
        closes = ticks(written, RECLAIM) if life.tape_set is not None else closing_ticks(written, target, result.frame)
        sets = np.zeros(len(place), np.int64) if life.tape_set is None else life.tape_set[place]
        own = copies[holding.route, holding.copy].priority
        for workload in holding.workloads:
            lane = by_key.get((holding.route, holding.copy, holding.stage, workload.id))
            in_lane = np.full(len(life), NONE, np.int64)
            if lane is not None:
                in_lane[lane.place] = np.arange(lane.points)
            moved = moved_of(result, holding.of(workload))[place] / workload.count
            columns = zip(at, closes.tolist(), sets.tolist(), moved.tolist(), in_lane[place].tolist(), strict=True)
            for there, (tick, closing, which, amount, point) in enumerate(columns):
                media_set = (holding.route, holding.copy, holding.stage, which)
                rank = (tick, own or workload.priority or PRIORITY, orders[workload.id])
                for machine in range(workload.count):
                    mine = lane if point != NONE else None
                    yield _Write(*rank, machine, there, number, media_set, closing, amount, mine, point)
