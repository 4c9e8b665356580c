"""Fields of more than one shape, as columns and back."""

import re
from typing import Any

from shelf_server.designs.rows.mapping import Codec, Item, Plain, shapes


def _size_column(size: str | int | float) -> str:
    return repr(size) if isinstance(size, (int, float)) else size


def _size_of(column: str) -> str | int | float:
    if " " in column:
        return column
    return int(column) if re.fullmatch(r"-?\d+", column) else float(column)


SIZE = Codec(_size_column, _size_of)
"""A size is kept as it was typed; one that was a bare number comes back as a number."""

DAY_OR_NUMBER = Codec(str, lambda column: column)
"""A day of a period: the document itself reads a number back."""

DAY_OR_TRUTH = Codec(
    lambda value: str(value).lower() if isinstance(value, bool) else value,
    lambda column: {"true": True, "false": False}.get(column, column),
)

SPANS = Codec(
    lambda spans: [day for span in spans for day in span],
    lambda days: [list(span) for span in zip(days[::2], days[1::2], strict=True)],
)
"""Pairs of dates in one array."""


def keep(*counts: str) -> Item:
    """What a rule keeps: a text, or one of the counts."""
    columns = {name: f"keep_{name}" if name != "superseded" else "keep_superseded_extra" for name in counts}

    def encode(value: Any) -> Plain:
        if isinstance(value, str):
            return {"keep_for": value}
        ((name, count),) = value.items()
        return {columns[name]: count["extra"] if name == "superseded" else count}

    def decode(row: Plain) -> Any:
        if row["keep_for"] is not None:
            return row["keep_for"]
        name, count = next((name, row[column]) for name, column in columns.items() if row[column] is not None)
        return {name: {"extra": count} if name == "superseded" else count}

    return shapes("keep", ("keep_for", *columns.values()), encode, decode)


def _take_columns(value: Any) -> Plain:
    if value is None or isinstance(value, str):
        return {"take_by": value}
    ((by, names),) = value.items()
    return {"take_by": by, "take_names": names}


TAKE = shapes(
    "take",
    ("take_by", "take_names"),
    _take_columns,
    lambda row: row["take_by"] if row["take_by"] in (None, "all") else {row["take_by"]: row["take_names"]},
)

WHICH = shapes(
    "which",
    ("which", "rungs"),
    lambda value: {"which": "named", "rungs": value} if isinstance(value, list) else {"which": value},
    lambda row: row["rungs"] if row["which"] == "named" else row["which"],
)
"""Which points step down: a word, or the rungs that are named."""
