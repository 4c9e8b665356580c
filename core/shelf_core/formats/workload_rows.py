"""Workloads from the rows of a table: which column holds what, what each row becomes, and every row that cannot be read."""

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError, expected
from shelf_core.design.reading import part_of
from shelf_core.design.values import UNITS
from shelf_core.design.workloads import Workload
from shelf_core.formats.csv_text import Row, Table, number_of
from shelf_core.formats.faulty import FaultyRow, RowError, faulty_rows

NUMBERS = ("daily_change_percent", "hot_percent", "annual_growth_percent", "reduction", "change_reduction")
WHOLE_NUMBERS = ("count", "priority")
SIZES = ("size", "log_per_day")
FIELDS = ("id", "name", "site", *SIZES, *WHOLE_NUMBERS, *NUMBERS, "change_pattern", "from", "until", "tags")
"""What a column can hold: the fields of a workload that are one value, tags separated by commas or spaces."""

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
    where that is a row like the others.
    """

    columns: list[str | None]
    header: list[str] | None
    rows: list[ReadRow]
    faults: list[FaultyRow]


def workload_rows(
    table: Table,
    design: Design,
    columns: Sequence[str | None] | None = None,
    keys: Sequence[str] | None = None,
    *,
    header: bool = True,
) -> WorkloadRows:
    """Read a table as workloads of a design.

    With `header` the first row names the columns; `columns` says what they hold, instead of the names. `keys` are the ids of
    the workloads that the rows are for, in order; rows past them, and all without, are for the workload of the same id or else
    of the same name, and new where there is none. A cell that is empty leaves what was there. Raises ValueError for an
    unknown field or one that is named twice.
    """
    names = table.rows[0].cells if header and table.rows else None
    fields = list(_guessed(names or []) if columns is None else columns)
    _check(fields)
    reader = _Reader(design, fields, _units(names, len(fields)), table.separator)
    found: list[ReadRow] = []
    faults: list[FaultyRow] = []
    for place, row in enumerate(table.rows[1:] if header else table.rows):
        try:
            found.append(reader.read(row, keys[place] if keys and place < len(keys) else None))
        except DesignError as error:
            faults += faulty_rows(row.line, error)
        except RowError as error:
            faults.append(error.faulty)
    return WorkloadRows(fields, names, found, faults)


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
    return [parts[-1] if len(parts) > 1 and parts[-1] in UNITS else None for parts in words]


class _Reader:
    """Reads rows against a design, and gives ids to what is new."""

    def __init__(self, design: Design, fields: list[str | None], units: list[str | None], separator: str) -> None:
        self._fields, self._units, self._separator = fields, units, separator
        self._by_id = {one.id: one for one in design.workloads}
        self._by_name = {one.name: one for one in reversed(design.workloads) if one.name}
        self._sites = {site.id: site.id for site in design.sites} | {site.name: site.id for site in design.sites if site.name}
        self._only_site = design.sites[0].id if len(design.sites) == 1 else None
        self._given: dict[str, int] = {}

    def read(self, row: Row, key: str | None) -> ReadRow:
        plain: dict[str, Any] = {}
        for place, field in enumerate(self._fields):
            text = row.cell(place)
            if field is not None and text:
                plain[field] = self._value(row, field, text, self._units[place] if place < len(self._units) else None)
        before = self._before(plain, key)
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
            if field in SIZES:
                return self._size(text, unit)
            if field in NUMBERS:
                return number_of(text, self._separator)
            if field in WHOLE_NUMBERS:
                return _whole(number_of(text, self._separator), text)
        except ValueError as error:
            raise RowError(row.line, field, str(error)) from None
        if field == "tags":
            # Tags may have spaces in them where commas tell them apart.
            return [tag.strip() for tag in re.split(r"," if "," in text else r"\s+", text) if tag.strip()]
        if field == "site":
            if text not in self._sites:
                raise RowError(row.line, field, f'expected the id or name of a site ({", ".join(self._sites)}), got "{text}"')
            return self._sites[text]
        return text

    def _size(self, text: str, unit: str | None) -> Any:
        exact = re.fullmatch(r"-?\d+(?:\.\d+)? ?([A-Za-z]+)", text)
        if exact and exact[1] in UNITS:
            return text
        if not re.fullmatch(r"-?[\d.,\s\u00a0]+", text):
            match = re.fullmatch(r"(-?\d[\d.,\s\u00a0]*?)\s*([A-Za-z]+)", text)
            if match is None or match[2] not in UNITS:
                raise expected('a size such as "12 TB", "1.5 TiB" or a number of bytes', text)
            return f"{_plain(number_of(match[1], self._separator))} {match[2]}"
        number = number_of(text, self._separator)
        return f"{_plain(number)} {unit}" if unit else number


def _plain(number: float) -> str:
    return f"{number:.12f}".rstrip("0").rstrip(".")


def _whole(number: float, text: str) -> int:
    if not number.is_integer():
        raise ValueError(f'expected a whole number, got "{text}"')
    return int(number)
