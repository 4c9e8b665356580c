"""Tables of nights: what each transfer came to, the use of resources, the nights of every copy, what is asked of resources."""

import math
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Days, Mask
from shelf_core.calendar.zones import DAY, local_second, local_text
from shelf_core.design.cadences import KINDS
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.followed import Followed
from shelf_core.nights.moving import Use
from shelf_core.nights.transfers import NONE

NO_WAY = "no way"
LATE_BY = 1e-3
"""Seconds: what ends so little after a closing ends at it."""


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


def late_ones(followed: Followed) -> Mask:
    """Which transfers are late: the answer of `lateness` for all of them at once."""
    late = followed.no_way | ~np.isnan(followed.given_up)
    ends = np.where(np.isnan(followed.ended), math.inf, followed.ended)
    for lane, openings in zip(followed.lanes, followed.openings, strict=True):
        part = slice(lane.first, lane.first + lane.points * lane.machines)
        asked, ended = followed.asked[part], ends[part]
        known = ~np.isnan(asked)
        after = np.tile(lane.after, lane.machines) + np.repeat(np.arange(lane.machines) * lane.points, lane.points)
        has_next = np.tile(lane.after != NONE, lane.machines)
        with np.errstate(invalid="ignore"):
            behind = known & has_next & (ended > asked[after] + LATE_BY)
        if openings is not None:
            closes = np.array([*openings.closes, math.inf])
            place = np.searchsorted(closes[:-1], np.where(known, asked, 0.0) + 1e-6, side="right")
            no_log = np.tile(lane.kind != LOG, lane.machines)
            behind |= known & no_log & (ended > closes[place] + LATE_BY)
        late[part] |= behind
    return late


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


def noons_of(result: Forecast) -> tuple[Days, Bytes]:
    """The days on whose noons the nights of a design begin, the first before it, and those noons in seconds of the design."""
    frame = result.frame
    days = np.arange(frame.first_day - 1, frame.first_day + frame.days, dtype=np.int64)
    return days, (frame.zone.instants(days * DAY + DAY // 2) - frame.begin).astype(float)
