"""What goes over the wire beside the core's own models."""

from datetime import datetime
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import AfterValidator, ConfigDict, Field

from shelf_core.design.cadences import Cadence, Kind
from shelf_core.design.document import Design, Settings, Stock
from shelf_core.design.duty_starts import DutyStart
from shelf_core.design.editing import Mention
from shelf_core.design.edits.commands import Command
from shelf_core.design.extra_costs import ExtraCost
from shelf_core.design.ladders import Ladder, Recent, Rung
from shelf_core.design.links import Link
from shelf_core.design.patterns import Pattern, Window
from shelf_core.design.routes import Route
from shelf_core.design.standing import Duty, LossCase, RecoveryPlan
from shelf_core.design.starting_points import CadenceStart, LadderStart, TargetStart
from shelf_core.design.targets import Site, Target
from shelf_core.design.values import Day as Date
from shelf_core.design.values import Id, check_line
from shelf_core.design.workloads import Workload
from shelf_core.forecast.consequences import Consequence
from shelf_core.forecast.effects import Effect
from shelf_core.forecast.finding import Finding
from shelf_core.forecast.line_words import LinkReading
from shelf_core.forecast.points import Chosen, PointRow
from shelf_core.forecast.protection import Protection
from shelf_core.forecast.series import Series, SplitSeries
from shelf_core.forecast.spines import ShelfOfCopy
from shelf_core.forecast.wording import Bar
from shelf_core.formats.csv_text import LARGEST_TABLE_BYTES
from shelf_core.formats.workload_rows import WorkloadRows
from shelf_core.proof.verdicts import DutyVerdict


class Strict(Schema):
    """A body that says nothing unknown."""

    model_config = ConfigDict(extra="forbid", strict=True)


Line = Annotated[str, AfterValidator(check_line)]
"""A text on one line, of what can be seen."""


class Health(Schema):
    """The application answers and reaches its database."""

    ready: bool


class SignIn(Strict):
    """A name and a password."""

    username: Line = Field(max_length=150)
    password: str = Field(max_length=1000)


class SessionOut(Schema):
    """Who is signed in; null when nobody is."""

    username: str | None


class DesignLine(Schema):
    """A design in the list of a person's designs."""

    id: int
    name: str
    role: str
    family: int
    variant: str
    current: bool


class DesignOut(Schema):
    """A design with the version of each of its entries."""

    id: int
    role: str
    variant: str
    current: bool
    revision: int
    reference_revision: int | None
    document: Design
    versions: dict[str, dict[str, int]]


class RevisionOut(Schema):
    """The revision of a design, and who made it by doing what."""

    revision: int
    who: str
    what: str


class Day(Schema):
    """The days of a design: every date, and the places at which months begin."""

    dates: list[str]
    month_begins: list[int]


class Difference(Schema):
    """The change since the reference; dates are null where the target is not full within the design.

    `weight` says how much it is: the largest share by which a figure changed, at least 1 where the full-on date did.
    """

    points: int
    stored_bytes: float
    peak_bytes: float
    full_on_before: str | None
    full_on_changed: bool
    weight: float


class ConsequenceOut(Schema):
    """One target at a date, and its change since the reference (null when the reference does not have it)."""

    now: Consequence
    change: Difference | None


class Consequences(Schema):
    """All targets at a date; `revision` is that of the design they were computed from."""

    on: str
    revision: int
    targets: list[ConsequenceOut]


class UseOut(Schema):
    """A copy that uses a rule: how many points each label claims at the date, and the age of the oldest of them."""

    route_id: str
    route: str
    copy_id: str
    target: str
    claimed: dict[str, int]
    oldest_days: dict[str, float]


class LadderReading(Schema):
    """A ladder in words, as bars on the age axis, and where it is used; what is added to it first when somebody asks."""

    sentence: str
    bars: list[Bar]
    next_recent: Recent
    next_rung: Rung
    uses: list[UseOut]


class RunReading(Schema):
    """A run in words; the pattern is null for a rule that only RRULE can say."""

    id: str
    sentence: str
    pattern: Pattern | None
    window: Window | None


class CadenceReading(Schema):
    """A cadence in words, and the routes that use it."""

    runs: list[RunReading]
    uses: list[UseOut]


class Readings(Schema):
    """All rules of a design in words."""

    ladders: dict[str, LadderReading]
    cadences: dict[str, CadenceReading]
    links: dict[str, LinkReading]


class RuleOut(Schema):
    """A pattern as a recurrence rule, and in words."""

    rrule: str
    sentence: str


class WindowOut(Schema):
    """The times of day of a window."""

    at: list[str]


class SeriesOut(Schema):
    """Series of all targets, and of the reference where it has them."""

    revision: int
    targets: list[Series]
    reference: list[Series]


class SplitOut(Schema):
    """One target told apart."""

    revision: int
    split: SplitSeries


class UnfreeOut(Schema):
    """Bytes that nobody can free, one figure for each day from the place `first` on.

    `locked_bytes` are those of them that locks hold; the rest is only billed, for the minimum stay of its target.
    """

    revision: int
    first: int
    stored_bytes: list[float]
    locked_bytes: list[float]


