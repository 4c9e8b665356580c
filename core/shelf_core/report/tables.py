"""The tables of a forecast, each once: for CSV, the workbook and the report."""

import csv
from collections.abc import Callable, Iterator
from functools import partial
from typing import TextIO, get_args

from shelf_core.cost.overview import overview
from shelf_core.cost.parts import PARTS_OF_COST, PartOfCost, cost_by
from shelf_core.design import cells
from shelf_core.design.document import Design
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.points import Chosen, points_on
from shelf_core.forecast.series import logical_each_day, moved_each_day
from shelf_core.forecast.splits import By, split
from shelf_core.forecast.unfree import least_each_day
from shelf_core.formats import opening_rows
from shelf_core.formats.csv_text import Cell, safe
from shelf_core.formats.opening_rows import opening_cells
from shelf_core.formats.tables import FORECAST_COLUMNS, POINT_COLUMNS, forecast_rows, point_cells
from shelf_core.formats.workload_rows import workload_cells
from shelf_core.report.asked import Asked, Table
from shelf_core.report.plans import plan_table
from shelf_core.report.proof import duty_table, loss_table, night_table, speed_table


def table_names(design: Design) -> list[str]:
    """The names of all tables of a design; those of a target told apart end in any of the ways to do so."""
    of_targets = (f"{_SERIES_OF}{target.id}" for target in design.targets)
    told_apart = (f"{_SPLIT_OF}{target.id}{_BY}{get_args(By)[0]}" for target in design.targets)
    return [*_MAKERS, *of_targets, *told_apart]


def table(asked: Asked, name: str) -> Table:
    """A table by its name. Raises ValueError for a name that there is not, or a day outside the design."""
    asked.result.place_of(asked.on)
    known = [target.id for target in asked.result.design.targets]
    if name.startswith(_SERIES_OF) and name.removeprefix(_SERIES_OF) in known:
        return _series_of(asked, name.removeprefix(_SERIES_OF))
    target, _, by = name.removeprefix(_SPLIT_OF).rpartition(_BY)
    if name.startswith(_SPLIT_OF) and target in known and by in get_args(By):
        return _split_of(asked, name, target, by)  # type: ignore[arg-type]
    if name not in _MAKERS:
        raise ValueError(f'expected a table ({", ".join(table_names(asked.result.design))}), got "{name}"')
    return _MAKERS[name](asked)


def write_csv(one: Table, out: TextIO) -> None:
    """A table as CSV (RFC 4180, lines ended by a line feed).

    Bytes are whole ones. A text that a spreadsheet would take for a formula gets an apostrophe before it.
    """
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(one.columns)
    whole = [column.endswith("_bytes") or "_bytes_" in column for column in one.columns]
    writer.writerows([_written(cell, is_whole) for cell, is_whole in zip(row, whole, strict=True)] for row in one.rows)


def _written(cell: Cell, is_whole: bool) -> Cell:  # noqa: FBT001 - a mapped column
    return round(cell) if is_whole and isinstance(cell, float) else safe(cell)


_TARGETS = (
    "target",
    "name",
    "media",
    "points_today",
    "stored_bytes_today",
    "points",
    "stored_bytes",
    "peak_bytes",
    "peak_on",
    "points_at_end",
    "stored_bytes_at_end",
    "full_on",
    "cost_of_month",
    "cost_of_all_years",
)


def _targets(asked: Asked) -> Table:
    found = overview(asked.result, asked.cost, asked.on, asked.today)
    rows = [
        (
            row.target,
            row.name,
            row.media,
            row.points_today,
            row.stored_today,
            row.points_on,
            row.stored_on,
            row.peak,
            row.peak_on,
            row.points_end,
            row.stored_end,
            row.full_on,
            row.cost_month,
            row.cost_whole,
        )
        for row in found.rows
    ]
    return Table("targets", f"All targets, at the end of {asked.on}", _TARGETS, rows)


def _series(asked: Asked) -> Table:
    rows = forecast_rows(asked.result, asked.result.targets)
    return Table("series", "Every day of every target", FORECAST_COLUMNS, rows)


