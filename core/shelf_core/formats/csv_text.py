"""Tables that people have: CSV (RFC 4180), and blocks pasted from a spreadsheet, with the lines their rows stand on."""

import csv
import io
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from shelf_core.digits import grouped

LARGEST_TABLE_BYTES = 64 * 2**20
MOST_ROWS = 500_000
LOOKS_AT_LINES, LOOKS_AT_CHARACTERS = 30, 65_536
SEPARATORS = ("\t", ";", ",")
STARTS_A_FORMULA = ("=", "+", "-", "@", "\t", "\r")
Cell = str | int | float | None


@dataclass(frozen=True)
class Row:
    """The cells of one row, without space around them; `line` is where it begins, from 1."""

    line: int
    cells: list[str]

    def cell(self, place: int) -> str:
        """The cell at a place; empty where the row is shorter."""
        return self.cells[place] if place < len(self.cells) else ""


@dataclass(frozen=True)
class Table:
    """Rows that are not empty, and the separator that their cells were told apart by."""

    rows: list[Row]
    separator: str

    @property
    def width(self) -> int:
        """The number of cells in the widest row."""
        return max((len(row.cells) for row in self.rows), default=0)


def table_of(text: str, *, block: bool = False) -> Table:
    """The table that a text holds. Its separator is the one of tab, semicolon and comma that tells its first lines apart alike.

    With `block` it is what a spreadsheet copies: cells are told apart by tabs alone, so that a single column may have commas in
    it. Raises ValueError, naming the line, for a text that is too large or not CSV.
    """
    if len(text) > LARGEST_TABLE_BYTES:
        raise ValueError(f"expected a table of at most {grouped(LARGEST_TABLE_BYTES)} characters, got {grouped(len(text))}")
    text = text.removeprefix("\ufeff")
    separator = "\t" if block else _separator(text)
    return Table(list(_rows(text, separator)), separator)


def _separator(text: str) -> str:
    """The separator with which most of the first lines have the same number of cells, more than one; a tab where none does."""
    lines = [line for line in text[:LOOKS_AT_CHARACTERS].splitlines() if line.strip()][:LOOKS_AT_LINES]
    best, most = "\t", 0
    for separator in SEPARATORS:
        widths = Counter(width for line in lines if (width := _width(line, separator)) > 1)
        alike = max(widths.values(), default=0)
        # Fewer than half of the lines is a mark inside of cells, such as a comma in a number.
        if alike > most and 2 * alike >= len(lines):
            best, most = separator, alike
    return best


def _width(line: str, separator: str) -> int:
    try:
        return len(next(csv.reader([line], delimiter=separator)))
    except csv.Error:
        return line.count(separator) + 1


def _rows(text: str, separator: str) -> Iterator[Row]:
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True)
    line, count = 1, 0
    try:
        for cells in reader:
            stripped = [cell.strip() for cell in cells]
            if any(stripped):
                count += 1
                if count > MOST_ROWS:
                    raise ValueError(f"expected at most {grouped(MOST_ROWS)} rows, got more")
                yield Row(line, [_as_written(cell) for cell in stripped])
            line = reader.line_num + 1
    except csv.Error as error:
        raise ValueError(f"expected CSV, got a fault on line {reader.line_num}: {error}") from None


def _as_written(cell: str) -> str:
    """A cell without the apostrophe that keeps a spreadsheet from taking it for a formula."""
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(STARTS_A_FORMULA) else cell


def safe(cell: Cell) -> Cell:
    """A cell that no spreadsheet takes for a formula: a text that begins like one gets an apostrophe before it."""
    return f"'{cell}" if isinstance(cell, str) and cell.startswith(STARTS_A_FORMULA) else cell


def named_columns(table: Table, wanted: Sequence[str], optional: Sequence[str] = ()) -> dict[str, int]:
    """The places of the columns that the first row names, by name. Raises ValueError unless all that are wanted are there."""
    names = [name.lower() for name in table.rows[0].cells] if table.rows else []
    missing = [name for name in wanted if name not in names]
    if missing:
        every = ", ".join([*wanted, *optional])
        raise ValueError(f"expected a first row that names the columns {every}, got none named {missing[0]}")
    return {name: names.index(name) for name in (*wanted, *optional) if name in names}
