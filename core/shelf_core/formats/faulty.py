"""Rows of a table that cannot be read."""

from dataclasses import dataclass

from shelf_core.design.faults import DesignError


@dataclass(frozen=True)
class FaultyRow:
    """A row that could not be read: its line, the field at fault (empty for the row as a whole), and what is wrong."""

    line: int
    field: str
    message: str


class RowError(Exception):
    """A cell that cannot be read."""

    def __init__(self, line: int, field: str, message: str) -> None:
        self.faulty = FaultyRow(line, field, message)
        super().__init__(message)


def faulty_rows(line: int, error: DesignError) -> list[FaultyRow]:
    """The faults of what a row became, as faults of its fields."""
    return [FaultyRow(line, str(one.path[0]) if one.path else "", one.message) for one in error.faults]
