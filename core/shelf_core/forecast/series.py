"""Series through time, thinned so that no peak and no low is lost."""

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from shelf_core.arrays import Bytes, Places
from shelf_core.engine.schedule.kinds import FULL, LOG
from shelf_core.engine.volume.ledger import Ledger, arrival_ticks, departure_ticks
from shelf_core.engine.volume.moved import moved_per_day
from shelf_core.engine.volume.pieces import separate_bytes
from shelf_core.forecast.forecast import Forecast, TargetForecast
from shelf_core.forecast.moves import moved_of
from shelf_core.forecast.splits import By, split
from shelf_core.forecast.unfree import least_each_day

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


@dataclass(frozen=True)
class DetailSeries(Series):
    """A series with all else that is to be said of a target through time.

    `logical_bytes` are what the points stand for before they are reduced or share blocks, `moved_bytes` what comes on each
    day, `least_bytes` what would stay if every rule were cut at its end, `locked_bytes` what of it locks hold: the rest could
    be deleted, but is billed for its minimum stay.
    """

    logical_bytes: list[float]
    moved_bytes: list[float]
    least_bytes: list[float]
    locked_bytes: list[float]


def detail_series(result: Forecast, target: str, most: int, first: str | None = None, last: str | None = None) -> DetailSeries:
    """One target from the day `first` to the day `last`, at `most` days or fewer, its own and its moved peaks among them.

    Raises KeyError for an unknown target, ValueError for a day outside the design or days that do not ascend.
    """
    one = next((found for found in result.targets if found.target.id == target), None)
    if one is None:
        raise KeyError(target)
    begin, end = _range(result, first, last)
    moved, logical = moved_each_day(result, target), logical_each_day(result, target)
    places = np.arange(begin, end)
    if len(places) > most:
        peaks = extremes(one.totals.peak_bytes, one.totals.stored_bytes, begin, end, most * 2 // 3)
        places = np.unique(np.r_[peaks, extremes(moved, moved, begin, end, most // 3)])
    least, locked = least_each_day(result, target), least_each_day(result, target, by_locks_alone=True)
    room = None if one.room_bytes is None else one.room_bytes[places].tolist()
    totals = one.totals
    columns = (totals.points, totals.stored_bytes, totals.peak_bytes)
    points, stored, peak = (column[places].tolist() for column in columns)
    return DetailSeries(
        target,
        places.tolist(),
        points,
        stored,
        peak,
        room,
        *(each[places].tolist() for each in (logical, moved, least, locked)),
    )


def _range(result: Forecast, first: str | None, last: str | None) -> tuple[int, int]:
    begin = 0 if first is None else result.place_of(first)
    end = result.frame.days - 1 if last is None else result.place_of(last)
    if begin >= end:
        raise ValueError(f"expected a last day after {result.day(begin)}, got {result.day(end)}")
    return begin, end + 1


def moved_each_day(result: Forecast, target: str) -> Bytes:
    """The bytes that come to a target on each day."""
    total = np.zeros(result.frame.days)
    for holding in result.holdings:
        if result.design.targets[holding.target].id == target:
            total += moved_per_day(holding, moved_of(result, holding), result.frame)
    return total


def logical_each_day(result: Forecast, target: str) -> Bytes:
    """What the points of a target stand for at the end of each day: their sizes alone, not reduced and shared with none.

    A full and a snapshot stand for the whole source, a change for what had changed. Where blocks are shared every point
    stands for the whole source, since each can be read by itself there.
    """
    ledger = Ledger()
    for holding in result.holdings:
        if result.design.targets[holding.target].id == target:
            plain = tuple(one.model_copy(update={"reduction": 1.0, "change_reduction": None}) for one in holding.workloads)
            life = replace(holding.life, given=np.full(len(holding.life), np.nan))
            if result.design.targets[holding.target].packing == "shared":
                life = replace(life, stored_as=np.where(life.stored_as == LOG, life.stored_as, FULL))
            sizes = separate_bytes(life, plain, result.frame)
            ledger.add_between(arrival_ticks(life), departure_ticks(life), sizes)
    at_end = ledger.days(result.frame).at_end
    return np.where(at_end > 1e-9 * at_end.max(initial=0.0), at_end, 0.0)


def split_series(
    result: Forecast,
    target: str,
    by: By,
    most: int,
    on: str | None = None,
    first: str | None = None,
    last: str | None = None,
) -> SplitSeries:
    """The parts of a target at `most` days or fewer, thinned as its series is, from `first` to `last` and on the day `on`.

    Raises KeyError for an unknown target, ValueError for a day outside the design.
    """
    parts = split(result, target, by)
    one = next(found for found in result.targets if found.target.id == target)
    begin, end = _range(result, first, last)
    places = extremes(one.totals.peak_bytes, one.totals.stored_bytes, begin, end, most)
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


def _thinned(one: TargetForecast, places: Places) -> Series:
    totals = one.totals
    return Series(
        one.target.id,
        places.tolist(),
        totals.points[places].tolist(),
        totals.stored_bytes[places].tolist(),
        totals.peak_bytes[places].tolist(),
        None if one.room_bytes is None else one.room_bytes[places].tolist(),
    )


def _places(one: TargetForecast, most: int) -> Places:
    return extremes(one.totals.peak_bytes, one.totals.stored_bytes, 0, len(one.totals.points), most)


def extremes(high: Bytes, low: Bytes, begin: int, end: int, most: int) -> Places:
    """From `begin` to before `end`: the first and last day, and of each stretch where one is highest and other lowest."""
    if end - begin <= most:
        return np.arange(begin, end)
    edges = np.linspace(begin, end, max(1, (most - 2) // 2) + 1).astype(np.int64)
    chosen = [begin, end - 1]
    for start, stop in pairwise(edges.tolist()):
        chosen.append(start + int(high[start:stop].argmax()))
        chosen.append(start + int(low[start:stop].argmin()))
    return np.unique(np.array(chosen))