_SERIES_OF = "series-of-"
_SERIES_COLUMNS = (
    "date",
    "points",
    "stored_bytes",
    "peak_bytes",
    "room_bytes",
    "logical_bytes",
    "moved_bytes",
    "least_bytes",
    "locked_bytes",
)


def _series_of(asked: Asked, target: str) -> Table:
    result = asked.result
    one = next(found for found in result.targets if found.target.id == target)
    days = range(result.frame.days)
    room: list[Cell] = [None for _ in days] if one.room_bytes is None else list(one.room_bytes.tolist())
    columns: list[list[Cell]] = [
        [result.day(place) for place in days],
        one.totals.points.tolist(),
        one.totals.stored_bytes.tolist(),
        one.totals.peak_bytes.tolist(),
        room,
        logical_each_day(result, target).tolist(),
        moved_each_day(result, target).tolist(),
        least_each_day(result, target).tolist(),
        least_each_day(result, target, by_locks_alone=True).tolist(),
    ]
    return Table(f"{_SERIES_OF}{target}", f"Every day of {target}", _SERIES_COLUMNS, zip(*columns, strict=True))


_SPLIT_OF, _BY = "split-of-", "-by-"


def _split_of(asked: Asked, name: str, target: str, by: By) -> Table:
    """A row for each day and each part that has anything on it."""
    result = asked.result

    def rows() -> Iterator[tuple[Cell, ...]]:
        parts = [
            (part, found.points.tolist(), found.stored_bytes.tolist()) for part, found in split(result, target, by).items()
        ]
        for place in range(result.frame.days):
            day = result.day(place)
            for part, points, stored in parts:
                if points[place] or stored[place]:
                    yield day, part, points[place], stored[place]

    return Table(name, f"Every day of {target} by {by}", ("date", by, "points", "stored_bytes"), rows())


def _points(asked: Asked) -> Table:
    return points_table(asked.result, asked.on, Chosen())


def points_table(result: Forecast, day: str, chosen: Chosen) -> Table:
    """The list of points at the end of a day, of what is chosen. Raises ValueError for a day outside the design."""
    result.place_of(day)
    return Table("points", f"Points at the end of {day}", POINT_COLUMNS, map(point_cells, points_on(result, day, chosen)))


def _cost(asked: Asked) -> Table:
    cost, currency = asked.cost, asked.result.design.currency
    rows: list[tuple[Cell, ...]] = [
        (month, one.target, category, float(amounts[place]), currency)
        for place, month in enumerate(cost.months)
        for one in cost.targets
        for category, amounts in one.by_category.items()
        if amounts.any()
    ]
    rows += [
        (month, "", one.name, float(one.per_month[place]), currency)
        for place, month in enumerate(cost.months)
        for one in cost.beside
        if one.per_month[place]
    ]
    return Table("cost", "Cost by month", ("month", "target", "category", "cost", "currency"), rows)


def _cost_by(by: PartOfCost, asked: Asked) -> Table:
    cost, currency = asked.cost, asked.result.design.currency
    told = cost_by(asked.result, cost, by)
    rows: list[tuple[Cell, ...]] = [
        (month, part.key, part.name, float(part.per_month[place]), currency)
        for place, month in enumerate(cost.months)
        for part in told
        if part.per_month[place]
    ]
    return Table(f"cost-by-{by}", f"Cost by month and {by}", ("month", by, "name", "cost", "currency"), rows)


def _workloads(asked: Asked) -> Table:
    rows = map(workload_cells, asked.result.document.workloads)
    return Table("workloads", "Workloads", cells.FIELDS, rows)


def _opening(asked: Asked) -> Table:
    rows = map(opening_cells, asked.result.design.opening)
    return Table("opening", "Points that are there when the design starts", opening_rows.FIELDS, rows)


_MAKERS: dict[str, Callable[[Asked], Table]] = {
    "targets": _targets,
    "series": _series,
    "points": _points,
    "cost": _cost,
    **{f"cost-by-{by}": partial(_cost_by, by) for by in PARTS_OF_COST},
    "workloads": _workloads,
    "opening": _opening,
    "duties": duty_table,
    "nights": night_table,
    "losses": loss_table,
    "plans": plan_table,
    "speeds": speed_table,
}
