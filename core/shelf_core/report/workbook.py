"""The workbook: inputs, months, cost and the list of points, with formulas that a spreadsheet computes anew."""

from collections.abc import Sequence
from typing import BinaryIO

import numpy as np
from openpyxl import Workbook
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter
from openpyxl.worksheet.worksheet import Worksheet

from shelf_core.cost.months import months_of
from shelf_core.design.values import TB
from shelf_core.forecast.wording import sentence
from shelf_core.formats.csv_text import Cell, safe
from shelf_core.formats.digest import digest
from shelf_core.report.asked import Asked, Table
from shelf_core.report.tables import table

MOST_POINTS = 100_000
"""Rows of the list of points: more than that belong into a file for programs."""
LAST_ROW = MOST_POINTS + 1
BOLD = Font(bold=True)


def write_workbook(asked: Asked, out: BinaryIO) -> None:
    """Write the workbook of a forecast. Raises ValueError for a list of points that is too long for a sheet."""
    book = Workbook()
    book.remove(book.worksheets[0])
    _about(book.create_sheet("About"), asked)
    _fill(book.create_sheet("Duties"), table(asked, "duties"))
    _inputs(book, asked)
    _targets(book.create_sheet("Targets"), asked)
    _fill(book.create_sheet("Speeds"), table(asked, "speeds"))
    _fill(book.create_sheet("Nights"), table(asked, "nights"))
    months = _months(book.create_sheet("Months"), asked)
    _cost(book.create_sheet("Cost"), asked)
    _points(book.create_sheet("Points"), asked)
    _check(book.create_sheet("Sums"), asked, months)
    book.save(out)


def _about(sheet: Worksheet, asked: Asked) -> None:
    design = asked.result.design
    lines: list[tuple[str, Cell]] = [
        ("design", design.name),
        ("as of the end of", asked.on),
        ("made on", asked.today),
        ("from", asked.result.day(0)),
        ("to", asked.result.day(asked.result.frame.days - 1)),
        ("time zone", design.timezone),
        ("currency", design.currency),
        ("digest (SHA-256)", digest(asked.result.document)),
        ("sizes", "bytes; TB are decimal: 1 TB is 1,000,000,000,000 bytes"),
    ]
    for line in lines:
        sheet.append([safe(cell) for cell in line])
    _widths(sheet, [20, 70])


def _inputs(book: Workbook, asked: Asked) -> None:
    design = asked.result.design
    _fill(book.create_sheet("Workloads"), table(asked, "workloads"))
    ladders = [(one.id, one.name, sentence(one)) for one in design.ladders]
    _fill(book.create_sheet("Ladders"), Table("ladders", "Ladders", ("ladder", "name", "what it keeps"), ladders))
    copies = [
        (route.id, copy.id, copy.target, copy.cadence, copy.from_, copy.ladder or "rotation")
        for route in design.routes
        for copy in route.copies
    ]
    columns = ("route", "copy", "target", "cadence", "from", "ladder")
    _fill(book.create_sheet("Copies"), Table("copies", "Copies", columns, copies))


def _targets(sheet: Worksheet, asked: Asked) -> None:
    count = _fill(sheet, table(asked, "targets"))
    _total(sheet, count, {4: "SUM", 5: "SUM", 6: "SUM", 7: "SUM", 10: "SUM", 11: "SUM", 13: "SUM", 14: "SUM"})


def _months(sheet: Worksheet, asked: Asked) -> int:
    """Stored TB at the end of each month and highest peak within it, target by target, with their sums. How many months."""
    result = asked.result
    months = months_of(result.frame)
    names = [one.target.id for one in result.targets]
    header = ["month", *(f"{name} stored TB" for name in names), "all stored TB", *(f"{name} peak TB" for name in names)]
    sheet.append([safe(cell) for cell in header])
    last = np.searchsorted(result.frame.midnights, months.edges[1:]) - 1
    first = np.r_[0, last[:-1] + 1]
    for place, month in enumerate(months.names):
        stored = [float(one.totals.stored_bytes[last[place]]) / TB for one in result.targets]
        peaks = [float(one.totals.peak_bytes[first[place] : last[place] + 1].max()) / TB for one in result.targets]
        row = place + 2
        sheet.append([month, *stored, f"=SUM(B{row}:{get_column_letter(len(names) + 1)}{row})", *peaks])
    _head(sheet)
    return len(months.names)


