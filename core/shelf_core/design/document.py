"""The design: everything in one document, and the checks that span its parts."""

from typing import Literal

from pydantic import Field

from shelf_core.calendar.names import ZoneName
from shelf_core.design.base import Part
from shelf_core.design.cadences import Cadence, Kind
from shelf_core.design.extra_costs import ExtraCost
from shelf_core.design.ladders import Ladder
from shelf_core.design.links import Link
from shelf_core.design.routes import Route, Selection
from shelf_core.design.standing import Duty, LossCase, RecoveryPlan, Rehearsal, Workloads
from shelf_core.design.targets import Site, Target
from shelf_core.design.unknowns import Unknown
from shelf_core.design.values import LONGEST_YEARS, Day, Id, LocalTime, Size, Text
from shelf_core.design.workloads import Workload

Weekday = Literal["MO", "TU", "WE", "TH", "FR", "SA", "SU"]


class Hold(Part):
    """Points taken between two dates that stay from one date until another."""

    workloads: Workloads
    taken_from: Day
    taken_to: Day
    placed: Day
    released: Day | None = None


class Opening(Part):
    """A point that is there when the design starts."""

    route: Id
    copy_: Id = Field(alias="copy")
    workload: Id
    taken: LocalTime
    kind: Kind
    size: Size | None = None


class Settings(Part):
    """What a design says of itself; `currency` is an ISO 4217 code that all its prices are in.

    `correlation` says how much what is unknown moves together between workloads: 0 each on its own, 1 all as one.
    """

    name: Text
    timezone: ZoneName
    starts: Day
    years: int = Field(ge=1, le=LONGEST_YEARS)
    week_starts: Weekday = "MO"
    currency: str = Field(default="EUR", pattern="^[A-Z]{3}$")
    correlation: float = Field(default=0.5, ge=0, le=1, allow_inf_nan=False)


class Stock(Part):
    """What a design has beside its rules: holds, points that are there when it starts, what is not known, past rehearsals."""

    holds: list[Hold] = []
    opening: list[Opening] = []
    unknowns: list[Unknown] = []
    rehearsals: list[Rehearsal] = []


class Design(Settings):
    """Everything an architect decides, in one document: the unit that is opened, branched, compared and forecast."""

    format: Literal["rested-shelf-design"] = "rested-shelf-design"
    version: Literal[2] = 2
    sites: list[Site] = []
    links: list[Link] = []
    targets: list[Target] = []
    workloads: list[Workload] = []
    cadences: list[Cadence] = []
    ladders: list[Ladder] = []
    routes: list[Route] = []
    holds: list[Hold] = []
    opening: list[Opening] = []
    unknowns: list[Unknown] = []
    recovery_plans: list[RecoveryPlan] = []
    loss_cases: list[LossCase] = []
    duties: list[Duty] = []
    rehearsals: list[Rehearsal] = []
    costs: list[ExtraCost] = []

    def canonical(self) -> dict[str, object]:
        """The document in canonical form, with its format and version named."""
        return {"format": self.format, "version": self.version, **self.plain()}


def selected(selection: Selection, workloads: list[Workload]) -> list[Workload]:
    """The workloads that a selection names, in the order of the document."""
    ids, tags = set(selection.ids), set(selection.tags)
    return [workload for workload in workloads if workload.id in ids or tags.intersection(workload.tags)]
