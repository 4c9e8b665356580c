"""What goes over the wire beside the core's own models."""

from typing import Any

from ninja import Schema
from pydantic import ConfigDict, Field

from shelf_core.design.cadences import Cadence
from shelf_core.design.document import Design
from shelf_core.design.ladders import Ladder
from shelf_core.design.patterns import Pattern
from shelf_core.design.targets import Site, Target
from shelf_core.design.workloads import Workload
from shelf_core.forecast.consequences import Consequence
from shelf_core.forecast.series import Series
from shelf_core.forecast.spines import ShelfOfCopy
from shelf_core.forecast.wording import Bar


class Strict(Schema):
    """A body that says nothing unknown."""

    model_config = ConfigDict(extra="forbid", strict=True)


class Health(Schema):
    """The application answers and reaches its database."""

    ready: bool


class SignIn(Strict):
    """A name and a password."""

    username: str = Field(max_length=150)
    password: str = Field(max_length=1000)


class SessionOut(Schema):
    """Who is signed in; null when nobody is."""

    username: str | None


class DesignLine(Schema):
    """A design in the list of a person's designs."""

    id: int
    name: str
    role: str


class DesignOut(Schema):
    """A design with the version of each of its entries."""

    id: int
    role: str
    revision: int
    reference_revision: int | None
    document: Design
    versions: dict[str, dict[str, int]]


class Day(Schema):
    """The days of a design: every date, and the places at which months begin."""

    dates: list[str]
    month_begins: list[int]


class Difference(Schema):
    """The change since the reference; dates are null where the target is not full within the design."""

    points: int
    stored_bytes: float
    peak_bytes: float
    full_on_before: str | None
    full_on_changed: bool


class ConsequenceOut(Schema):
    """One target at a date, and its change since the reference (null when the reference does not have it)."""

    now: Consequence
    change: Difference | None


class Consequences(Schema):
    """All targets at a date; `revision` is that of the design they were computed from."""

    on: str
    revision: int
    targets: list[ConsequenceOut]


class Use(Schema):
    """A copy that uses a rule: how many points each label claims at the date, and the age of the oldest of them."""

    route_id: str
    route: str
    copy_id: str
    target: str
    claimed: dict[str, int]
    oldest_days: dict[str, float]


class LadderReading(Schema):
    """A ladder in words, as bars on the age axis, and where it is used."""

    sentence: str
    bars: list[Bar]
    uses: list[Use]


class RunReading(Schema):
    """A run in words; the pattern is null for a rule that only RRULE can say."""

    id: str
    sentence: str
    pattern: Pattern | None


class CadenceReading(Schema):
    """A cadence in words, and the routes that use it."""

    runs: list[RunReading]
    uses: list[Use]


class Readings(Schema):
    """All rules of a design in words."""

    ladders: dict[str, LadderReading]
    cadences: dict[str, CadenceReading]


class RuleOut(Schema):
    """A pattern as a recurrence rule, and in words."""

    rrule: str
    sentence: str


class SeriesOut(Schema):
    """Series of all targets, and of the reference where it has them."""

    revision: int
    targets: list[Series]
    reference: list[Series]


class ShelvesOut(Schema):
    """What stands on the shelves at the end of a day."""

    on: str
    revision: int
    shelves: list[ShelfOfCopy]


class Trial(Strict):
    """A ladder that is tried without being saved."""

    ladder: Ladder
    on: str


class TrialOut(Schema):
    """What a trial comes to."""

    consequences: Consequences
    reading: LadderReading


class Edit(Strict):
    """What all edits carry: the version of the entry that was seen (null for a new one), and the as-of date."""

    seen: int | None = Field(ge=1, le=2**53)
    on: str


class LadderEdit(Edit):
    """A ladder as it should be."""

    value: Ladder


class CadenceEdit(Edit):
    """A cadence as it should be."""

    value: Cadence


class WorkloadEdit(Edit):
    """A workload as it should be."""

    value: Workload


class TargetEdit(Edit):
    """A target as it should be."""

    value: Target


class SiteEdit(Edit):
    """A site as it should be."""

    value: Site


class Removal(Strict):
    """The version of the entry that was seen, and the as-of date."""

    seen: int = Field(ge=1, le=2**53)
    on: str


class EditOut(Schema):
    """An edit that was made: the entry before and after, and what it comes to."""

    version: int
    before: dict[str, Any] | None
    after: dict[str, Any] | None
    consequences: Consequences
