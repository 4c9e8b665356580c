"""Tables of nights: what each transfer came to, the use of resources, the nights of every copy, what is asked of resources."""

import math
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Days
from shelf_core.calendar.zones import DAY, day_text, local_second, local_text
from shelf_core.design.cadences import KINDS
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.following import Followed
from shelf_core.nights.moving import Use
from shelf_core.nights.transfers import NONE

NO_WAY = "no way"
LATE_BY = 1e-3
"""Seconds: what ends so little after a closing ends at it."""
FULLEST_DAYS = 28


class Row(NamedTuple):
    """A transfer of one machine, as `./shelf night` prints it (instants local with offset, empty texts for nothing)."""

    route: str
    copy: str
    workload: str
    machine: int
    taken: str
    kind: str
    how: str
    from_target: str
    to_target: str
    moved_bytes: float
    asked: str
    started: str
    ended: str
    mean_bytes_per_second: float | None
    held_most: str
    held: str
    late: str
    too_early: str


def seconds_of(result: Forecast, local: str) -> float:
    """A local time such as 2027-03-03T12:00 as seconds since the design's beginning. Raises ValueError."""
    try:
        instant = result.frame.zone.instant(local_second(local))
    except ValueError:
        raise ValueError(f'expected a local time such as 2027-03-03T12:00, got "{local}"') from None
    return float(instant - result.frame.begin)


def with_offset(result: Forecast, seconds: float | None) -> str:
    """An instant in local time with its offset, to the millisecond."""
    if seconds is None or math.isnan(seconds):
        return ""
    thousandths = round(seconds * 1000)
    whole, rest = divmod(thousandths, 1000)
    instant = result.frame.begin + whole
    local = int(result.frame.zone.local(np.array([instant]))[0])
    east = local - instant
    sign, minutes = ("-" if east < 0 else "+"), abs(east) // 60
    text = local_text(local)
    text = text if text.count(":") == 2 else f"{text}:00"
    return f"{text}.{rest:03}{sign}{minutes // 60:02}:{minutes % 60:02}"


def night_rows(followed: Followed, begin: float, end: float) -> Iterator[Row]:
    """What is asked for before the end and has not ended at the beginning, in the order of asking."""
    asked = followed.when_asked()
    over = np.where(np.isnan(followed.ended), followed.given_up, followed.ended)
    chosen = np.flatnonzero((asked < end) & ~(over <= begin))
    for number in chosen[np.lexsort((chosen, asked[chosen]))].tolist():
        yield _row(followed, number, float(asked[number]))


def _row(followed: Followed, number: int, asked: float) -> Row:
    result = followed.result
    lane, machine, point = followed.lane(number)
    started, ended = float(followed.started[number]), float(followed.ended[number])
    moved, source = float(lane.moved_bytes[point]), int(lane.source_target[point])
    held = sorted(followed.held.get(number, {}).items(), key=lambda one: -one[1])
    held = [(label, seconds) for label, seconds in held if seconds > 1e-3] if not math.isnan(ended) else []
    never = math.isnan(started) and math.isnan(float(followed.given_up[number]))
    mean = None if math.isnan(ended) or ended - started <= 0 else moved / (ended - started)
    return Row(
        lane.route.id,
        lane.copy.id,
        lane.workload.id,
        machine + 1,
        local_text(int(result.frame.zone.local(np.array([lane.taken[point]]))[0]))[:16],
        KINDS[int(lane.kind[point])],
        lane.how,
        "source" if source == NONE else result.design.targets[source].id,
        lane.target.id,
        moved,
        with_offset(result, asked),
        with_offset(result, started),
        with_offset(result, ended),
        mean,
        NO_WAY if never else held[0][0] if held else "",
        ";".join(f"{label}={seconds:.3f}" for label, seconds in held),
        "+".join(lateness(followed, number)),
        "yes" if followed.too_early[number] else "",
    )


def lateness(followed: Followed, number: int) -> list[str]:
    """Why a transfer is late: after its window, behind the next, no point, no way; nothing where it is not."""
    if followed.no_way[number]:
        return [NO_WAY]
    if not math.isnan(float(followed.given_up[number])):
        return ["no point"]
    found = []
    asked, ended = float(followed.asked[number]), float(followed.ended[number])
    if math.isnan(asked):
        return []
    ends = math.inf if math.isnan(ended) else ended
    window = followed.window(number)
    closing = window.first_closing_after(asked + 1e-6) if window is not None else None
    if closing is not None and ends > closing + LATE_BY:
        found.append("window")
    after = followed.after(number)
    if after is not None and ends > float(followed.asked[after]) + LATE_BY:
        found.append("behind")
    return found


class UseRow(NamedTuple):
    """A stretch of time and what a resource carries in it."""

    begins: str
    ends: str
    resource: str
    used_bytes_per_second: float
    speed_bytes_per_second: float


def use_rows(followed: Followed, begin: float, end: float) -> Iterator[UseRow]:
    """The use of each resource between two instants, stretches that are alike put together."""
    for place, stretches in use_by_resource(followed, begin, end).items():
        for one in stretches:
            texts = with_offset(followed.result, one.begin), with_offset(followed.result, one.end)
            yield UseRow(*texts, followed.resources.labels[place], one.used, one.capacity)


def use_by_resource(followed: Followed, begin: float, end: float) -> dict[int, list[Use]]:
    """The use of each resource between two instants by its place, stretches that are alike put together."""
    found: dict[int, list[Use]] = {}
    for one in followed.use:
        part = one._replace(begin=max(one.begin, begin), end=min(one.end, end))
        if part.begin >= part.end:
            continue
        stretches = found.setdefault(one.resource, [])
        before = stretches[-1] if stretches else None
        if before and (before.end, before.used, before.capacity) == (part.begin, part.used, part.capacity):
            part = part._replace(begin=stretches.pop().begin)
        stretches.append(part)
    return dict(sorted(found.items()))


