"""Bands: what lies between low and high on each target, and when it is full with what probability."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from pydantic import ConfigDict

from shelf_core.arrays import Money, Places
from shelf_core.chance.draws import Draws, drawn, ranges_of
from shelf_core.chance.samples import Samples, samples_of
from shelf_core.cost.cost import Cost, cost_of
from shelf_core.cost.months import months_of
from shelf_core.design.document import Design, selected
from shelf_core.design.targets import Prices
from shelf_core.design.values import TB
from shelf_core.design.workloads import Workload
from shelf_core.digits import grouped
from shelf_core.engine.divided import in_one_go
from shelf_core.engine.memory import Memory
from shelf_core.engine.watching import Watch, nobody
from shelf_core.forecast.forecast import Forecast, TargetForecast, forecast
from shelf_core.forecast.series import extremes

LOW, MIDDLE, HIGH = 0.1, 0.5, 0.9
LEAST_DRAWS, MOST_DRAWS = 1000, 5000


@dataclass(frozen=True)
class Band:
    """Quantiles of one target: a tenth of the draws lies below `low`, a tenth above `high`, for each day of `places`.

    `peak_*` are those of the highest peak of the whole design. `full_low` to `full_high` is the day it is full, None for not
    within the design; `full_probability` the share of draws in which it is full at all, `full_by_year` by the end of each of
    the design's years.
    """

    target: str
    places: list[int]
    stored_low: list[float]
    stored_middle: list[float]
    stored_high: list[float]
    peak_day_low: list[float]
    peak_day_high: list[float]
    peak_low: float
    peak_middle: float
    peak_high: float
    full_low: str | None
    full_middle: str | None
    full_high: str | None
    full_probability: float | None
    full_by_year: list[float] | None


@dataclass(frozen=True)
class Swing:
    """What one unknown quantity does to the highest peak of a target: at its low and its high, all others as expected."""

    unknown: str
    quantity: str
    target: str
    peak_at_low: float
    peak_at_high: float
    full_at_low: str | None
    full_at_high: str | None

    @property
    def width(self) -> float:
        """How far the two are apart."""
        return abs(self.peak_at_high - self.peak_at_low)


@dataclass(frozen=True)
class CostBand:
    """What the design costs in each month and in all: in a tenth, half and nine tenths of the draws no more than this.

    The capacity that is paid for is that of each draw; all other categories are as expected.
    """

    month_low: list[float]
    month_middle: list[float]
    month_high: list[float]
    whole_low: float
    whole_middle: float
    whole_high: float


@dataclass(frozen=True)
class Bands:
    """All targets, and the swings of every unknown, the widest of each target first."""

    draws: int
    seed: int
    correlation: float
    bands: list[Band]
    swings: list[Swing]
    cost: CostBand


@dataclass(frozen=True)
class BandsPart:
    """What comes of one part of the work: a target's band and its cost, or the swings of one unknown quantity.

    `cost` are amounts of money as 64-bit floats, month by month and in each month draw by draw.
    """

    __pydantic_config__ = ConfigDict(ser_json_bytes="base64", val_json_bytes="base64")
    band: Band | None
    cost: bytes
    swings: list[Swing]


def bands_of(
    result: Forecast, count: int, seed: int, most: int = 200, memory: Memory | None = None, watch: Watch = nobody
) -> Bands:
    """The bands of a design from so many draws, at `most` days or fewer, always the same for a seed.

    `watch` is told how far it is; what it raises stops it. Raises ValueError for too few or too many draws or a design
    without unknowns, DesignError for a workload whose own value is outside of its range.
    """
    return in_one_go(BandsWork(result, count, seed, most, memory), watch)


class BandsWork:
    """The bands of a design, in parts: one for each target, then one for each quantity that is not known."""

    def __init__(self, result: Forecast, count: int, seed: int, most: int = 200, memory: Memory | None = None) -> None:
        self._design = result.design
        if not LEAST_DRAWS <= count <= MOST_DRAWS:
            raise ValueError(f"expected {grouped(LEAST_DRAWS)} to {grouped(MOST_DRAWS)} draws, got {grouped(count)}")
        if not self._design.unknowns:
            raise ValueError("expected a design that says what is not known of its workloads, got none")
        self._result, self._count, self._seed, self._most = result, count, seed, most
        self._memory = memory or Memory()
        self._asked = [(unknown.id, name) for unknown in self._design.unknowns for name, _ in ranges_of(unknown)]

    def __len__(self) -> int:
        return len(self._design.targets) + len(self._asked)

    def part(self, number: int) -> BandsPart:
        """One target, or one unknown quantity. Raises DesignError as `bands_of` does."""
        place = number - len(self._design.targets)
        if place >= 0:
            return BandsPart(None, b"", _swings(self._result, *self._asked[place], self._memory))
        samples = samples_of(self._result, number, self._draws)
        band = _band(self._result, self._result.targets[number], samples, self._most)
        return BandsPart(band, self._cost_in_each_draw(number, samples).tobytes(), [])

    def joined(self, parts: Sequence[BandsPart]) -> Bands:
        """All targets in their order, and of each the widest swing first."""
        bands = [one.band for one in parts if one.band is not None]
        order = {target.id: place for place, target in enumerate(self._design.targets)}
        swings = [swing for one in parts for swing in one.swings]
        swings.sort(key=lambda one: (order[one.target], -one.width))
        months = [np.frombuffer(one.cost).reshape(-1, self._count) for one in parts if one.band is not None]
        total = np.sum(months, axis=0)
        return Bands(self._count, self._seed, self._design.correlation, bands, swings, _cost_band(total))

    @cached_property
    def _draws(self) -> Draws:
        return drawn(self._design, self._count, self._seed)

    @cached_property
    def _cost(self) -> Cost:
        return cost_of(self._result, self._memory)

    def _cost_in_each_draw(self, place: int, samples: Samples) -> Money:
        """What a target costs, months by draws: its capacity as in each draw, the rest as expected."""
        expected, prices = self._cost.targets[place], self._design.targets[place].prices or Prices()
        tb_months = samples.byte_seconds / TB / months_of(self._result.frame).seconds[:, None]
        rest = (expected.per_month() - expected.by_category["capacity"])[:, None]
        return np.ascontiguousarray(rest + prices.capacity_tb_month * tb_months)


def _cost_band(total: Money) -> CostBand:
    """The quantiles of each month, and of the sum of all, from what everything costs in months by draws."""
    month = np.quantile(total, (LOW, MIDDLE, HIGH), axis=1).tolist()
    whole = np.quantile(total.sum(axis=0), (LOW, MIDDLE, HIGH)).tolist()
    return CostBand(*month, *whole)


def _band(result: Forecast, one: TargetForecast, samples: Samples, most: int) -> Band:
    places = extremes(one.totals.peak_bytes, one.totals.stored_bytes, 0, result.frame.days, most)
    low, middle, high = np.quantile(samples.stored_bytes[places], (LOW, MIDDLE, HIGH), axis=1)
    peak_low, peak_high = np.quantile(samples.peak_bytes[places], (LOW, HIGH), axis=1)
    highest = np.quantile(samples.peak_bytes.max(axis=0), (LOW, MIDDLE, HIGH)).tolist()
    return Band(
        one.target.id,
        places.tolist(),
        low.tolist(),
        middle.tolist(),
        high.tolist(),
        peak_low.tolist(),
        peak_high.tolist(),
        highest[0],
        highest[1],
        highest[2],
        *_full(result, one, samples),
    )


def _full(
    result: Forecast, one: TargetForecast, samples: Samples
) -> tuple[str | None, str | None, str | None, float | None, list[float] | None]:
    """The day on which a tenth, half and nine tenths of the draws are full, the share that ever is, and by each year."""
    if one.room_bytes is None:
        return None, None, None, None, None
    days = result.frame.days
    over = samples.peak_bytes > one.room_bytes[:, None]
    first = np.where(over.any(axis=0), over.argmax(axis=0), days)
    order = np.sort(first)
    on = [int(order[int(np.ceil(share * len(order))) - 1]) for share in (LOW, MIDDLE, HIGH)]
    low, middle, high = (result.day(day) if day < days else None for day in on)
    ends = _year_ends(result)
    by_year = [float((first <= end).mean()) for end in ends]
    return low, middle, high, float((first < days).mean()), by_year


def _year_ends(result: Forecast) -> Places:
    """The places of the last days of the design's years."""
    start = result.design.starts
    names = [f"{int(start[:4]) + ahead}{start[4:]}" for ahead in range(1, result.design.years)]
    known = [result.place_of(name if not name.endswith("02-29") else f"{name[:4]}-03-01") - 1 for name in names]
    return np.array([*known, result.frame.days - 1])


