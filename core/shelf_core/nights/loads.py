"""The nights of every copy, and what is asked of each resource in its fullest days."""

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.calendar.zones import day_text
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.legs import Legs
from shelf_core.nights.resources import Resources
from shelf_core.nights.sums import CopySums, asked_per_day
from shelf_core.nights.tables import noons_of, with_offset
from shelf_core.nights.transfers import lanes_of
from shelf_core.nights.windows import Openings

FULLEST_DAYS = 28


class Night(NamedTuple):
    """A copy in a night: how many transfers are asked for, when the last of them ends, and how many are late."""

    night: str
    route: str
    copy: str
    transfers: int
    last_end: str
    late: int
    last: float | None = None


def nights_of(result: Forecast, sums: Sequence[CopySums]) -> Iterator[Night]:
    """The nights of every copy in which something is asked of it. A night is named by the day on whose noon it begins."""
    days, _ = noons_of(result)
    rows = [(place, number, one) for number, one in enumerate(sums) for place in one.nights]
    for place, _number, one in sorted(rows, key=lambda row: row[:2]):
        night = one.nights[place]
        end = with_offset(result, night.last_end)
        yield Night(day_text(int(days[place])), one.route, one.copy, night.transfers, end, night.late, night.last_end)


@dataclass(frozen=True)
class Load:
    """What is asked of a resource in its fullest days in a row, and what it can carry in them."""

    resource: str
    from_day: str
    asked_bytes: float
    can_carry_bytes: float
    load: float


def loads_of(result: Forecast, sums: Sequence[CopySums]) -> Iterator[Load]:
    """For each resource the fullest 28 local days in a row: bytes asked of it over what it can carry while windows are open."""
    frame = result.frame
    midnights = (frame.midnights - frame.begin).astype(float)
    resources = _all_resources(result)
    span = min(FULLEST_DAYS, frame.days)
    for label, asked, users in asked_per_day(sums, frame.days):
        can = _can_carry(result, resources, label, users, midnights)
        of_days = np.convolve(asked, np.ones(span), "valid"), np.convolve(can, np.ones(span), "valid")
        with np.errstate(divide="ignore", invalid="ignore"):
            load = np.where(of_days[1] > 0, of_days[0] / of_days[1], np.where(of_days[0] > 0, np.inf, 0.0))
        # Of equals the first; sums of floating-point numbers that are equal may differ in their last digits.
        first = int(np.flatnonzero(load >= load.max() * (1 - 1e-12))[0])
        day = day_text(frame.first_day + first)
        yield Load(label, day, float(of_days[0][first]), float(of_days[1][first]), float(load[first]))


def _all_resources(result: Forecast) -> Resources:
    """All that the transfers of a design share."""
    resources = Resources(result.design, result.frame)
    legs = Legs(result, resources)
    for lane in lanes_of(result):
        legs.amounts(lane)
    return resources


def _can_carry(result: Forecast, resources: Resources, label: str, users: Sequence[CopySums], midnights: Bytes) -> Bytes:
    """What a resource can carry on each day while the window of at least one copy that uses it is open."""
    capacity, begin = resources.capacities[resources.labels.index(label)], result.frame.begin
    copies = {(route.id, copy.id): copy for route in result.design.routes for copy in route.copies}
    given = [copies[one.route, one.copy].window for one in users]
    windows = [None if window is None else Openings(window, result.frame) for window in given]
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
