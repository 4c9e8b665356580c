"""Workloads from the rows of a table: which column holds what, what each row becomes, and every row that cannot be read."""

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from shelf_core.design.cells import FIELDS, NUMBERS, SIZES, cell_value, sites_by_name
from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import part_of
from shelf_core.design.typed import Decimals, decimals_in, unit_in, unit_of
from shelf_core.design.workloads import Workload
from shelf_core.formats.csv_text import Row, Table
from shelf_core.formats.faulty import FaultyRow, RowError, faulty_rows
from shelf_core.formats.framed import Framed, Skipped, framed

SAMPLED = 6
_WORDS: dict[str, tuple[str, ...]] = {
    "id": ("id", "key"),
    "name": ("name", "workload", "machine", "system", "server"),
    "site": ("site", "location", "place"),
    "size": ("size", "capacity", "used", "data"),
    "log_per_day": ("log", "logs"),
    "count": ("count", "number", "how many"),
    "priority": ("priority",),
    "daily_change_percent": ("daily change", "change %/day", "change per day", "change"),
    "hot_percent": ("hot", "changing part"),
    "annual_growth_percent": ("growth",),
    "change_reduction": ("change reduction", "reduction of changes"),
    "reduction": ("reduction", "compression"),
    "change_pattern": ("pattern", "changes"),
    "from": ("from", "begins"),
    "until": ("until", "ends"),
    "tags": ("tags", "tag", "groups"),
}


def workload_cells(workload: Workload) -> tuple[str | int | float | None, ...]:
    """A workload as a row under FIELDS, to be read again as the same. What is more than one value is not in it."""
    plain = workload.whole()
    tags = ", ".join(workload.tags)
    # One tag with a space in it would be read as two.
    plain["tags"] = f"{tags}," if len(workload.tags) == 1 and " " in tags else tags
    return tuple(plain[field] for field in FIELDS)


@dataclass(frozen=True)
class ReadRow:
    """A row that became a workload: the line it stands on, and whether it is new or replaces one there is."""

    line: int
    action: Literal["new", "changed", "same"]
    value: Workload


@dataclass(frozen=True)
class WorkloadRows:
    """What a table comes to.

    `columns` says what each column was read as, None for one that is left out; `header` the names in its first row, None
    where that is a row like the others. `skipped` are rows around the table that are none of it, each with the reason;
    `sample` are the cells of its first rows.
    """

    columns: list[str | None]
    header: list[str] | None
    rows: list[ReadRow]
    faults: list[FaultyRow]
    skipped: list[Skipped]
    sample: list[list[str]]


def workload_rows(
    table: Table,
    design: Design,
    columns: Sequence[str | None] | None = None,
    keys: Sequence[str] | None = None,
    *,
    header: bool = True,
) -> WorkloadRows:
    """Read a table as workloads of a design.

    With `header` the first row of the table names the columns, which titles may stand above and sums below; `columns` says what
    they hold, instead of the names. `keys` are the ids of
    the workloads that the rows are for, in order; rows past them, and all without, are for the workload of the same id or else
    of the same name, and new where there is none. A cell that is empty leaves what was there. Raises ValueError for an
    unknown field or one that is named twice.
    """
    frame = framed(table.rows, _known) if header else Framed([], list(table.rows), [])
    names = frame.header
    fields = list(_guessed(names)) if columns is None else list(columns)
    _check(fields)
    is_ours = bool(names) and all(name in FIELDS for name in names)
    decimals = "." if is_ours else _decimals(frame.rows, fields)
    reader = _Reader(design, fields, _units(names if header else None, len(fields)), decimals, is_ours=is_ours)
    found: list[ReadRow] = []
    faults: list[FaultyRow] = []
    for place, row in enumerate(frame.rows):
        try:
            found.append(reader.read(row, keys[place] if keys and place < len(keys) else None))
        except DesignError as error:
            faults += faulty_rows(row.line, error)
        except RowError as error:
            faults.append(error.faulty)
    return WorkloadRows(
        fields, names if header else None, found, faults, frame.skipped, [row.cells for row in frame.rows[:SAMPLED]]
    )


def _known(names: Sequence[str]) -> int:
    """How many names of a row mean a field."""
    return sum(one is not None for one in _guessed(names))