def _cost(sheet: Worksheet, asked: Asked) -> None:
    """What each target costs in each month, with sums by month and by target."""
    cost = asked.cost
    names = [*(one.target for one in cost.targets), *(one.name for one in cost.beside)]
    sheet.append([safe(cell) for cell in ["month", *names, "together"]])
    per_target = [*(one.per_month() for one in cost.targets), *(one.per_month for one in cost.beside)]
    end = get_column_letter(len(per_target) + 1)
    for place, month in enumerate(cost.months):
        row = place + 2
        sheet.append([month, *(float(amounts[place]) for amounts in per_target), f"=SUM(B{row}:{end}{row})"])
    _total(sheet, len(cost.months), dict.fromkeys(range(2, len(per_target) + 3), "SUM"))
    _head(sheet)


def _points(sheet: Worksheet, asked: Asked) -> None:
    listed = table(asked, "points")
    rows = []
    for row in listed.rows:
        rows.append(row)
        if len(rows) > MOST_POINTS:
            raise ValueError(
                f"expected at most {MOST_POINTS:,} points in a workbook, got more; take them away as CSV or Parquet"
            )
    _fill(sheet, Table(listed.name, listed.title, listed.columns, rows))


def _check(sheet: Worksheet, asked: Asked, months: int) -> None:
    """Sums that the spreadsheet computes beside those of the forecast: they must agree."""
    names = [one.target.id for one in asked.result.targets]
    place = asked.result.place_of(asked.on)
    columns = ["what", "by the sheets", "by the forecast", "apart by"]
    sheet.append(columns)
    row = 2
    for one in asked.result.targets:
        points = f'SUMIFS(Points!J:J,Points!D:D,"{one.target.id}",Points!F:F,"<>log")'
        stored = f'SUMPRODUCT((Points!D2:D{LAST_ROW}="{one.target.id}")*Points!J2:J{LAST_ROW}*Points!N2:N{LAST_ROW})'
        for what, formula, value in (
            ("points", points, int(one.totals.points[place])),
            ("stored bytes", stored, float(one.totals.stored_bytes[place])),
        ):
            sheet.append([safe(f"{what} of {one.target.id}"), f"={formula}", value, f"=B{row}-C{row}"])
            row += 1
    end = get_column_letter(len(names) + len(asked.cost.beside) + 2)
    whole = float(asked.cost.per_month().sum())
    sheet.append(["cost of all years", f"=Cost!{end}{months + 2}", whole, f"=B{row}-C{row}"])
    _head(sheet)
    _widths(sheet, [34, 22, 22, 16])


def _fill(sheet: Worksheet, one: Table) -> int:
    """Write a table to a sheet; how many rows it has."""
    sheet.append(list(one.columns))
    count = 0
    for row in one.rows:
        sheet.append([safe(cell) for cell in row])
        count += 1
    _head(sheet)
    return count


def _total(sheet: Worksheet, rows: int, functions: dict[int, str]) -> None:
    """A row below with a formula in each of these columns."""
    row = rows + 2
    sheet.cell(row, 1, "together").font = BOLD
    for column, function in functions.items():
        letter = get_column_letter(column)
        sheet.cell(row, column, f"={function}({letter}2:{letter}{row - 1})").font = BOLD


def _head(sheet: Worksheet) -> None:
    for cell in sheet[1]:
        cell.font = BOLD
    sheet.freeze_panes = "B2"
    _widths(sheet, [18] * sheet.max_column)


def _widths(sheet: Worksheet, widths: Sequence[int]) -> None:
    for place, width in enumerate(widths):
        sheet.column_dimensions[get_column_letter(place + 1)].width = width
