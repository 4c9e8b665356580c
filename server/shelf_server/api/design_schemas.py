"""What the API says of designs as wholes."""

from ninja import Schema

from shelf_core.design.document import Design
from shelf_core.design.next_step import NextStep
from shelf_core.forecast.charts import DayMark
from shelf_core.forecast.consequences import Consequence


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
    """The days of a design: every date, the places at which months begin, and the days that a chart of all of them names."""

    dates: list[str]
    month_begins: list[int]
    marks: list[DayMark]


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
    """All targets at a date; `revision` is that of the design they were computed from.

    `next_step` is what the design lacks first before it says anything, null once it does.
    """

    on: str
    revision: int
    targets: list[ConsequenceOut]
    next_step: NextStep | None = None


class UseOut(Schema):
    """A copy that uses a rule: how many points each label claims at the date, and the age of the oldest of them."""

    route_id: str
    route: str
    copy_id: str
    target: str
    claimed: dict[str, int]
    oldest_days: dict[str, float]
