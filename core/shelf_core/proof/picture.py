"""Plans and losses as pages and reports show them: names in place of ids, times as seconds from when the case comes."""

from dataclasses import dataclass

from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.words import named_label
from shelf_core.proof.losses import CaseResult, WorkloadLoss, why_nothing
from shelf_core.proof.plans import PlanResult, Restored
from shelf_core.proof.restore_table import instant_text, moment_text


@dataclass(frozen=True)
class RestoreBar:
    """How a workload is restored by a plan. Times are seconds from when the plan is called for, None for never.

    The texts are the same in local time; `reason` says why it is not restored. `first_byte` is when bytes begin to flow.
    """

    group: int
    workload: str
    name: str
    source: str
    moment: str
    kind: str
    lost_seconds: float | None
    read_bytes: float
    first_byte: float | None
    back_at: float | None
    in_use_at: float | None
    first_byte_text: str
    back_text: str
    in_use_text: str
    held_most: str
    reason: str
    cost: float


@dataclass(frozen=True)
class PlanPicture:
    """A plan carried out: a bar for each workload, when all is back, and when the last check is over."""

    plan: str
    name: str
    bars: list[RestoreBar]
    back_at: float | None
    over_at: float | None
    back_text: str
    over_text: str
    held_most: str
    cost: float
    read_bytes: float


@dataclass(frozen=True)
class Left:
    """What is left of a workload: the newest moment, where it lies, how much is lost; None and a reason for nothing."""

    workload: str
    name: str
    source: str
    moment: str
    kind: str
    loss_seconds: int | None
    moments: int
    reason: str


@dataclass(frozen=True)
class LeftOnTarget:
    """Points and stored bytes that are left on a target; `is_lost` says that the target itself is gone."""

    target: str
    name: str
    is_lost: bool
    points: int
    stored_bytes: float


@dataclass(frozen=True)
class CasePicture:
    """What a case leaves at an instant, its worst first, and its plan carried out."""

    case: str
    name: str
    at: str
    workloads: list[Left]
    targets: list[LeftOnTarget]
    plan: PlanPicture | None


def plan_picture(result: Forecast, plan: str, carried_out: PlanResult, called: int, asked: int) -> PlanPicture:
    """A plan that was called for at an instant, for a moment."""
    name = next((one.name or one.id for one in result.design.recovery_plans if one.id == plan), plan)
    return PlanPicture(
        plan,
        name,
        [_bar(result, one, called, asked) for one in carried_out.restored],
        _since(carried_out.back_at, called),
        _since(carried_out.over_at, called),
        _text(result, carried_out.back_at),
        _text(result, carried_out.over_at),
        named_label(carried_out.held_most, result.design) if carried_out.held_most else "",
        carried_out.cost,
        carried_out.read_bytes,
    )


def _bar(result: Forecast, one: Restored, called: int, asked: int) -> RestoreBar:
    candidate = None if one.choice is None else one.choice.candidate
    return RestoreBar(
        one.group,
        one.workload.id,
        one.workload.name or one.workload.id,
        "" if candidate is None else candidate.lying.target.name or candidate.lying.target.id,
        "" if candidate is None else moment_text(result, candidate.moment).replace("T", " "),
        "" if candidate is None else candidate.kind,
        None if candidate is None else float(asked - candidate.moment),
        0.0 if one.choice is None else one.choice.read_bytes,
        _since(one.first_byte, called),
        _since(one.back_at, called),
        _since(one.in_use_at, called),
        _text(result, one.first_byte),
        _text(result, one.back_at),
        _text(result, one.in_use_at),
        named_label(one.held_most, result.design) if one.held_most else "",
        one.reason,
        one.cost,
    )


def _since(instant: float | None, called: int) -> float | None:
    return None if instant is None else instant - called


def _text(result: Forecast, instant: float | None) -> str:
    return instant_text(result, instant)[:16].replace("T", " ")


def case_picture(found: CaseResult) -> CasePicture:
    """A case at the instant of its world: workloads of which nothing is left first, then by how much is lost."""
    world, result = found.world, found.world.result
    case = world.case
    plan = None
    if found.plan is not None and found.carried_out is not None:
        plan = plan_picture(result, found.plan.id, found.carried_out, world.instant, world.asked)
    names = {target.id: target.name or target.id for target in result.design.targets}
    left = [_left(found, one) for one in found.workloads]
    left.sort(key=lambda one: (one.loss_seconds is not None, -(one.loss_seconds or 0)))
    return CasePicture(
        "" if case is None else case.id,
        "" if case is None else case.name or case.id,
        moment_text(result, world.instant).replace("T", " "),
        left,
        [
            LeftOnTarget(one, names[one], one in world.after.lost_targets, points, stored)
            for one, points, stored in found.targets
        ],
        plan,
    )


def _left(found: CaseResult, one: WorkloadLoss) -> Left:
    result, workload = found.world.result, one.workload
    name = workload.name or workload.id
    if one.newest is None:
        return Left(workload.id, name, "", "", "", None, 0, why_nothing(found.world, one).replace("T", " "))
    candidate = one.newest
    return Left(
        workload.id,
        name,
        candidate.lying.target.name or candidate.lying.target.id,
        moment_text(result, candidate.moment).replace("T", " "),
        candidate.kind,
        found.world.instant - candidate.moment,
        one.moments,
        "",
    )
