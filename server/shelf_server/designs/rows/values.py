"""Values of a document as columns and back: a size that was a bare number comes back as a number."""

import re
from collections.abc import Mapping
from typing import Any

Plain = dict[str, Any]


def size_column(size: str | int | float | None) -> str | None:
    """A size as it was typed."""
    return None if size is None else repr(size) if isinstance(size, (int, float)) else size


def size_of(column: str | None) -> str | int | float | None:
    """The size that a column holds."""
    if column is None or " " in column:
        return column
    return int(column) if re.fullmatch(r"-?\d+", column) else float(column)


def dates(column: list[Any] | None) -> list[str]:
    """Dates of an array column as text."""
    return [day.isoformat() for day in column or ()]


def date_of(column: Any) -> str | None:
    """A date column as text."""
    return None if column is None else column.isoformat()


def without_nothing(plain: Mapping[str, Any]) -> Plain:
    """The fields that say something: null and empty lists are what a document leaves out."""
    return {name: value for name, value in plain.items() if value is not None and value != []}