class Night(NamedTuple):
    """A copy in a night: how many transfers are asked for, when the last of them ends, and how many are late."""

    night: str
    route: str
    copy: str
    transfers: int
    last_end: str
    late: int
    last: float | None = None


def noons_of(result: Forecast) -> tuple[Days, Bytes]:
    """The days on whose noons the nights of a design begin, the first before it, and those noons in seconds of the design."""
    frame = result.frame
    days = np.arange(frame.first_day - 1, frame.first_day + frame.days, dtype=np.int64)
    return days, (frame.zone.instants(days * DAY + DAY // 2) - frame.begin).astype(float)


def nights_of(followed: Followed) -> Iterator[Night]:
    """The nights of every copy in which something is asked of it. A night is named by the day on whose noon it begins."""
    result = followed.result
    days, noons = noons_of(result)
    found: dict[tuple[int, int, int], list[int]] = {}
    order = {
        (route.id, copy.id): (at, place)
        for at, route in enumerate(result.design.routes)
        for place, copy in enumerate(route.copies)
    }
    asked = followed.when_asked()
    night = np.searchsorted(noons, asked, side="right") - 1
    for place, lane in enumerate(followed.lanes):
        part = np.flatnonzero(followed.lane_of == place)
        key = order[lane.route.id, lane.copy.id]
        for which in np.unique(night[part]).tolist():
            found.setdefault((which, *key), []).extend(part[night[part] == which].tolist())
    for (which, at, copy_at), numbers in sorted(found.items()):
        route = result.design.routes[at]
        ended = followed.ended[numbers]
        late = sum(bool(lateness(followed, number)) for number in numbers)
        name = day_text(int(days[max(which, 0)]))
        end = None if np.isnan(ended).all() else float(np.nanmax(ended))
        yield Night(name, route.id, route.copies[copy_at].id, len(numbers), with_offset(result, end), late, end)


@dataclass(frozen=True)
class Load:
    """What is asked of a resource in its fullest days in a row, and what it can carry in them."""

    resource: str
    from_day: str
    asked_bytes: float
    can_carry_bytes: float
    load: float


def loads_of(followed: Followed) -> Iterator[Load]:
    """For each resource the fullest 28 local days in a row: bytes asked of it over what it can carry while windows are open."""
    frame, resources = followed.result.frame, followed.resources
    midnights = (frame.midnights - frame.begin).astype(float)
    asked, users = _asked_per_day(followed, midnights)
    span = min(FULLEST_DAYS, frame.days)
    for place, label in enumerate(resources.labels):
        if place not in asked:
            continue
        can = _can_carry(followed, place, users[place], midnights)
        sums = np.convolve(asked[place], np.ones(span), "valid"), np.convolve(can, np.ones(span), "valid")
        with np.errstate(divide="ignore", invalid="ignore"):
            load = np.where(sums[1] > 0, sums[0] / sums[1], np.where(sums[0] > 0, np.inf, 0.0))
        # Of equals the first; sums of floating-point numbers that are equal may differ in their last digits.
        first = int(np.flatnonzero(load >= load.max() * (1 - 1e-12))[0])
        day = day_text(frame.first_day + first)
        yield Load(label, day, float(sums[0][first]), float(sums[1][first]), float(load[first]))


def _asked_per_day(followed: Followed, midnights: Bytes) -> tuple[dict[int, Bytes], dict[int, set[int]]]:
    """Bytes asked of each resource on each day, and the lanes that use it."""
    days = len(midnights) - 1
    asked: dict[int, Bytes] = {}
    users: dict[int, set[int]] = {}
    moments = followed.when_asked()
    for number, lane in enumerate(followed.lanes):
        part = slice(lane.first, lane.first + lane.points * lane.machines)
        day = np.searchsorted(midnights, moments[part], side="right") - 1
        inside = (day >= 0) & (day < days) & ~followed.no_way[part]
        for place, amounts in followed.legs.amounts(lane).items():
            whole = np.tile(amounts, lane.machines)
            some = inside & (whole > 0)
            if some.any():
                total = asked.setdefault(place, np.zeros(days))
                total += np.bincount(day[some], weights=whole[some], minlength=days)
                users.setdefault(place, set()).add(number)
    return asked, users


def _can_carry(followed: Followed, place: int, users: set[int], midnights: Bytes) -> Bytes:
    """What a resource can carry on each day while the window of at least one copy that uses it is open."""
    capacity, begin = followed.resources.capacities[place], followed.result.frame.begin
    windows = [followed.openings[number] for number in users]
    edges = midnights.tolist()
    if any(one is None for one in windows):
        spans = [(edges[0], edges[-1])]
    else:
        spans = _union([pair for one in windows if one is not None for pair in zip(one.opens, one.closes, strict=True)])
    found = np.zeros(len(edges) - 1)
    for first, last in spans:
        day = max(0, bisect_right(edges, first) - 1)
        while day < len(found) and edges[day] < last:
            one, other = max(first, edges[day]), min(last, edges[day + 1])
            if one < other:
                found[day] += capacity.bytes_between(begin + one, begin + other)
            day += 1
    return found


def _union(spans: list[tuple[float, float]]) -> list[tuple[float, float]]:
    found: list[tuple[float, float]] = []
    for begin, end in sorted(spans):
        if found and begin <= found[-1][1]:
            found[-1] = (found[-1][0], max(end, found[-1][1]))
        else:
            found.append((begin, end))
    return found
