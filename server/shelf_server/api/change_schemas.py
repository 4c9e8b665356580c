"""The changes that an edit may hold, one kind for each list of the document."""

from typing import Annotated, Literal

from pydantic import Field

from shelf_core.design.cadences import Cadence
from shelf_core.design.document import Settings, Stock
from shelf_core.design.extra_costs import ExtraCost
from shelf_core.design.ladders import Ladder
from shelf_core.design.links import Link
from shelf_core.design.routes import Route
from shelf_core.design.standing import Duty, LossCase, RecoveryPlan
from shelf_core.design.targets import Site, Target
from shelf_core.design.values import Id
from shelf_core.design.workloads import Workload
from shelf_server.api.schemas import Line, Strict


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
