"""The history of a design and its variants as the API gives them."""

from datetime import datetime
from typing import Any, Literal

from ninja import Schema
from pydantic import Field

from shelf_server.api.schemas import Line, Strict


class FieldChange(Schema):
    """A field of an entry that a change touched, before and after; null where there was nothing."""

    field: str
    before: Any | None
    after: Any | None


class HistoryEntry(Schema):
    """One entry that a step changed: whether it was added, changed or taken out, and in which fields."""

    part: str
    key: str
    name: str
    how: Literal["added", "changed", "taken out"]
    fields: list[FieldChange]


class HistoryStep(Schema):
    """What somebody did at once. `entries` holds the first of them, `more` counts the rest."""

    revision: int
    when: datetime
    who: str
    what: str
    entries: list[HistoryEntry]
    more: int


class HistoryOut(Schema):
    """Steps, the newest first; `before` is the revision to ask for more from, null at the end."""

    steps: list[HistoryStep]
    before: int | None


class VariantIn(Strict):
    """The name of a variant."""

    name: Line = Field(min_length=1, max_length=100)