def _swings(result: Forecast, unknown: str, name: str, memory: Memory) -> list[Swing]:
    at_low, at_high = (forecast(_at_end(result.design, unknown, name, end), memory) for end in (0, 1))
    found = []
    for place, one in enumerate(result.targets):
        low, high = at_low.targets[place], at_high.targets[place]
        peaks = (float(low.totals.peak_bytes.max()), float(high.totals.peak_bytes.max()))
        days = (_day(at_low, low.full_on), _day(at_high, high.full_on))
        if abs(peaks[0] - peaks[1]) > 1e-9 * max(peaks):
            found.append(Swing(unknown, name, one.target.id, *peaks, *days))
    return found


def _day(result: Forecast, place: int | None) -> str | None:
    return None if place is None else result.day(place)


def _at_end(design: Design, unknown: str, name: str, end: int) -> Design:
    """The design with one quantity of the workloads of an unknown at its low (0) or high (1), where this unknown counts."""
    counts = _whose(design, name)
    asked = next(getattr(one, name) for one in design.unknowns if one.id == unknown)
    workloads = [
        _at(one, name, asked.around(getattr(one, name))[end]) if counts.get(one.id) == unknown else one
        for one in design.workloads
    ]
    return design.model_copy(update={"workloads": workloads, "unknowns": []})


def _whose(design: Design, name: str) -> dict[str, str]:
    """Which unknown counts for a quantity of each workload: the first that names both."""
    found: dict[str, str] = {}
    for unknown in design.unknowns:
        if getattr(unknown, name) is not None:
            for workload in selected(unknown.workloads, design.workloads):
                found.setdefault(workload.id, unknown.id)
    return found


def _at(workload: Workload, name: str, value: float) -> Workload:
    update: dict[str, object] = {name: value}
    if name == "reduction" and workload.change_reduction is not None:
        update["change_reduction"] = workload.change_reduction * value / workload.reduction
    if name == "daily_change_percent" and workload.change_pattern == "scattered":
        update[name] = min(value, workload.hot_percent)
    return workload.model_copy(update=update)
