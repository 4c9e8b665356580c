"""Series through time, thinned so that no peak and no low is lost."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from shelf_core.forecast.forecast import Forecast, TargetForecast
from shelf_core.forecast.splits import By, split

MOST_PARTS = 8
"""More layers than this cannot be told apart in a picture."""


@dataclass(frozen=True)
class Series:
    """One target at chosen days: their places in the design, and what holds on each."""

    target: str
    places: list[int]
    points: list[int]
    stored_bytes: list[float]
    peak_bytes: list[float]
    room_bytes: list[float] | None


def series(result: Forecast, most: int) -> list[Series]:
    """All targets at `most` days or fewer: of every stretch of days the one with the highest peak and the lowest sum."""
    return [_thinned(one, _places(one, most)) for one in result.targets]


@dataclass(frozen=True)
class SplitPart:
    """One part of a target at the days of its split: its name, and what there is of it."""

    name: str
    points: list[int]
    stored_bytes: list[float]


@dataclass(frozen=True)
class SplitSeries:
    """A target told apart at chosen days, the largest part first; what is past MOST_PARTS is one part, the last.

    The stored bytes of the parts add up to those of the target.
    """

    target: str
    by: By
    places: list[int]
    parts: list[SplitPart]


def split_series(result: Forecast, target: str, by: By, most: int, on: str | None = None) -> SplitSeries:
    """The parts of a target at `most` days or fewer, thinned as its series is, and on the day `on`.

    Raises KeyError for an unknown target, ValueError for a day outside the design.
    """
    parts = split(result, target, by)
    places = _places(next(one for one in result.targets if one.target.id == target), most)
    if on is not None:
        places = np.union1d(places, [result.place_of(on)])
    ordered = sorted(parts.items(), key=lambda item: -float(item[1].stored_bytes.sum()))
    rows = [(name, part.points[places], part.stored_bytes[places]) for name, part in ordered]
    rest = rows[MOST_PARTS - 1 :]
    if len(rest) > 1:
        points = np.sum([one[1] for one in rest], axis=0)
        stored = np.sum([one[2] for one in rest], axis=0)
        rows = [*rows[: MOST_PARTS - 1], (f"{len(rest)} others", points, stored)]
    shown = [SplitPart(name, points.tolist(), stored.tolist()) for name, points, stored in rows]
    return SplitSeries(target, by, places.tolist(), shown)


def _thinned(one: TargetForecast, places: NDArray[np.int64]) -> Series:
    totals = one.totals
    return Series(
        one.target.id,
        places.tolist(),
        totals.points[places].tolist(),
        totals.stored_bytes[places].tolist(),
        totals.peak_bytes[places].tolist(),
        None if one.room_bytes is None else one.room_bytes[places].tolist(),
    )


def _places(one: TargetForecast, most: int) -> NDArray[np.int64]:
    days = len(one.totals.points)
    if days <= most:
        return np.arange(days)
    edges = np.linspace(0, days, max(1, (most - 2) // 2) + 1).astype(np.int64)
    chosen = [0, days - 1]
    for begin, end in pairwise(edges.tolist()):
        chosen.append(begin + int(one.totals.peak_bytes[begin:end].argmax()))
        chosen.append(begin + int(one.totals.stored_bytes[begin:end].argmin()))
    return np.unique(np.array(chosen))
