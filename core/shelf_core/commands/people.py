"""Rows for a person who looks at a terminal: columns under each other, bytes and times as people read them."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import chain, islice

from shelf_core.digits import grouped
from shelf_core.forecast.figure_words import bytes_words, length_words

Cell = str | int | float | None
LOOKED_AT = 200
"""From so many rows the widths of the columns are taken: rows are written as they come."""
_WORDS: dict[str, Callable[[float], str]] = {
    "_bytes_per_second": lambda value: f"{bytes_words(value)}/s",
    "_seconds": length_words,
}


def rows_for_people(columns: Sequence[str], rows: Iterable[Sequence[Cell]]) -> Iterator[str]:
    """Lines of a table, its names first. Figures line up at the right.

    >>> list(rows_for_people(["target", "stored_bytes"], [["disk", 22.4e12]]))
    ['target   stored', 'disk    22.4 TB']
    """
    names = [heading(one) for one in columns]
    coming = iter(rows)
    first = list(islice(coming, LOOKED_AT))
    at_right = [bool(first) and all(_is_figure(row[place]) for row in first) for place in range(len(names))]
    said = [names, *(_line(columns, row) for row in first)]
    widths = [max(map(len, column)) for column in zip(*said, strict=True)]
    for line in chain(said, (_line(columns, row) for row in coming)):
        cells = zip(line, widths, at_right, strict=True)
        yield "  ".join(one.rjust(width) if right else one.ljust(width) for one, width, right in cells).rstrip()


def _line(columns: Sequence[str], row: Sequence[Cell]) -> list[str]:
    return [_said(name, cell) for name, cell in zip(columns, row, strict=True)]


def heading(column: str) -> str:
    """The name of a column as people read it: what its figures are in stands in them.

    >>> heading("stored_bytes_at_end"), heading("lost_seconds"), heading("bytes")
    ('stored at end', 'lost', 'bytes')
    """
    words = column
    for unit in ("_bytes_per_second", "_bytes", "_seconds"):
        words = words.replace(unit, "")
    return words.replace("_", " ")


def _said(column: str, cell: Cell) -> str:
    if cell is None:
        return ""
    number = _number(cell)
    if number is None:
        return str(cell)
    for unit, words in _WORDS.items():
        if unit in column:
            return words(number)
    if "_bytes" in column or column == "bytes":
        return bytes_words(number)
    return grouped(number, 2) if isinstance(cell, float) else str(cell)


def _number(cell: Cell) -> float | None:
    """The number of a cell, which some tables hold as text; None for words."""
    if isinstance(cell, (int, float)):
        return float(cell)
    try:
        return float(cell) if cell else None
    except ValueError:
        return None


def _is_figure(cell: Cell) -> bool:
    return cell in (None, "") or _number(cell) is not None
