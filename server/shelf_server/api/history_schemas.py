"""The history of a design and its variants as the API gives them."""

from datetime import datetime
from typing import Any, Literal

from ninja import Schema
from pydantic import Field

from shelf_core.forecast.differences import FieldChange
from shelf_server.api.edit_schemas import MadeOut
from shelf_server.api.schemas import Line, Strict


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


class StepOut(Schema):
    """A step of one's own: the revision that it led to, the words for it, and what it changed.

    The version of each entry is the one that one's own steps led to in the end.
    """

    revision: int
    what: str
    made: list[MadeOut]


class StepsOut(Schema):
    """What can be taken back and what can be done again, the latest last."""

    done: list[StepOut]
    undone: list[StepOut]


class ChangeBack(Schema):
    """An entry as it would be; null where it would be taken out. `place` is where it goes back into its list."""

    part: str
    key: str
    value: dict[str, Any] | None
    place: int | None


class BackOut(Schema):
    """What going back to a revision would change, from the revision that the design has now.

    `entries` tells the first of them in words, `more` counts the rest.
    """

    revision: int
    changes: list[ChangeBack]
    entries: list[HistoryEntry]
    more: int


class VariantIn(Strict):
    """The name of a variant."""

    name: Line = Field(min_length=1, max_length=100)
