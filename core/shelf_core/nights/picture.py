"""A night as bars on a clock, and the years as a strip of nights."""

import math
from dataclasses import dataclass

import numpy as np

from shelf_core.calendar.zones import DAY, day_number, day_text
from shelf_core.design.cadences import KINDS
from shelf_core.forecast.finding import Finding
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.findings import night_findings
from shelf_core.nights.following import Followed, NightSpan, follow
from shelf_core.nights.tables import Load, lateness, loads_of, nights_of, noons_of, use_by_resource
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
    """A transfer of one machine. Times are seconds since the night began, None for never; `held` has the longest first."""

    workload: str
    machine: int
    kind: str
    how: str
    moved_bytes: float
    asked: float
    started: float | None
    ended: float | None
    held: list[HeldBy]
    late: list[str]
    too_early: bool


@dataclass(frozen=True)
class Bundle:
    """The transfers of a copy, and when its window is open within the night."""

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


def night_of(result: Forecast, day: str, since: float = 0.0) -> NightPicture:
    """The night that begins at noon of a day. `since` is a quiet instant before it, as `YearsOfNights` has them.

    Raises ValueError for a day outside of the design.
    """
    result.place_of(day)
    frame = result.frame
    local = day_number(day) * DAY + DAY // 2
    begin, end = (float(frame.zone.instant(one) - frame.begin) for one in (local, local + DAY))
    followed = follow(result, NightSpan(begin, end, with_use=True, since=since))
    asked = followed.when_asked()
    over = np.where(np.isnan(followed.ended), followed.given_up, followed.ended)
    chosen = np.flatnonzero((asked < end) & ~(over <= begin))
    shown = chosen[np.argsort(asked[chosen], kind="stable")][:MOST_BARS]
    ticks = [ClockTick(float(at), _clock(result, begin + at)) for at in range(0, int(end - begin) + 1, TICKS_EACH)]
    resources = _use(followed, begin, end)
    return NightPicture(day, end - begin, ticks, _bundles(followed, shown, begin, end), resources, len(chosen) - len(shown))


def _clock(result: Forecast, seconds: float) -> str:
    local = int(result.frame.zone.local(np.array([int(seconds) + result.frame.begin]))[0]) % DAY
    return f"{local // HOUR:02}:{local % HOUR // 60:02}"


def _bundles(followed: Followed, numbers: np.ndarray, begin: float, end: float) -> list[Bundle]:
    found: dict[tuple[str, str], tuple[Lane, list[NightBar], list[OpenStretch]]] = {}
    for number in numbers.tolist():
        lane, machine, point = followed.lane(number)
        key = (lane.route.id, lane.copy.id)
        if key not in found:
            found[key] = (lane, [], _windows(followed, number, begin, end))
        found[key][1].append(_bar(followed, number, lane, machine, point, begin))
    bundles = []
    for (route, copy), (lane, bars, windows) in found.items():
        ends = [one.ended for one in bars if one.ended is not None]
        name = f"{lane.route.name or lane.route.id}: {lane.copy.name or lane.copy.id}"
        bundles.append(Bundle(route, copy, name, windows, bars, sum(bool(one.late) for one in bars), max(ends, default=None)))
    return bundles


def _bar(followed: Followed, number: int, lane: Lane, machine: int, point: int, begin: float) -> NightBar:
    held = sorted(followed.held.get(number, {}).items(), key=lambda one: -one[1])
    asked = float(followed.when_asked()[number]) if math.isnan(followed.asked[number]) else float(followed.asked[number])
    return NightBar(
        lane.workload.id,
        machine + 1,
        KINDS[int(lane.kind[point])],
        lane.how,
        float(lane.moved_bytes[point]),
        asked - begin,
        _since(followed.started[number], begin),
        _since(followed.ended[number], begin),
        [HeldBy(label, seconds, named_label(label, followed.result.design)) for label, seconds in held if seconds > 1e-3],
        lateness(followed, number),
        bool(followed.too_early[number]),
    )


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
    """All nights of a design by the days on whose noons they begin. `since` is the last quiet instant before each.

    `first_late` is the first night on which something is late, `loads` what is asked of each resource in its fullest days,
    `findings` the slips that all this shows.
    """

    nights: list[str]
    copies: list[CopyNights]
    since: list[float]
    loads: list[Load]
    first_late: str | None
    findings: list[Finding]


def years_of_nights(result: Forecast) -> YearsOfNights:
    """Follow the whole design."""
    followed = follow(result, NightSpan(begin=math.inf))
    days, noons = noons_of(result)
    names = [day_text(int(day)) for day in days]
    places = {name: place for place, name in enumerate(names)}
    copies: dict[tuple[str, str], CopyNights] = {}
    labels = {
        (route.id, copy.id): f"{route.name or route.id}: {copy.name or copy.id}"
        for route in result.design.routes
        for copy in route.copies
    }
    late_on: dict[tuple[str, str], str] = {}
    nights, asked = list(nights_of(followed)), list(loads_of(followed))
    for night in nights:
        key = (night.route, night.copy)
        one = copies.setdefault(
            key, CopyNights(*key, labels[key], [0] * len(names), [0] * len(names), [None] * len(names), None)
        )
        place = places[night.night]
        one.transfers[place], one.late[place] = night.transfers, night.late
        one.last_end_hours[place] = None if night.last is None else (night.last - float(noons[place])) / HOUR
        if night.late:
            late_on.setdefault(key, night.night)
    quiet = np.array([0.0, *followed.quiet])
    since = quiet[np.searchsorted(quiet, noons, side="right") - 1].tolist()
    done = [CopyNights(**{**vars(one), "first_late": late_on.get(key)}) for key, one in copies.items()]
    found = night_findings(followed, nights, asked)
    return YearsOfNights(names, done, since, asked, min(late_on.values(), default=None), found)
