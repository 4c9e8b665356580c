"""The workbook: verdicts, inputs, months, cost and the list of points, with formulas that a spreadsheet computes anew."""

from collections.abc import Iterator
from functools import partial
from itertools import islice
from typing import Any, BinaryIO

import numpy as np
from xlsxwriter.utility import xl_col_to_name

from shelf_core.cost.months import months_of
from shelf_core.digits import grouped
from shelf_core.forecast.wording import sentence
from shelf_core.formats.csv_text import Cell
from shelf_core.formats.digest import digest
from shelf_core.report.asked import Asked
from shelf_core.report.sheets import Book
from shelf_core.report.tables import table
from shelf_core.style import names_like_figures, restyled

MOST_POINTS = 100_000
"""Rows of the list of points: more than that belong into a file for programs."""
LAST_ROW = MOST_POINTS + 1


def write_workbook(asked: Asked, out: BinaryIO) -> None:
    """Write the workbook of a forecast. Raises ValueError for a list of points that is too long for a sheet."""
    # Its list of points first: nothing is written that cannot be whole.
    points = _points(asked)
    names = names_like_figures(asked.result.document.canonical())
    said = partial(restyled, style=asked.style, spared=names)
    book = Book(out, f"{asked.result.design.name}, as of the end of {asked.on}, made on {asked.today}", said)
    book.lines("About", _about(asked))
    _table(book, "Duties", asked, "duties")
    _inputs(book, asked)
    _table(book, "Targets", asked, "targets", sums=True)
    _table(book, "Speeds", asked, "speeds")
    _table(book, "Nights", asked, "nights", sums=True)
    if asked.result.design.recovery_plans:
        _table(book, "Plans", asked, "plans")
    if asked.months is not None:
        _table(book, "Losses", asked, "losses")
    _months(book, asked)
    months = _cost(book, asked)
    _table(book, "Cost by route", asked, "cost-by-route", sums=True)
    book.sheet("Points", table(asked, "points").columns, points)
    _check(book, asked, points, months)
    book.close()


def _table(book: Book, name: str, asked: Asked, of: str, *, sums: bool = False) -> None:
    one = table(asked, of)
    rows = list(one.rows)
    book.sheet(name, one.columns, rows, sums=sums and bool(rows))


def _about(asked: Asked) -> Iterator[tuple[str, Cell]]:
    design = asked.result.design
    yield "design", design.name
    yield "as of the end of", asked.on
    yield "made on", asked.today
    yield "from", asked.result.day(0)
    yield "to", asked.result.day(asked.result.frame.days - 1)
    yield "time zone", design.timezone
    yield "currency", design.currency
    yield "digest (SHA-256)", digest(asked.result.document)
    yield "sizes", restyled(f"cells hold bytes and show TB; 1 TB is {grouped(10**12)} bytes", asked.style)


def _inputs(book: Book, asked: Asked) -> None:
    design = asked.result.design
    _table(book, "Workloads", asked, "workloads")
    ladders = [(one.id, one.name, sentence(one)) for one in design.ladders]
    book.sheet("Ladders", ("ladder", "name", "what it keeps"), ladders)
    copies = [
        (route.id, copy.id, copy.target, copy.cadence, copy.from_, copy.ladder or "rotation")
        for route in design.routes
        for copy in route.copies
    ]
    book.sheet("Copies", ("route", "copy", "target", "cadence", "source", "ladder"), copies)


def _months(book: Book, asked: Asked) -> None:
    """Stored bytes at the end of each month and highest peak within it, target by target, with the sum of what is stored."""
    result = asked.result
    months = months_of(result.frame)
    names = [one.target.id for one in result.targets]
    stored_of, peak_of = ([f"{name} {what}_bytes" for name in names] for what in ("stored", "peak"))
    columns = ["month", *stored_of, "all stored_bytes", *peak_of]
    last = np.searchsorted(result.frame.midnights, months.edges[1:]) - 1
    first = np.r_[0, last[:-1] + 1]
    sheet = book.sheet("Months", columns, ())
    for place, month in enumerate(months.names):
        stored = [float(one.totals.stored_bytes[last[place]]) for one in result.targets]
        peaks = [float(one.totals.peak_bytes[first[place] : last[place] + 1].max()) for one in result.targets]
        sheet.write([month, *stored, None, *peaks])
        span = f"B{sheet.rows}:{xl_col_to_name(len(names))}{sheet.rows}"
        sheet.formula(len(names) + 1, f"=SUM({span})", sum(stored), "bytes")
    sheet.set_up("Months", book.foot)


