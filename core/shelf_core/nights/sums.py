"""What the transfers of a stretch of time come to, copy by copy: what nights, loads and findings are made from.

Sums of stretches that follow one another can be put together; a transfer belongs to the stretch in which it is asked for.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np

from shelf_core.arrays import Mask, Places
from shelf_core.engine.schedule.kinds import FULL, SYNTHETIC
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.followed import MOUNT, SCAN, Followed
from shelf_core.nights.moving import Held
from shelf_core.nights.tables import late_ones, noons_of
from shelf_core.nights.transfers import NONE, Lane


@dataclass
class NightSum:
    """A copy in a night: transfers asked for, how many of them are late, the last end in seconds of the design."""

    transfers: int
    late: int
    last_end: float | None


@dataclass
class CopySums:
    """What the transfers of a copy come to. Instants are seconds of the design.

    `nights` are by the place of the noon on which each begins. `early` counts what is asked for before what it reads has come,
    `outlasting` are asking, end and bytes of first fulls that go on when their window has closed; `moved_by_target` and
    `moving_seconds` say what came to each target and for how long bytes moved. `asked_of` are bytes asked of each resource on
    each day, by their places; `held` is what held its transfers.
    """

    route: str
    copy: str
    transfers: int = 0
    without_way: int = 0
    without_way_to: str = ""
    early: int = 0
    first_early: float | None = None
    longest_wait: float = 0.0
    outlasting: list[tuple[float, float, float]] = field(default_factory=list)
    moved_by_target: dict[str, float] = field(default_factory=dict)
    moving_seconds: dict[str, float] = field(default_factory=dict)
    held: Held = field(default_factory=dict)
    asked_of: dict[str, dict[int, float]] = field(default_factory=dict)
    nights: dict[int, NightSum] = field(default_factory=dict)


def sums_of(followed: Followed, begin: float = -math.inf, end: float = math.inf) -> list[CopySums]:
    """The sums of all copies over what is asked for from `begin` to before `end`, in the order of the document."""
    chosen = asked_in(followed, begin, end)
    asked, late = followed.when_asked(), late_ones(followed)
    _, noons = noons_of(followed.result)
    found: dict[tuple[str, str], CopySums] = {
        (route.id, copy.id): CopySums(route.id, copy.id) for route in followed.result.design.routes for copy in route.copies
    }
    night = np.maximum(np.searchsorted(noons, asked, side="right") - 1, 0)
    for place, lane in enumerate(followed.lanes):
        part = np.flatnonzero(chosen[lane.first : lane.first + lane.points * lane.machines]) + lane.first
        sums = found[lane.route.id, lane.copy.id]
        for label, seconds in followed.held_in_all[place].items():
            sums.held[label] = sums.held.get(label, 0.0) + seconds
        if not len(part):
            continue
        _count(sums, followed, lane, part)
        _add_nights(sums, followed, part, night[part], late[part])
        _add_fulls(sums, followed, lane, part, has_window=followed.openings[place] is not None)
        _add_asked_of(sums, followed, lane, part)
    return [one for one in found.values() if one.transfers]


def asked_in(followed: Followed, begin: float, end: float) -> Mask:
    """Which are asked for in a stretch. What was followed ends with it: what is not asked for by then comes later."""
    asked = followed.when_asked()
    inside: Mask = (asked >= begin) & (asked < end)
    if math.isinf(end):
        return inside
    open_ones = np.flatnonzero(inside & np.isnan(followed.asked))
    for number in open_ones.tolist():
        lane, machine, point = followed.lane(number)
        source = int(lane.source[point])
        if source != NONE and not math.isnan(float(followed.ended[source + machine * lane.source_step])):
            inside[number] = False
    return inside


def _count(sums: CopySums, followed: Followed, lane: Lane, part: Places) -> None:
    sums.transfers += len(part)
    without = int(followed.no_way[part].sum())
    if without and not sums.without_way:
        sums.without_way_to = lane.target.id
    sums.without_way += without
    early = part[followed.too_early[part]]
    if len(early):
        first = float(followed.asked[early].min())
        sums.early += len(early)
        sums.first_early = first if sums.first_early is None else min(first, sums.first_early)
        waits = followed.started[early] - followed.asked[early]
        sums.longest_wait = max(sums.longest_wait, float(np.nanmax(waits, initial=0.0, where=~np.isnan(waits))))
    if lane.target.feed is not None and not lane.copy.verify:
        _add_moving(sums, followed, lane, part)


def _add_moving(sums: CopySums, followed: Followed, lane: Lane, part: Places) -> None:
    """Bytes, and the time in which they moved: from start to end without what passes first."""
    moved = lane.moved_bytes[(part - lane.first) % lane.points]
    through = ~np.isnan(followed.ended[part]) & (moved > 0)
    name, held = lane.target.id, followed.held_in_all[followed.lane_of[lane.first]]
    seconds = float((followed.ended[part] - followed.started[part])[through].sum())
    sums.moved_by_target[name] = sums.moved_by_target.get(name, 0.0) + float(moved[through].sum())
    passing = held.get(SCAN, 0.0) + held.get(MOUNT, 0.0)
    sums.moving_seconds[name] = sums.moving_seconds.get(name, 0.0) + seconds - passing


def _add_nights(sums: CopySums, followed: Followed, part: Places, night: Places, late: Mask) -> None:
    order = np.argsort(night, kind="stable")
    which, first = np.unique(night[order], return_index=True)
    ended = np.where(np.isnan(followed.ended[part]), -math.inf, followed.ended[part])[order]
    ends = np.maximum.reduceat(ended, first).tolist()
    counts, lates = np.diff(np.r_[first, len(order)]).tolist(), np.add.reduceat(late[order].astype(np.int64), first).tolist()
    for one, count, how_late, last in zip(which.tolist(), counts, lates, ends, strict=True):
        _put_night(sums, one, NightSum(count, how_late, None if last == -math.inf else last))


def _put_night(sums: CopySums, place: int, one: NightSum) -> None:
    there = sums.nights.get(place)
    if there is None:
        sums.nights[place] = NightSum(one.transfers, one.late, one.last_end)
        return
    there.transfers += one.transfers
    there.late += one.late
    there.last_end = max((end for end in (there.last_end, one.last_end) if end is not None), default=None)


def _add_fulls(sums: CopySums, followed: Followed, lane: Lane, part: Places, *, has_window: bool) -> None:
    if not has_window:
        return
    points = (part - lane.first) % lane.points
    # The first of all there: a transfer before it would be in the lane, or there would be something that it builds on.
    fulls = part[np.isin(lane.kind[points], (FULL, SYNTHETIC)) & (lane.is_first[points])]
    for number in fulls.tolist():
        asked, ended = float(followed.asked[number]), float(followed.ended[number])
        window = followed.window(number)
        closing = None if window is None or math.isnan(asked) else window.first_closing_after(asked + 1e-6)
        if closing is not None and ended > closing + 1.0:
            sums.outlasting.append((asked, ended, float(lane.moved_bytes[(number - lane.first) % lane.points])))


def _add_asked_of(sums: CopySums, followed: Followed, lane: Lane, part: Places) -> None:
    frame = followed.result.frame
    midnights = (frame.midnights - frame.begin).astype(float)
    points = (part - lane.first) % lane.points
    day = np.searchsorted(midnights, followed.when_asked()[part], side="right") - 1
    inside = (day >= 0) & (day < frame.days) & ~followed.no_way[part]
    for resource, amounts in followed.legs.amounts(lane).items():
        some = inside & (amounts[points] > 0)
        if not some.any():
            continue
        by_day = sums.asked_of.setdefault(followed.resources.labels[resource], {})
        days, where = np.unique(day[some], return_inverse=True)
        for one, amount in zip(days.tolist(), np.bincount(where, weights=amounts[points][some]).tolist(), strict=True):
            by_day[one] = by_day.get(one, 0.0) + amount


def put_together(stretches: Sequence[Sequence[CopySums]], result: Forecast) -> list[CopySums]:
    """The sums of stretches that follow one another, in the order of the document."""
    found = {(route.id, copy.id): CopySums(route.id, copy.id) for route in result.design.routes for copy in route.copies}
    for sums in stretches:
        for one in sums:
            _add(found[one.route, one.copy], one)
    return [one for one in found.values() if one.transfers]


def _add(into: CopySums, one: CopySums) -> None:
    into.transfers += one.transfers
    into.without_way_to = into.without_way_to or one.without_way_to
    into.without_way += one.without_way
    into.early += one.early
    into.first_early = min((at for at in (into.first_early, one.first_early) if at is not None), default=None)
    into.longest_wait = max(into.longest_wait, one.longest_wait)
    into.outlasting += one.outlasting
    for mine, more in (
        (into.moved_by_target, one.moved_by_target),
        (into.moving_seconds, one.moving_seconds),
        (into.held, one.held),
    ):
        for name, amount in more.items():
            mine[name] = mine.get(name, 0.0) + amount
    for label, by_day in one.asked_of.items():
        days = into.asked_of.setdefault(label, {})
        for day, amount in by_day.items():
            days[day] = days.get(day, 0.0) + amount
    for place, night in one.nights.items():
        _put_night(into, place, night)


def asked_per_day(sums: Sequence[CopySums], days: int) -> Iterator[tuple[str, np.ndarray, list[CopySums]]]:
    """For each resource the bytes asked of it on each day, and the copies that use it."""
    labels = dict.fromkeys(label for one in sums for label in one.asked_of)
    for label in labels:
        total, users = np.zeros(days), [one for one in sums if label in one.asked_of]
        for one in users:
            of_copy = one.asked_of[label]
            total[np.fromiter(of_copy.keys(), np.int64)] += np.fromiter(of_copy.values(), float)
        yield label, total, users
