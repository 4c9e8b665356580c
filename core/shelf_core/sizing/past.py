"""Change, reduction and growth of a workload fitted to past points: the model of the forecast, held against what was."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import partial
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.zones import DAY
from shelf_core.design.values import bytes_of
from shelf_core.engine.volume.sizes import Behaviour, changed_share
from shelf_core.formats.csv_text import Row, Table, named_columns
from shelf_core.formats.faulty import FaultyRow

COLUMNS = ("taken", "kind", "size")
Pattern = Literal["scattered", "fresh"]
PATTERNS: tuple[Pattern, ...] = ("scattered", "fresh")
FULLS = ("full", "synthetic")
FEWEST_FULLS = 2
FEWEST_CHANGES = 5
FEWEST_GROWTH_DAYS = 60
SMALLEST, LARGEST = 1e-6, 1.0
"""Daily shares of change between which the fit looks."""


@dataclass(frozen=True)
class PastPoint:
    """A point that was: when, what kind, its stored bytes."""

    taken: datetime
    kind: str
    size: float


@dataclass(frozen=True)
class Fitted:
    """One past point and what the fit says of it: `days` since the point it builds on, bytes, residual in percent."""

    taken: str
    kind: str
    days: float
    stored_bytes: float
    fitted_bytes: float
    residual_percent: float


@dataclass(frozen=True)
class Fit:
    """What was fitted, or why it was refused (then the values are None).

    `reduction` is source over full as stored; `daily_change_percent` holds with the `pattern` whose residuals are smaller;
    `annual_growth_percent` is None where fulls span too little time. `spread_percent` is the root mean square of residuals.
    """

    refused: str
    reduction: float | None
    daily_change_percent: float | None
    pattern: Pattern | None
    annual_growth_percent: float | None
    spread_percent: float | None
    points: list[Fitted]
    faults: list[FaultyRow]


def fit_of(table: Table, source_size: str | int) -> Fit:
    """Fit a table of taken (local time), kind and stored size to the model of changes (docs/model.md, Bytes).

    `source_size` is the size of the source at the newest full. Raises ValueError when the first row names no columns.
    """
    places = list(named_columns(table, COLUMNS).values())
    points: list[PastPoint] = []
    faults: list[FaultyRow] = []
    for row in table.rows[1:]:
        try:
            points.append(_point(row, places))
        except ValueError as error:
            faults.append(FaultyRow(row.line, "", str(error)))
    return _fitted(sorted(points, key=lambda point: point.taken), bytes_of(source_size), faults)


def _point(row: Row, places: Sequence[int]) -> PastPoint:
    taken, kind, size = (row.cell(place) for place in places)
    if kind.lower() not in (*FULLS, "incremental", "differential"):
        raise ValueError(f'expected full, synthetic, differential or incremental, got "{kind}"')
    stored = bytes_of(int(size) if size.isdigit() else size)
    if stored <= 0:
        raise ValueError(f'expected a stored size above nothing, got "{size}"')
    return PastPoint(datetime.fromisoformat(taken).replace(tzinfo=UTC), kind.lower(), stored)


def _fitted(points: list[PastPoint], source: float, faults: list[FaultyRow]) -> Fit:
    fulls = [point for point in points if point.kind in FULLS]
    changes = _changes(points)
    refused = _refusal(len(fulls), len(changes), source)
    if refused:
        return Fit(refused, None, None, None, None, None, [], faults)
    reduction = source / fulls[-1].size
    growth = _growth(fulls)
    sizes = np.array([point.size for point, _ in changes])
    days = np.array([gap for _, gap in changes])
    sources = np.array([_source_at(point.taken, fulls[-1].taken, source, growth) for point, _ in changes])
    fits = [_least_squares(pattern, days, sources / reduction, sizes) for pattern in PATTERNS]
    spread, share, pattern, said = min(fits, key=lambda fit: round(fit[0], 9))
    shown = [
        Fitted(
            point.taken.strftime("%Y-%m-%dT%H:%M"), point.kind, gap, point.size, float(fit), 100 * (point.size / float(fit) - 1)
        )
        for (point, gap), fit in zip(changes, said, strict=True)
    ]
    return Fit("", reduction, 100 * share, pattern, growth, 100 * spread, shown, faults)


def _least_squares(
    pattern: Pattern, days: NDArray[np.float64], reduced: NDArray[np.float64], sizes: NDArray[np.float64]
) -> tuple[float, float, Pattern, NDArray[np.float64]]:
    """The least spread that a pattern can have, the daily share at which it has it, and the sizes it then says."""
    model = _model(pattern, days, reduced)
    share = _least(partial(_spread_of, model, sizes))
    return _spread(model(share), sizes), share, pattern, model(share)


def _refusal(fulls: int, changes: int, source: float) -> str:
    if source <= 0:
        return "The size of the source is needed to tell reduction and change from stored bytes."
    if fulls < FEWEST_FULLS:
        return f"There is too little to fit: {fulls} fulls, at least {FEWEST_FULLS} are needed."
    if changes < FEWEST_CHANGES:
        return f"There is too little to fit: {changes} incrementals or differentials, at least {FEWEST_CHANGES} are needed."
    return ""


def _changes(points: list[PastPoint]) -> list[tuple[PastPoint, float]]:
    """Incrementals with the days since the point before, differentials with those since the full before."""
    found: list[tuple[PastPoint, float]] = []
    last: PastPoint | None = None
    full: PastPoint | None = None
    for point in points:
        base = last if point.kind == "incremental" else full
        if point.kind not in FULLS and base is not None and point.taken > base.taken:
            found.append((point, (point.taken - base.taken).total_seconds() / DAY))
        full = point if point.kind in FULLS else full
        last = point
    return found


def _growth(fulls: list[PastPoint]) -> float | None:
    days = np.array([(full.taken - fulls[0].taken).total_seconds() / DAY for full in fulls])
    if days[-1] < FEWEST_GROWTH_DAYS:
        return None
    slope = np.polyfit(days, np.log([full.size for full in fulls]), 1)[0]
    return float(100 * math.expm1(slope * 365))


def _source_at(taken: datetime, newest: datetime, source: float, growth: float | None) -> float:
    years = (taken - newest).total_seconds() / DAY / 365
    return source * float((1 + (growth or 0) / 100) ** years)


def _model(pattern: str, days: NDArray[np.float64], reduced: NDArray[np.float64]) -> Callable[[float], NDArray[np.float64]]:
    def said(share: float) -> NDArray[np.float64]:
        behaviour = Behaviour(base=1.0, steps=(), growth=0.0, change=share, hot=1.0, fresh=pattern == "fresh")
        seconds = (days * DAY).astype(np.int64)
        return np.asarray(reduced * changed_share(behaviour, seconds))

    return said


def _spread_of(model: Callable[[float], NDArray[np.float64]], sizes: NDArray[np.float64], share: float) -> float:
    return _spread(model(share), sizes)


def _spread(said: NDArray[np.float64], sizes: NDArray[np.float64]) -> float:
    return float(np.sqrt(np.mean((sizes / said - 1) ** 2)))


def _least(cost: Callable[[float], float]) -> float:
    """The share of least cost, on a grid of logarithms that is made finer around its best point."""
    low, high = math.log(SMALLEST), math.log(LARGEST)
    best = low
    for _ in range(6):
        grid = np.linspace(low, high, 61)
        costs = [cost(math.exp(at)) for at in grid]
        best = float(grid[int(np.argmin(costs))])
        step = float(grid[1] - grid[0])
        low, high = max(math.log(SMALLEST), best - step), min(math.log(LARGEST), best + step)
    return math.exp(best)
