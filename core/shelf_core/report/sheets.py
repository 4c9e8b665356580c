"""Sheets of a workbook as people print and read them: dates that are dates, figures with their units, room for every column."""

import math
from collections.abc import Callable, Iterable, Sequence
from datetime import date, datetime
from typing import Any

from xlsxwriter import Workbook
from xlsxwriter.format import Format
from xlsxwriter.utility import xl_col_to_name
from xlsxwriter.worksheet import Worksheet

from shelf_core.digits import grouped
from shelf_core.formats.csv_text import Cell, safe

LOOKED_AT = 300
"""From so many rows the widths of the columns are taken."""
LINE_HEIGHT = 15
NARROWEST, WIDEST, LONGEST = 8, 60, 38
A4 = 9
FORMS = {
    "month": "yyyy-mm",
    "date": "yyyy-mm-dd",
    "moment": "yyyy-mm-dd hh:mm",
    "bytes": '#,##0.000,,,,"\u00a0TB"',  # the cell holds bytes, four times a thousand is what is shown
    "money": "#,##0.00",
    "count": "#,##0",
    "number": "General",
    "words": "@",
    "sentence": "@",
}
TIMES = ("month", "date", "moment")
HEAD = {"bold": True, "bottom": 1, "text_wrap": True, "valign": "top", "bg_color": "#F7F4EE"}
_SENTENCES = ("asks", "reason", "restore", "why", "what it keeps")
_DATES = ("date", "on", "day", "from", "until", "first_failed", "first_late", "full_on", "peak_on")
_MOMENTS = ("taken", "claimed_until", "locked_until", "removed", "moment", "first_byte", "back_at", "in_use_at")


class Book:
    """A workbook that is written sheet by sheet.

    `foot` is printed below every page; `said` writes a sentence as its reader likes it.
    """

    def __init__(self, out: Any, foot: str, said: Callable[[str], str]) -> None:
        self._book = Workbook(out, {"in_memory": True, "remove_timezone": True})
        self.foot, self.said = said(foot), said
        self._formats: dict[tuple[str, bool], Format] = {}
        self._heads = [self._book.add_format({**HEAD, "align": side}) for side in ("left", "right")]
        self._bold = self._book.add_format({"bold": True})

    def close(self) -> None:
        """Write it."""
        self._book.close()

    def form(self, kind: str, *, bold: bool = False) -> Format:
        """How a kind of value is shown."""
        if (kind, bold) not in self._formats:
            told = {"num_format": FORMS[kind], "bold": bold, "top": 1 if bold else 0, "valign": "top"}
            told["text_wrap"] = kind in ("words", "sentence")
            self._formats[kind, bold] = self._book.add_format(told)
        return self._formats[kind, bold]

    def sheet(self, name: str, columns: Sequence[str], rows: Iterable[Sequence[Cell]], *, sums: bool = False) -> "Sheet":
        """A sheet of rows under named columns, with filters, a head that stays and is printed on every page.

        With `sums` a row below adds up every column of bytes, money or counts.
        """
        found = Sheet(self, self._book.add_worksheet(name), columns)
        found.write_head(*self._heads)
        for row in rows:
            found.write(row)
        if sums:
            found.write_sums()
        found.set_up(name, self.foot)
        return found

    def lines(self, name: str, lines: Iterable[tuple[str, Cell]]) -> None:
        """A sheet of values, each with its name at the left."""
        sheet = self._book.add_worksheet(name)
        for row, (label, value) in enumerate(lines):
            sheet.write_string(row, 0, label, self._bold)
            _write(sheet, row, 1, value, "date" if _is_date(value) else "number", self)
        sheet.set_column(0, 0, 22)
        sheet.set_column(1, 1, 72)
        _print_set_up(sheet, name, self.foot)