class DaysAsked(Schema):
    """Which days: those from `first` to `last`, all where they are not said, and `on` in any case."""

    on: str | None = None
    first: str | None = None
    last: str | None = None


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


class ChangeIn(Strict):
    """What all changes carry.

    The version of the entry that was seen (null for a new one; trials need none), and where a new entry goes in its list
    (null for the end).
    """

    key: Id
    seen: int | None = Field(default=None, ge=1, le=2**53)
    place: int | None = Field(default=None, ge=0, le=1_000_000)


class SettingsChange(ChangeIn):
    """The settings of the design, under the key `design`."""

    part: Literal["settings"]
    value: Settings


class SiteChange(ChangeIn):
    """A site as it should be; null takes it out."""

    part: Literal["sites"]
    value: Site | None


class LinkChange(ChangeIn):
    """A link between sites as it should be; null takes it out."""

    part: Literal["links"]
    value: Link | None


class TargetChange(ChangeIn):
    """A target as it should be; null takes it out."""

    part: Literal["targets"]
    value: Target | None


class WorkloadCells(ChangeIn):
    """Texts typed into cells of a workload, which the core reads: one that is refused takes no other edit with it."""

    part: Literal["workload cells"]
    cells: dict[str, Line] = Field(min_length=1, max_length=40)


class WorkloadChange(ChangeIn):
    """A workload as it should be; null takes it out."""

    part: Literal["workloads"]
    value: Workload | None


class CadenceChange(ChangeIn):
    """A cadence as it should be; null takes it out."""

    part: Literal["cadences"]
    value: Cadence | None


class LadderChange(ChangeIn):
    """A ladder as it should be; null takes it out."""

    part: Literal["ladders"]
    value: Ladder | None


class RouteChange(ChangeIn):
    """A route as it should be; null takes it out."""

    part: Literal["routes"]
    value: Route | None


class RecoveryPlanChange(ChangeIn):
    """A recovery plan as it should be; null takes it out."""

    part: Literal["recovery_plans"]
    value: RecoveryPlan | None


class LossCaseChange(ChangeIn):
    """A case of loss as it should be; null takes it out."""

    part: Literal["loss_cases"]
    value: LossCase | None


class DutyChange(ChangeIn):
    """A duty as it should be; null takes it out."""

    part: Literal["duties"]
    value: Duty | None


class ExtraCostChange(ChangeIn):
    """What costs beside storage, as it should be; null takes it out."""

    part: Literal["costs"]
    value: ExtraCost | None


class StockChange(ChangeIn):
    """Holds, opening stock, what is not known and past rehearsals, under the key `design`."""

    part: Literal["stock"]
    value: Stock


AnyChange = Annotated[
    SettingsChange
    | SiteChange
    | LinkChange
    | TargetChange
    | WorkloadChange
    | WorkloadCells
    | CadenceChange
    | LadderChange
    | RouteChange
    | RecoveryPlanChange
    | LossCaseChange
    | DutyChange
    | ExtraCostChange
    | StockChange,
    Field(discriminator="part"),
]


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
    """Changes that are made at once or not at all, and what they are in words."""

    what: Line = Field(min_length=1, max_length=300)


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


class EffectsOut(Schema):
    """What changes would come to, copy by copy."""

    on: str
    effects: list[Effect]


class FindingsOut(Schema):
    """The slips that a forecast shows."""

    revision: int
    findings: list[Finding]


class RouteReading(Schema):
    """A route in words: the workloads it takes, a sentence for each copy, and how its workloads are protected at the date."""

    workloads: list[str]
    copies: dict[str, str]
    protection: list[Protection]


class RoutesOut(Schema):
    """All routes in words at a date, the workloads that none takes, and every tag with how many have it.

    `before_start` is the last minute before the design starts: what is there by then is opening stock.
    """

    on: str
    revision: int
    routes: dict[str, RouteReading]
    taken_by_none: list[str]
    tags: dict[str, int]
    before_start: str


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

    kind: Literal["size", "number", "whole", "speed", "duration", "duration words"]
    text: Line = Field(max_length=200)
    before: str | float | None = None


class TypedOut(Schema):
    """What a text says, as it stands in a document."""

    value: str | float


class OrderOut(Schema):
    """The ids of all workloads in the order of one of their fields, by value; those without one come last."""

    revision: int
    ids: list[str]


class ListingIn(TableIn):
    """A listing of files, with patterns of paths to count and not to count."""

    include: list[str] = Field(default=[], max_length=200)
    exclude: list[str] = Field(default=[], max_length=200)


class PastIn(TableIn):
    """Past points of a workload, and the size of its source at the newest full."""

    source_size: str | int


class StartingPoints(Schema):
    """Ready-made cadences, ladders, targets and duties, and a design with nothing in it."""

    cadences: list[CadenceStart]
    ladders: list[LadderStart]
    targets: list[TargetStart]
    duties: list[DutyStart]
    empty: Design
