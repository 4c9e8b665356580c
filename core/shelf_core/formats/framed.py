"""What stands around a table that people have: titles above the names of its columns, sums below its rows."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from shelf_core.formats.csv_text import Row

LOOKS_AT = 15
"""So many first rows may be titles."""
_SUM = re.compile(
    r"(grand |sub)?(total|sum|average|mean|count)s?\b.*|(gesamt|summe|totale|totaal|suma|yhteensä|i alt).*", re.IGNORECASE
)


@dataclass(frozen=True)
class Skipped:
    """A row that is none of the table: the line it stands on, what it says, and why it is left out."""

    line: int
    words: str
    reason: str


@dataclass(frozen=True)
class Framed:
    """A table in its frame: the names of its columns, its rows, and the rows around it that are left out."""

    header: list[str]
    rows: list[Row]
    skipped: list[Skipped]


def framed(rows: Sequence[Row], known: Callable[[Sequence[str]], int]) -> Framed:
    """Find the row that names the columns, and leave out what stands above it and the sums below.

    `known` says how many names of a row mean something. The first row names the columns unless a later one among the first
    names more of them.
    """
    if not rows:
        return Framed([], [], [])
    head = max(range(min(len(rows), LOOKS_AT)), key=lambda place: (known(rows[place].cells), -place))
    if known(rows[head].cells) <= known(rows[0].cells):
        head = 0
    titles = [Skipped(row.line, _words(row), "it stands above the names of the columns") for row in rows[:head]]
    body, sums = list(rows[head + 1 :]), list[Skipped]()
    while body and _is_sum(body[-1]):
        row = body.pop()
        sums.insert(0, Skipped(row.line, _words(row), "it is a sum of the rows above it"))
    return Framed(list(rows[head].cells), body, [*titles, *sums])


def _is_sum(row: Row) -> bool:
    """Whether the first cell that says anything calls the row a sum."""
    first = next((cell for cell in row.cells if cell), "")
    return bool(_SUM.fullmatch(first.strip(" :")))


def _words(row: Row) -> str:
    return ", ".join(cell for cell in row.cells if cell)[:120]
