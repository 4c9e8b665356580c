"""Tables that people have: CSV (RFC 4180), and blocks pasted from a spreadsheet, with the lines their rows stand on."""

import csv
import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

LARGEST_TABLE_BYTES = 64 * 2**20
MOST_ROWS = 500_000
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


def table_of(text: str) -> Table:
    """The table that a text holds. The separator is the first of tab, semicolon and comma that its first line has.

    Raises ValueError, naming the line, for a text that is too large or not CSV.
    """
    if len(text) > LARGEST_TABLE_BYTES:
        raise ValueError(f"expected a table of at most {LARGEST_TABLE_BYTES:,} characters, got {len(text):,}")
    text = text.removeprefix("\ufeff")
    first = text.lstrip("\r\n").split("\n", 1)[0]
    separator = next((one for one in SEPARATORS if one in first), ",")
    return Table(list(_rows(text, separator)), separator)


def _rows(text: str, separator: str) -> Iterator[Row]:
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True)
    line, count = 1, 0
    try:
        for cells in reader:
            stripped = [cell.strip() for cell in cells]
            if any(stripped):
                count += 1
                if count > MOST_ROWS:
                    raise ValueError(f"expected at most {MOST_ROWS:,} rows, got more")
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


def number_of(text: str, separator: str) -> float:
    """A number as people type it: 1500, 1.5, 12 %, and 1,5 where the comma does not tell cells apart.

    Raises ValueError for anything else.
    """
    bare = text.removesuffix("%").strip().replace("\u00a0", "").replace(" ", "")
    if separator != "," and "." not in bare:
        bare = bare.replace(",", ".")
    try:
        return float(bare)
    except ValueError:
        raise ValueError(f'expected a number, got "{text}"') from None