class Sheet:
    """A table on a sheet. Rows are counted from 1, as a spreadsheet does; the names of the columns are the first."""

    def __init__(self, book: Book, sheet: Worksheet, columns: Sequence[str]) -> None:
        self._book, self._sheet, self._columns = book, sheet, list(columns)
        self._kinds = [kind_of(one) for one in columns]
        self._widths = [min(len(one), 14) for one in columns]
        self._sums = [0.0] * len(self._columns)
        self.rows = 1

    def write_head(self, left: Format, right: Format) -> None:
        """The names of the columns, over figures at the right; what figures are in stands in them."""
        for place, (name, kind) in enumerate(zip(self._columns, self._kinds, strict=True)):
            words = str(safe(name.replace("_bytes", "").replace("_", " ")))
            self._sheet.write_string(0, place, words, right if kind in ("bytes", "money", "count") else left)

    def write(self, row: Sequence[Cell]) -> None:
        """One more row, as high as its longest text needs."""
        longest = max((len(cell) for cell in row if isinstance(cell, str)), default=0)
        if longest > LONGEST:
            self._sheet.set_row(self.rows, LINE_HEIGHT * math.ceil(longest / LONGEST))
        for place, cell in enumerate(row):
            said = _write(self._sheet, self.rows, place, cell, self._kinds[place], self._book)
            if self.rows <= LOOKED_AT:
                self._widths[place] = max(self._widths[place], said)
            if isinstance(cell, (int, float)):
                self._sums[place] += cell
        self.rows += 1

    def formula(self, place: int, text: str, value: float, kind: str, *, bold: bool = False) -> None:
        """A formula in the row that is written last, with what it comes to."""
        self._sheet.write_formula(self.rows - 1, place, text, self._book.form(kind, bold=bold), value)
        self._widths[place] = max(self._widths[place], 14)

    def number(self, place: int, value: float, kind: str) -> None:
        """A figure of another kind than its column's in the row that is written last."""
        self._sheet.write_number(self.rows - 1, place, value, self._book.form(kind))
        self._widths[place] = max(self._widths[place], 14)

    def write_sums(self) -> None:
        """A row that adds up all rows above it."""
        last = self.rows
        self._sheet.write_string(last, 0, "together", self._book.form("number", bold=True))
        for place, kind in enumerate(self._kinds):
            if place and kind in ("bytes", "money", "count"):
                letter = xl_col_to_name(place)
                form = self._book.form(kind, bold=True)
                self._sheet.write_formula(last, place, f"=SUM({letter}2:{letter}{last})", form, self._sums[place])
        self.rows += 1

    def set_up(self, name: str, foot: str) -> None:
        """Widths, filters, what stays in sight, and how it is printed."""
        for place, width in enumerate(self._widths):
            self._sheet.set_column(place, place, max(NARROWEST, min(WIDEST, width + 2)))
        self._sheet.set_row(0, 30)
        self._sheet.freeze_panes(1, 1)
        if self.rows > 1:
            self._sheet.autofilter(0, 0, max(1, self.rows - 1), len(self._columns) - 1)
        self._sheet.repeat_rows(0)
        _print_set_up(self._sheet, name, foot)


def _print_set_up(sheet: Worksheet, name: str, foot: str) -> None:
    sheet.set_landscape()
    sheet.set_paper(A4)
    sheet.fit_to_pages(1, 0)
    sheet.set_header(f"&L&B{name.replace('&', '&&')}")
    sheet.set_footer(f"&L{foot.replace('&', '&&')}&R&P of &N")


def kind_of(column: str) -> str:
    """What a column holds, by its name.

    >>> [kind_of(one) for one in ("stored_bytes", "full_on", "cost_of_month", "points", "target")]
    ['bytes', 'date', 'money', 'count', 'number']
    """
    if "bytes" in column:
        return "bytes"
    if column in _MOMENTS:
        return "moment"
    if column == "month":
        return "month"
    if column in _SENTENCES:
        return "sentence"
    if column in _DATES:
        return "date"
    if column.startswith("cost"):
        return "money"
    counted = ("points", "count", "transfers", "days", "late")
    return "count" if any(column.startswith(one) or column.endswith(f"_{one}") for one in counted) else "number"


def _write(sheet: Worksheet, row: int, place: int, cell: Cell, kind: str, book: Book) -> int:
    """Write a value as what it is; how many letters it takes."""
    if cell is None or cell == "":
        return 0
    if isinstance(cell, (int, float)):
        sheet.write_number(row, place, cell, book.form("number" if kind in (*TIMES, "sentence") else kind))
        return len(grouped(cell, 0)) + 3 if kind != "bytes" else 14
    if kind == "sentence":
        cell = book.said(cell)
    day = _read(cell) if kind in TIMES else None
    if day is None:
        sheet.write_string(row, place, str(safe(cell)), book.form("words"))
        # Long texts are broken over lines, so that a page stays readable.
        return min(len(cell), LONGEST)
    sheet.write_datetime(row, place, day, book.form(kind))
    return len(FORMS[kind])


def _is_date(cell: Cell) -> bool:
    return isinstance(cell, str) and _read(cell) is not None


def _read(text: str) -> date | None:
    """A date or a moment that a text says; None for words, which some columns hold as well, and for months."""
    if len(text) == len("2027-01"):
        text = f"{text}-01"
    try:
        return datetime.fromisoformat(text) if "T" in text or " " in text else date.fromisoformat(text)
    except ValueError:
        return None
