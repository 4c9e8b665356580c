"""Opening stock from the rows of a table: points that are there when a design starts."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from shelf_core.design.document import Design, Opening, selected
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import part_of
from shelf_core.formats.csv_text import Row, Table, named_columns
from shelf_core.formats.faulty import FaultyRow, RowError, faulty_rows

FIELDS = ("route", "copy", "workload", "taken", "kind", "size")
"""The columns, named by the first row; `size` may be left out."""


def opening_cells(point: Opening) -> tuple[str | int | float | None, ...]:
    """A point of opening stock as a row under FIELDS, to be read again as the same."""
    plain = point.whole()
    return tuple(plain[field] for field in FIELDS)


@dataclass(frozen=True)
class OpeningRows:
    """What a table comes to: the points, and every row that cannot be read."""

    points: list[Opening]
    faults: list[FaultyRow]


def opening_rows(table: Table, design: Design) -> OpeningRows:
    """Read a table as opening stock of a design. Routes, copies and workloads are named by id or by name.

    Raises ValueError when the first row does not name the columns.
    """
    places = named_columns(table, FIELDS[:-1], FIELDS[-1:])
    points: list[Opening] = []
    faults: list[FaultyRow] = []
    for row in table.rows[1:]:
        try:
            points.append(_point({field: row.cell(place) for field, place in places.items()}, design, row))
        except DesignError as error:
            faults += faulty_rows(row.line, error)
        except RowError as error:
            faults.append(error.faulty)
    return OpeningRows(points, faults)


def _point(cells: dict[str, str], design: Design, row: Row) -> Opening:
    route = _named(design.routes, cells["route"], "route", row)
    copy = _named(route.copies, cells["copy"], "copy", row)
    workload = _named(selected(route.workloads, design.workloads), cells["workload"], "workload", row)
    size = cells.get("size", "")
    plain = {
        "route": route.id,
        "copy": copy.id,
        "workload": workload.id,
        "taken": cells["taken"].replace(" ", "T", 1),
        "kind": cells["kind"].lower(),
        **({"size": int(size) if size.isdigit() else size} if size else {}),
    }
    return part_of(Opening, plain)


def _named(entries: Sequence[Any], text: str, what: str, row: Row) -> Any:
    for one in entries:
        if text in (one.id, one.name):
            return one
    known = ", ".join(one.id for one in entries[:8]) or "none"
    raise RowError(row.line, what, f'expected a {what} of the design ({known}), got "{text}"')
