"""Tables as the API takes and gives them."""

from typing import Literal

from ninja import Schema
from pydantic import Field

from shelf_core.design.values import Day
from shelf_core.formats.csv_text import LARGEST_TABLE_BYTES
from shelf_core.formats.workload_rows import WorkloadRows
from shelf_core.sizing.together import Together
from shelf_server.api.schemas import Line, Strict


class TableIn(Strict):
    """A table as text: CSV, or a block from a spreadsheet."""

    text: str = Field(max_length=LARGEST_TABLE_BYTES)


class WorkloadTableIn(TableIn):
    """A table of workloads. `columns` says what each holds where no first row does; `keys` whose rows they are.

    A `block` is what a spreadsheet copies: cells are told apart by tabs alone.
    """

    columns: list[str | None] | None = Field(default=None, max_length=200)
    header: bool = True
    block: bool = False
    keys: list[str] | None = Field(default=None, max_length=100_000)


class WorkloadRowsOut(Schema):
    """What a table of workloads comes to, and what its columns can hold."""

    fields: list[str]
    read: WorkloadRows


class TypedIn(Strict):
    """A text that was typed where a value is wanted; a bare size or speed takes the unit of what stood there `before`."""

    kind: Literal["size", "number", "whole", "speed", "duration", "duration words", "date"]
    text: Line = Field(max_length=200)
    before: str | float | None = None


class TypedOut(Schema):
    """What a text says, as it stands in a document."""

    value: str | float


class OrderOut(Schema):
    """The ids of all workloads in the order of one of their fields, by value; those without one come last."""

    revision: int
    ids: list[str]


class TotalsIn(Strict):
    """Which workloads are added up, by their ids, all of the design for null; and on which date."""

    on: Day
    ids: list[str] | None = Field(default=None, max_length=100_000)


class TotalsOut(Schema):
    """What workloads come to together."""

    revision: int
    together: Together


class ListingIn(TableIn):
    """A listing of files, with patterns of paths to count and not to count."""

    include: list[str] = Field(default=[], max_length=200)
    exclude: list[str] = Field(default=[], max_length=200)


class PastIn(TableIn):
    """Past points of a workload, and the size of its source at the newest full."""

    source_size: str | int