def _decimals(rows: Sequence[Row], fields: Sequence[str | None]) -> Decimals | None:
    """The decimal mark that the numbers of a table show; what is unclear in one cell may be clear from another."""
    places = [place for place, field in enumerate(fields) if field in (*SIZES, *NUMBERS)]
    return decimals_in([row.cell(place) for row in rows for place in places])


def _guessed(header: Sequence[str]) -> list[str | None]:
    found: list[str | None] = []
    for name in header:
        bare = re.sub(r"\(.*?\)|_", " ", name).strip().lower()
        exact = bare.replace(" ", "_")
        field = exact if exact in FIELDS else next((one for one, words in _WORDS.items() if bare in words), None)
        if field is None:
            field = next((one for one, words in _WORDS.items() if any(bare.startswith(f"{word} ") for word in words)), None)
        found.append(None if field in found else field)
    return found


def _check(fields: Sequence[str | None]) -> None:
    named = [field for field in fields if field is not None]
    for field in named:
        if field not in FIELDS:
            raise ValueError(f'expected columns out of {", ".join(FIELDS)}, got "{field}"')
        if named.count(field) > 1:
            raise ValueError(f"expected each field once, got {field} twice")


def _units(header: Sequence[str] | None, width: int) -> list[str | None]:
    """The unit that a column's name gives in brackets or as its last word, such as `Size (GB)`."""
    if header is None:
        return [None] * width
    words = [re.split(r"[\s()\[\]]+", name.strip(" )]")) for name in header]
    return [_unit(parts[-1]) if len(parts) > 1 else None for parts in words]


def _unit(word: str) -> str | None:
    try:
        return unit_of(word)
    except ValueError:
        return None


class _Reader:
    """Reads rows against a design, and gives ids to what is new."""

    def __init__(
        self,
        design: Design,
        fields: list[str | None],
        units: list[str | None],
        decimals: Decimals | None,
        *,
        is_ours: bool,
    ) -> None:
        self._fields, self._units, self._decimals, self._is_ours = fields, units, decimals, is_ours
        self._by_id = {one.id: one for one in design.workloads}
        self._by_name = {one.name: one for one in reversed(design.workloads) if one.name}
        self._sites = sites_by_name(design.sites)
        self._only_site = design.sites[0].id if len(design.sites) == 1 else None
        self._given: dict[str, int] = {}

    def read(self, row: Row, key: str | None) -> ReadRow:
        texts = {field: (row.cell(place), place) for place, field in enumerate(self._fields) if field and row.cell(place)}
        names = {field: text for field, (text, _) in texts.items() if field in ("id", "name")}
        before = self._before(names, key)
        plain: dict[str, Any] = {}
        for field, (text, place) in texts.items():
            unit = self._units[place] if place < len(self._units) else None
            plain[field] = self._value(row, field, text, unit or _unit_of(before, field))
        if before is not None:
            plain = {**before.plain(), **plain, "id": before.id}
        elif "id" not in plain:
            plain["id"] = self._fresh(plain.get("name", "workload"))
        if "site" not in plain and self._only_site:
            plain["site"] = self._only_site
        value = part_of(Workload, plain)
        if value.id in self._given:
            raise RowError(row.line, "id", f"expected each workload once, got {value.id} as on line {self._given[value.id]}")
        self._given[value.id] = row.line
        return ReadRow(row.line, "new" if before is None else "same" if before == value else "changed", value)

    def _before(self, plain: dict[str, Any], key: str | None) -> Workload | None:
        if key is not None:
            return self._by_id.get(key)
        if "id" in plain:
            return self._by_id.get(plain["id"])
        return self._by_name.get(plain.get("name", ""))

    def _fresh(self, name: str) -> str:
        plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
        base = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:80] or "workload"
        number, found = 1, base
        while found in self._by_id or found in self._given:
            number += 1
            found = f"{base}-{number}"
        return found

    def _value(self, row: Row, field: str, text: str, unit: str | None) -> Any:
        try:
            if self._is_ours and field in SIZES and re.fullmatch(r"\d+(\.\d+)?", text):
                # Under the names that our own files have, a bare number is one of bytes, as in a document.
                return float(text) if "." in text else int(text)
            return cell_value(field, text, unit, self._sites, self._decimals)
        except ValueError as error:
            raise RowError(row.line, field, str(error)) from None


def _unit_of(before: Workload | None, field: str) -> str | None:
    """The unit that a size had before."""
    if before is None or field not in SIZES:
        return None
    return unit_in(before.size if field == "size" else before.log_per_day)
