"""Series through time, thinned so that no peak and no low is lost."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from shelf_core.forecast.forecast import Forecast, TargetForecast


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
