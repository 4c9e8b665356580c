"""Opening stock from the rows of a table: points that are there when a design starts."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from shelf_core.design.document import Design, Opening, selected
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import part_of
from shelf_core.formats.csv_text import Row, Table
from shelf_core.formats.workload_rows import FaultyRow

FIELDS = ("route", "copy", "workload", "taken", "kind", "size")
"""The columns, named by the first row; `size` may be left out."""


@dataclass(frozen=True)
class OpeningRows:
    """What a table comes to: the points, and every row that cannot be read."""

    points: list[Opening]
    faults: list[FaultyRow]


def opening_rows(table: Table, design: Design) -> OpeningRows:
    """Read a table as opening stock of a design. Routes, copies and workloads are named by id or by name.

    Raises ValueError when the first row does not name the columns.
    """
    names = [name.lower() for name in table.rows[0].cells] if table.rows else []
    missing = [field for field in FIELDS[:-1] if field not in names]
    if missing:
        raise ValueError(f"expected a first row that names the columns {', '.join(FIELDS)}, got none named {missing[0]}")
    points: list[Opening] = []
    faults: list[FaultyRow] = []
    for row in table.rows[1:]:
        try:
            points.append(_point({field: row.cell(names.index(field)) for field in FIELDS if field in names}, design, row))
        except DesignError as error:
            faults += [FaultyRow(row.line, str(one.path[0]) if one.path else "", one.message) for one in error.faults]
        except _CellError as error:
            faults.append(error.faulty)
    return OpeningRows(points, faults)


class _CellError(Exception):
    def __init__(self, faulty: FaultyRow) -> None:
        self.faulty = faulty
        super().__init__(faulty.message)


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
    raise _CellError(FaultyRow(row.line, what, f'expected a {what} of the design ({known}), got "{text}"'))
