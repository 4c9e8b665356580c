"""Points as the API lists them."""

from typing import Literal

from ninja import Schema
from pydantic import Field

from shelf_core.design.cadences import Kind
from shelf_core.design.values import Day as Date
from shelf_core.forecast.points import Chosen, PointRow
from shelf_core.forecast.spines import ShelfOfCopy


class PointsChosen(Schema):
    """Which points are listed.

    `taken_from` and `taken_to` are local dates, `rule` is a rung's name, or `recent`, `hold` and so on.
    """

    target: str | None = None
    route: str | None = None
    copy_id: str | None = None
    workload: str | None = None
    state: Literal["kept", "locked", "needed", "due"] | None = None
    kind: Kind | None = None
    run: str | None = None
    rule: str | None = None
    taken_from: Date | None = None
    taken_to: Date | None = None

    def choice(self) -> Chosen:
        """The same as the core has it."""
        said = self.model_dump(include={*PointsChosen.model_fields})
        return Chosen(copy=said.pop("copy_id"), **said)


class PointsOfPage(PointsChosen):
    """Which points are listed, from which row on, and how many rows."""

    first: int = Field(default=0, ge=0, le=10**9)
    most: int = Field(default=100, ge=1, le=1000)


class PointsOut(Schema):
    """A page of the list of points; `total` counts the whole list, `rules` and `runs` are those it may be narrowed to."""

    on: str
    revision: int
    total: int
    rows: list[PointRow]
    rules: list[str]
    runs: list[str]


class ShelvesOut(Schema):
    """What stands on the shelves at the end of a day."""

    on: str
    revision: int
    shelves: list[ShelfOfCopy]
