"""Two designs side by side: not how their texts differ, but what each would hold, cost and be able to bring back."""

from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Instants
from shelf_core.calendar.zones import DAY, day_number
from shelf_core.cost.cost import Cost
from shelf_core.digits import grouped
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.forecast import Forecast, TargetForecast
from shelf_core.forecast.shelves import Shelf, shelves_on


@dataclass(frozen=True)
class Side:
    """One design's figures of a target. None of them where the design has no such target."""

    peak_bytes: float
    peak_on: str
    full_on: str | None
    cost_whole: float


@dataclass(frozen=True)
class OnDate:
    """A target at the end of a day in both designs.

    A restore moment is a workload at a time that a point of it stands for; `lost_moments` are those of the first design that
    the second has no point for on this target, `gained_moments` the other way round. Logs are counted apart from points
    everywhere, and so not here. `cost_month` is of the month of the day.
    """

    on: str
    points: tuple[int | None, int | None]
    stored_bytes: tuple[float | None, float | None]
    cost_month: tuple[float | None, float | None]
    lost_moments: int
    gained_moments: int


@dataclass(frozen=True)
class TargetComparison:
    """One target, by its id in both designs."""

    target: str
    name: str
    sides: tuple[Side | None, Side | None]
    dates: list[OnDate]


@dataclass(frozen=True)
class Comparison:
    """All targets of either design, those of the first before what only the second has.

    `lost_everywhere` counts by date the restore moments that no target of the second design has, though one of the first had.
    """

    dates: list[str]
    lost_everywhere: list[int]
    gained_everywhere: list[int]
    targets: list[TargetComparison]


Moments = dict[tuple[str, str], Instants]
"""By target and workload the times that its points stand for, ascending."""


def compare(one: tuple[Forecast, Cost], other: tuple[Forecast, Cost], dates: list[str]) -> Comparison:
    """Both designs at the ends of days. Raises ValueError for a day that neither covers."""
    sides = (one, other)
    for day in dates:
        if not any(_covers(result, day) for result, _ in sides):
            raise ValueError(f"expected a date within one of the designs, got {day}")
    order = list(dict.fromkeys(target.id for result, _ in sides for target in result.design.targets))
    moments = [[_moments(result, day) for result, _ in sides] for day in dates]
    workloads = [{workload.id: workload.count for workload in result.design.workloads} for result, _ in sides]
    counts = {**workloads[1], **workloads[0]}
    targets = []
    for target in order:
        found = tuple(_target(result, target) for result, _ in sides)
        on_dates = []
        for day, (before, after) in zip(dates, moments, strict=True):
            lost = _missing(_of_target(before, target), _of_target(after, target), counts)
            gained = _missing(_of_target(after, target), _of_target(before, target), counts)
            figures = [_figures(result, cost, target, day) for result, cost in sides]
            points, stored, costs = ((figures[0][at], figures[1][at]) for at in range(3))
            on_dates.append(OnDate(day, points, stored, costs, lost, gained))  # type: ignore[arg-type]
        name = next(one.target.name or target for one in found if one is not None)
        ends = tuple(_side(result, cost, each) for (result, cost), each in zip(sides, found, strict=True))
        targets.append(TargetComparison(target, name, ends, on_dates))  # type: ignore[arg-type]
    everywhere = [[_anywhere(each) for each in pair] for pair in moments]
    lost_in_all = [_missing(before, after, counts) for before, after in everywhere]
    gained_in_all = [_missing(after, before, counts) for before, after in everywhere]
    return Comparison(dates, lost_in_all, gained_in_all, targets)


def comparison_sentence(found: Comparison, other: str) -> str:
    """What the second design of a comparison is beside the first, which is called `other`, on its first date.

    >>> comparison_sentence(Comparison(["2028-12-31"], [0], [12], []), "As it stands")
    'Beside As it stands, on 31 December 2028: no restore moment is lost, 12 are gained.'
    """
    lost, gained = found.lost_everywhere[0], found.gained_everywhere[0]
    on = written_day(day_number(found.dates[0]) * DAY)
    return f"Beside {other}, on {on}: {_moments_words(lost)} lost, {_moments_words(gained, short=True)} gained."


def _moments_words(count: int, *, short: bool = False) -> str:
    what = "" if short else " restore moment"
    if count == 0:
        return f"no{what} is" if not short else "none is"
    return f"{grouped(count)}{what} is" if count == 1 else f"{grouped(count)}{what}{'' if short else 's'} are"


def year_ends(result: Forecast) -> list[str]:
    """The last day of each year of a design, counted from its start."""
    return [result.day(min(result.frame.days - 1, round(365.25 * year) - 1)) for year in range(1, result.design.years + 1)]


def _covers(result: Forecast, day: str) -> bool:
    return result.day(0) <= day <= result.day(result.frame.days - 1)


def _target(result: Forecast, target: str) -> TargetForecast | None:
    return next((one for one in result.targets if one.target.id == target), None)


def _side(result: Forecast, cost: Cost, one: TargetForecast | None) -> Side | None:
    if one is None:
        return None
    top = int(one.totals.peak_bytes.argmax())
    whole = next(each for each in cost.targets if each.target == one.target.id)
    full = None if one.full_on is None else result.day(one.full_on)
    return Side(float(one.totals.peak_bytes[top]), result.day(top), full, float(whole.per_month().sum()))


def _figures(result: Forecast, cost: Cost, target: str, day: str) -> tuple[int | None, float | None, float | None]:
    one = _target(result, target)
    if one is None or not _covers(result, day):
        return None, None, None
    place = result.place_of(day)
    month = next(each for each in cost.targets if each.target == target).per_month()[cost.month_of(day)]
    return int(one.totals.points[place]), float(one.totals.stored_bytes[place]), float(month)


def _moments(result: Forecast, day: str) -> Moments:
    if not _covers(result, day):
        return {}
    found: dict[tuple[str, str], list[Instants]] = {}
    for shelf in shelves_on(result, day):
        target = result.design.targets[shelf.holding.target].id
        taken = _taken(shelf)
        for workload in shelf.holding.workloads:
            found.setdefault((target, workload.id), []).append(taken)
    return {key: np.unique(np.concatenate(parts)) for key, parts in found.items()}


def _taken(shelf: Shelf) -> Instants:
    life = shelf.holding.life
    places = shelf.places[life.kind[shelf.places] != LOG]
    return life.taken[places]


def _of_target(moments: Moments, target: str) -> Moments:
    return {key: taken for key, taken in moments.items() if key[0] == target}


def _anywhere(moments: Moments) -> Moments:
    found: dict[str, list[Instants]] = {}
    for (_, workload), taken in moments.items():
        found.setdefault(workload, []).append(taken)
    return {("", workload): np.unique(np.concatenate(parts)) for workload, parts in found.items()}


def _missing(there: Moments, elsewhere: Moments, counts: dict[str, int]) -> int:
    """How many moments are there and not elsewhere; a workload that stands for several counts as often."""
    nothing = np.zeros(0, np.int64)
    return sum(
        counts[key[1]] * int((~np.isin(taken, elsewhere.get(key, nothing), assume_unique=True)).sum())
        for key, taken in there.items()
    )
