"""Workloads as rows of cells: what each cell may hold, and what a text that is typed into one makes of its workload."""

import re
from collections.abc import Mapping, Sequence
from typing import Any

from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.reading import part_of
from shelf_core.design.targets import Site
from shelf_core.design.typed import Decimals, typed_number, typed_size, typed_whole, unit_in
from shelf_core.design.values import bytes_of
from shelf_core.design.workloads import Workload

NUMBERS = ("daily_change_percent", "hot_percent", "annual_growth_percent", "reduction", "change_reduction")
WHOLE_NUMBERS = ("count", "priority")
SIZES = ("size", "annual_growth", "log_per_day")
FIELDS = ("id", "name", "site", *SIZES, *WHOLE_NUMBERS, *NUMBERS, "change_pattern", "from", "until", "tags")
"""The fields of a workload that are one value, tags separated by commas or spaces."""
NEEDED = ("id", "site", "size")


def cell_value(field: str, text: str, unit: str | None, sites: Mapping[str, str], decimals: Decimals | None = None) -> Any:
    """The plain value of a field that a text says. `sites` are the ids of sites by id and name, `unit` that of a bare size.

    Raises ValueError for a text that says none.
    """
    if field in SIZES:
        return typed_size(text, unit, decimals)
    if field in NUMBERS:
        return typed_number(text, decimals)
    if field in WHOLE_NUMBERS:
        return typed_whole(text, decimals)
    if field == "tags":
        # Tags may have spaces in them where commas tell them apart.
        return [tag.strip() for tag in re.split(r"," if "," in text else r"\s+", text) if tag.strip()]
    if field == "site":
        if text not in sites:
            raise ValueError(f'expected the id or name of a site ({", ".join(sites)}), got "{text}"')
        return sites[text]
    return text


def sites_by_name(sites: Sequence[Site]) -> dict[str, str]:
    """The ids of sites by what people call them: id or name."""
    return {site.id: site.id for site in sites} | {site.name: site.id for site in sites if site.name}


def with_cells(workload: Workload, cells: Mapping[str, str], sites: Sequence[Site]) -> Workload:
    """The workload with texts typed into some of its cells; an empty text is what the field is without being said.

    A bare size takes the unit that stood there. Raises DesignError with a fault for each cell that cannot be read.
    """
    plain, faults = workload.plain(), []
    named = sites_by_name(sites)
    for field, text in cells.items():
        try:
            if field not in FIELDS or field == "id":
                raise ValueError(f"expected a cell of a workload ({', '.join(FIELDS[1:])}), got {field}")
            if text.strip() == "":
                if field in NEEDED:
                    raise ValueError(f"expected a {field}, got nothing")
                plain.pop(field, None)
                continue
            before = plain.get(field) if field in SIZES else None
            plain[field] = cell_value(field, text.strip(), unit_in(before) or unit_in(workload.size), named)
        except ValueError as error:
            faults.append(Fault((field,), str(error)))
    if faults:
        raise DesignError(faults)
    return part_of(Workload, plain)


def ordered_by(workloads: Sequence[Workload], *fields: str) -> list[str]:
    """The ids of workloads in the order of a field's value, of equals in that of the next field, else as they stand.

    A field with a minus before it goes down. Those without a value come last either way. Sizes are ordered by their bytes.
    Raises ValueError for what is no field.
    """
    found = list(workloads)
    for named in reversed(fields):
        field = named.removeprefix("-")
        if field not in FIELDS:
            raise ValueError(f"expected a field of a workload ({', '.join(FIELDS)}), got {field}")
        valued = [(_ordering_value(one, field), one) for one in found]
        some = [pair for pair in valued if pair[0] is not None]
        some.sort(key=lambda pair: pair[0], reverse=named.startswith("-"))
        found = [one for _, one in some] + [one for value, one in valued if value is None]
    return [one.id for one in found]


def _ordering_value(workload: Workload, field: str) -> Any:
    """What a workload is ordered by; None for one that has no value in the field."""
    value = getattr(workload, "from_" if field == "from" else field)
    if value is None or value in ("", []):
        return None
    if field in SIZES:
        return bytes_of(value)
    if field == "tags":
        return [tag.casefold() for tag in value]
    return _natural(value) if isinstance(value, str) else value


def _natural(text: str) -> list[tuple[int, int | str]]:
    """A text as people order it: figures in it by their value."""
    parts = re.split(r"(\d+)", text.casefold())
    return [(0, int(part)) if part.isdigit() and part.isascii() else (1, part) for part in parts if part]
