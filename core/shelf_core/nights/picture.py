"""A night as bars on a clock, and the years as a strip of nights."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes, Places
from shelf_core.calendar.zones import DAY, day_number, day_text
from shelf_core.design.cadences import KINDS
from shelf_core.forecast.finding import Finding
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.ended import LaneEnded
from shelf_core.nights.findings import night_findings
from shelf_core.nights.followed import Followed, NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.loads import Load, loads_of
from shelf_core.nights.quiet import BEGINNING, QuietInstants
from shelf_core.nights.sums import CopySums
from shelf_core.nights.tables import lateness, noons_of, use_by_resource, with_offset
from shelf_core.nights.transfers import Lane
from shelf_core.nights.words import named_label

HOUR = 3600
TICKS_EACH = 3 * HOUR
MOST_BARS = 3000


@dataclass(frozen=True)
class HeldBy:
    """What held a transfer, by its label in tables and by its name, and for how long."""

    label: str
    seconds: float
    name: str


@dataclass(frozen=True)
class ClockTick:
    """A local time on the clock of a night, by seconds since it began."""

    seconds: float
    text: str


@dataclass(frozen=True)
class OpenStretch:
    """From when until when a window is open, in seconds since the night began."""

    begin: float
    end: float


@dataclass(frozen=True)
class UseStretch:
    """From when until when a resource carries so many bytes a second, and how many it could."""

    begin: float
    end: float
    used: float
    capacity: float


@dataclass(frozen=True)
class NightBar:
    """A transfer of one machine. Times are seconds since the night began, None for never; `held` has the longest first.

    `asked_at` and the others are the same in local time, empty for never.
    """

    workload: str
    workload_name: str
    machine: int
    kind: str
    how: str
    moved_bytes: float
    asked: float
    started: float | None
    ended: float | None
    asked_at: str
    started_at: str
    ended_at: str
    held: list[HeldBy]
    late: list[str]
    too_early: bool


@dataclass(frozen=True)
class Bundle:
    """The transfers of a copy, and when its window is open within the night.

    `late` and `last_end` are of all its transfers in the night, also of those that are not shown.
    """

    route: str
    copy: str
    name: str
    windows: list[OpenStretch]
    bars: list[NightBar]
    late: int
    last_end: float | None


@dataclass(frozen=True)
class ResourceUse:
    """What a resource, by its label in tables and by its name, carries through the night."""

    resource: str
    name: str
    stretches: list[UseStretch]


@dataclass(frozen=True)
class NightPicture:
    """A night from the noon of a day to the next. `ticks` are local times on the clock, by seconds from its beginning.

    `left_out` says how many transfers are not shown since there are too many.
    """

    night: str
    seconds: float
    ticks: list[ClockTick]
    bundles: list[Bundle]
    resources: list[ResourceUse]
    left_out: int


def night_of(result: Forecast, day: str, quiet: QuietInstants = BEGINNING) -> NightPicture:
    """The night that begins at noon of a day. `quiet` are instants from which it may be followed.

    Raises ValueError for a day outside of the design.
    """
    result.place_of(day)
    frame = result.frame
    local = day_number(day) * DAY + DAY // 2
    begin, end = (float(frame.zone.instant(one) - frame.begin) for one in (local, local + DAY))
    followed = follow(result, NightSpan(begin, end, with_use=True, since=quiet.last_before(begin), lanes=quiet.lanes))
    asked = followed.when_asked()
    over = np.where(np.isnan(followed.ended), followed.given_up, followed.ended)
    chosen = np.flatnonzero((asked < end) & ~(over <= begin))
    in_order = chosen[np.argsort(asked[chosen], kind="stable")]
    ticks = [ClockTick(float(at), _clock(result, begin + at)) for at in range(0, int(end - begin) + 1, TICKS_EACH)]
    resources = _use(followed, begin, end)
    bundles = _bundles(followed, in_order, begin, end)
    left_out = len(chosen) - sum(len(one.bars) for one in bundles)
    return NightPicture(day, end - begin, ticks, bundles, resources, left_out)


@dataclass(frozen=True)
class CopyEnd:
    """What a copy came to in a night: how many are late, and when the last ends, in seconds since the night began."""

    route: str
    copy: str
    late: int
    last_end: float | None


def copy_ends(night: NightPicture) -> list[CopyEnd]:
    """What each copy of a night came to, without its transfers."""
    return [CopyEnd(one.route, one.copy, one.late, one.last_end) for one in night.bundles]


def _clock(result: Forecast, seconds: float) -> str:
    local = int(result.frame.zone.local(np.array([int(seconds) + result.frame.begin]))[0]) % DAY
    return f"{local // HOUR:02}:{local % HOUR // 60:02}"


def _bundles(followed: Followed, numbers: Places, begin: float, end: float) -> list[Bundle]:
    """Every copy with its transfers; of a crowded night each shows as many, and what is late counts all of them."""
    found: dict[tuple[str, str], list[int]] = {}
    for number in numbers.tolist():
        lane = followed.lane(number)[0]
        found.setdefault((lane.route.id, lane.copy.id), []).append(number)
    each = fair_share([len(mine) for mine in found.values()], MOST_BARS)
    return [_bundle(followed, mine, each, begin, end) for mine in found.values()]


def fair_share(counts: list[int], most: int) -> int:
    """How many each may show at most, so that all together show no more than so many.

    >>> fair_share([10, 4000, 4000], 3000), fair_share([10, 20], 3000)
    (1495, 20)
    """
    left, among = most, len(counts)
    for count in sorted(counts):
        if count * among > left:
            return left // among
        left, among = left - count, among - 1
    return max(counts, default=0)


def _bundle(followed: Followed, numbers: list[int], each: int, begin: float, end: float) -> Bundle:
    lane = followed.lane(numbers[0])[0]
    name = f"{lane.route.name or lane.route.id}: {lane.copy.name or lane.copy.id}"
    bars = [_bar(followed, number, *followed.lane(number), begin) for number in numbers[:each]]
    late = sum(bool(lateness(followed, number)) for number in numbers)
    ends = followed.ended[numbers]
    last_end = float(np.nanmax(ends)) - begin if not np.isnan(ends).all() else None
    return Bundle(lane.route.id, lane.copy.id, name, _windows(followed, numbers[0], begin, end), bars, late, last_end)


def _bar(followed: Followed, number: int, lane: Lane, machine: int, point: int, begin: float) -> NightBar:
    held = sorted(followed.held.get(number, {}).items(), key=lambda one: -one[1])
    asked = float(followed.when_asked()[number]) if math.isnan(followed.asked[number]) else float(followed.asked[number])
    return NightBar(
        lane.workload.id,
        lane.workload.name or lane.workload.id,
        machine + 1,
        KINDS[int(lane.kind[point])],
        lane.how,
        float(lane.moved_bytes[point]),
        asked - begin,
        _since(followed.started[number], begin),
        _since(followed.ended[number], begin),
        _local(followed, asked),
        _local(followed, float(followed.started[number])),
        _local(followed, float(followed.ended[number])),
        [HeldBy(label, seconds, named_label(label, followed.result.design)) for label, seconds in held if seconds > 1e-3],
        lateness(followed, number),
        bool(followed.too_early[number]),
    )


def _local(followed: Followed, instant: float) -> str:
    return with_offset(followed.result, instant)[:19].replace("T", " ")


def _since(instant: float, begin: float) -> float | None:
    return None if math.isnan(instant) else float(instant) - begin


def _windows(followed: Followed, number: int, begin: float, end: float) -> list[OpenStretch]:
    window = followed.window(number)
    if window is None:
        return []
    pairs = zip(window.opens, window.closes, strict=True)
    return [
        OpenStretch(max(one, begin) - begin, min(other, end) - begin) for one, other in pairs if other > begin and one < end
    ]


def _use(followed: Followed, begin: float, end: float) -> list[ResourceUse]:
    return [
        ResourceUse(
            followed.resources.labels[place],
            named_label(followed.resources.labels[place], followed.result.design),
            [UseStretch(one.begin - begin, one.end - begin, one.used, one.capacity) for one in stretches],
        )
        for place, stretches in use_by_resource(followed, begin, end).items()
    ]


@dataclass(frozen=True)
class CopyNights:
    """A copy through all nights: transfers asked for, how many of them are late, and the hours from noon to the last end."""

    route: str
    copy: str
    name: str
    transfers: list[int]
    late: list[int]
    last_end_hours: list[float | None]
    first_late: str | None


@dataclass(frozen=True)
class YearsOfNights:
    """All nights of a design by the days on whose noons they begin.

    `first_late` is the first night on which something is late, `loads` what is asked of each resource in its fullest days,
    `findings` the slips that all this shows.
    """

    nights: list[str]
    copies: list[CopyNights]
    loads: list[Load]
    first_late: str | None
    findings: list[Finding]


@dataclass(frozen=True)
class AllNights:
    """All nights of a design, the instants from which a single one may be followed, and when each point had come.

    `ended` is None in results that were written down before it was kept.
    """

    years: YearsOfNights
    quiet: QuietInstants
    ended: list[LaneEnded] | None = None


def all_nights(
    result: Forecast, sums: Sequence[CopySums], quiet: QuietInstants, ended: list[LaneEnded] | None = None
) -> AllNights:
    """All nights of a design from what its transfers come to."""
    days, noons = noons_of(result)
    names = [day_text(int(day)) for day in days]
    loads = list(loads_of(result, sums))
    copies = [_copy_nights(result, one, names, noons) for one in sums]
    first_late = min((one.first_late for one in copies if one.first_late), default=None)
    findings = night_findings(result, sums, loads)
    return AllNights(YearsOfNights(names, copies, loads, first_late, findings), quiet, ended)


def _copy_nights(result: Forecast, sums: CopySums, names: list[str], noons: Bytes) -> CopyNights:
    route = next(one for one in result.design.routes if one.id == sums.route)
    copy = next(one for one in route.copies if one.id == sums.copy)
    nights = [sums.nights.get(place) for place in range(len(names))]
    ends = [
        None if one is None or one.last_end is None else (one.last_end - float(noons[place])) / HOUR
        for place, one in enumerate(nights)
    ]
    return CopyNights(
        route=route.id,
        copy=copy.id,
        name=f"{route.name or route.id}: {copy.name or copy.id}",
        transfers=[one.transfers if one else 0 for one in nights],
        late=[one.late if one else 0 for one in nights],
        last_end_hours=ends,
        first_late=next((names[place] for place, one in enumerate(nights) if one and one.late), None),
    )