def _cost(book: Book, asked: Asked) -> int:
    """What each target costs in each month, with sums by month and by target. How many months."""
    cost = asked.cost
    names = [*(one.target for one in cost.targets), *(one.name for one in cost.beside)]
    per_target = [*(one.per_month() for one in cost.targets), *(one.per_month for one in cost.beside)]
    sheet = book.sheet("Cost", ["month", *(f"cost of {name}" for name in names), "cost together"], ())
    end = xl_col_to_name(len(per_target))
    for place, month in enumerate(cost.months):
        amounts = [float(of_target[place]) for of_target in per_target]
        sheet.write([month, *amounts, None])
        sheet.formula(len(amounts) + 1, f"=SUM(B{sheet.rows}:{end}{sheet.rows})", sum(amounts), "money")
    sheet.write(["together", *([None] * (len(names) + 1))])
    for place in range(1, len(names) + 2):
        letter = xl_col_to_name(place)
        whole = float(per_target[place - 1].sum()) if place <= len(names) else float(cost.per_month().sum())
        sheet.formula(place, f"=SUM({letter}2:{letter}{sheet.rows - 1})", whole, "money", bold=True)
    sheet.set_up("Cost", book.foot)
    return len(cost.months)


def _points(asked: Asked) -> list[tuple[Cell, ...]]:
    rows = list(islice(table(asked, "points").rows, MOST_POINTS + 1))
    if len(rows) > MOST_POINTS:
        raise ValueError(
            f"expected at most {grouped(MOST_POINTS)} points in a workbook, got more; take them away as CSV or Parquet"
        )
    return rows


def _check(book: Book, asked: Asked, points: list[tuple[Cell, ...]], months: int) -> None:
    """Sums that the spreadsheet computes beside those of the forecast: they must agree."""
    place = asked.result.place_of(asked.on)
    sheet = book.sheet("Sums", ["what", "by the sheets", "by the forecast", "apart by"], ())
    columns = {name: at for at, name in enumerate(table(asked, "points").columns)}
    letter = {name: xl_col_to_name(at) for name, at in columns.items()}
    for one in asked.result.targets:
        mine = [row for row in points if row[columns["target"]] == one.target.id]
        count: Any = sum(_figure(row, columns["count"]) for row in mine if row[columns["kind"]] != "log")
        stored = sum(_figure(row, columns["count"]) * _figure(row, columns["stored_bytes"]) for row in mine)
        of = f'Points!{letter["target"]}:{letter["target"]},"{one.target.id}"'
        counted = f'SUMIFS(Points!{letter["count"]}:{letter["count"]},{of},Points!{letter["kind"]}:{letter["kind"]},"<>log")'
        rows = {name: f"Points!{letter[name]}2:{letter[name]}{LAST_ROW}" for name in ("target", "count", "stored_bytes")}
        held = f'SUMPRODUCT(({rows["target"]}="{one.target.id}")*{rows["count"]}*{rows["stored_bytes"]})'
        _compared(sheet, f"points of {one.target.id}", counted, count, int(one.totals.points[place]), "count")
        _compared(sheet, f"stored on {one.target.id}", held, stored, float(one.totals.stored_bytes[place]), "bytes")
    end = xl_col_to_name(len(asked.cost.targets) + len(asked.cost.beside) + 1)
    whole = float(asked.cost.per_month().sum())
    _compared(sheet, "cost of all years", f"Cost!{end}{months + 2}", whole, whole, "money")
    sheet.set_up("Sums", book.foot)


def _compared(sheet: Any, what: str, formula: str, comes_to: float, forecast: float, kind: str) -> None:
    sheet.write([what, None, None, None])
    row = sheet.rows
    sheet.formula(1, f"={formula}", comes_to, kind)
    sheet.number(2, forecast, kind)
    sheet.formula(3, f"=B{row}-C{row}", comes_to - forecast, kind)


def _figure(row: tuple[Cell, ...], place: int) -> float:
    cell = row[place]
    return float(cell) if isinstance(cell, (int, float)) else 0.0
