"""Edits and trials, and what they answer."""

from typing import Any

from ninja import Schema
from pydantic import Field

from shelf_core.design.editing import Mention
from shelf_core.design.edits.commands import Command
from shelf_core.proof.verdicts import DutyVerdict
from shelf_server.api.change_schemas import AnyChange
from shelf_server.api.design_schemas import Consequences
from shelf_server.api.reading_schemas import LadderReading
from shelf_server.api.schemas import Line, Strict


class Trial(Strict):
    """Changes that are tried without being saved."""

    changes: list[AnyChange] = Field(min_length=1, max_length=20_000)
    on: str


class DutyNow(Schema):
    """How a duty stands, and how it stood in the person's reference; None where there was none of it.

    `change` says in words what became of it since, empty for nothing.
    """

    now: DutyVerdict
    before: DutyVerdict | None
    change: str


class VerdictsOut(Schema):
    """Which duties hold. `grounds` says by which arrivals they were judged, in a sentence; empty where nothing takes time."""

    revision: int
    grounds: str
    duties: list[DutyNow]


class TrialOut(Schema):
    """What a trial comes to; the reading of the first ladder among its changes, null for none."""

    consequences: Consequences
    reading: LadderReading | None


class EditIn(Trial):
    """Changes that are made at once or not at all, and what they are in words.

    `undoes` is the revision of one's own step that they take back; null for an edit of its own.
    """

    what: Line = Field(min_length=1, max_length=300)
    undoes: int | None = Field(default=None, ge=1, le=2**53)


class CommandIn(Strict):
    """A named edit, and the versions of the entries that were seen: none of those that it changes may be another by now."""

    command: Command
    on: str
    what: Line = Field(min_length=1, max_length=300)
    seen: dict[str, dict[str, int]]


class MentionsOut(Schema):
    """What refers to an entry, and the entries that could stand in for it."""

    mentions: list[Mention]
    instead: list[str]


class MadeOut(Schema):
    """A change that was made: the entry before and after, and its version."""

    part: str
    key: str
    version: int
    place_before: int | None
    before: dict[str, Any] | None
    after: dict[str, Any] | None


class EditOut(Schema):
    """An edit that was made, and what it comes to; `duties` is null where there are none, or too many to be judged at once."""

    revision: int
    made: list[MadeOut]
    consequences: Consequences
    duties: VerdictsOut | None = None
