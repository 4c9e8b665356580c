"""What a case of loss leaves of every workload: the newest moment, the loss, how it is brought back."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import NamedTuple

from shelf_core.design.standing import RecoveryPlan
from shelf_core.design.workloads import Workload
from shelf_core.proof.cases import World, as_it_is
from shelf_core.proof.choosing import Candidate, Chooser, found_of
from shelf_core.proof.left import left_on
from shelf_core.proof.lying import Lying
from shelf_core.proof.passing import Passages
from shelf_core.proof.plans import PlanResult, Restored, carry_out_plan
from shelf_core.proof.restore_table import instant_text, moment_text

NOTHING = "nothing"


@dataclass(frozen=True, eq=False)
class WorkloadLoss:
    """What is left of a workload: its newest moment with where it lies, and how many moments; None where nothing is left.

    `before` is what could have been restored had the case not come.
    """

    workload: Workload
    newest: Candidate | None
    moments: int
    before: Candidate | None
    restored: Restored | None


@dataclass(frozen=True, eq=False)
class CaseResult:
    """A case at an instant: every workload, the plan carried out from what is left, and what is left on each target."""

    world: World
    workloads: list[WorkloadLoss]
    plan: RecoveryPlan | None
    carried_out: PlanResult | None
    targets: list[tuple[str, int, float]]


def case_at(world: World, lyings: Mapping[str, list[Lying]]) -> CaseResult:
    """What a case leaves at the instant of its world."""
    design = world.design
    plan = next((one for one in design.recovery_plans if world.case and one.id == world.case.plan), None)
    carried_out = None if plan is None else carry_out_plan(world, plan, lyings)
    restored = {} if carried_out is None else {one.workload.id: one for one in carried_out.restored}
    chooser = Chooser(world, lyings, Passages(design, world.result.frame, world.after.lost_sites))
    untouched = as_it_is(world.result, world.instant)
    losses = [_loss(one, chooser, restored.get(one.id), untouched) for one in design.workloads]
    targets = [(target.id, *left_on(world, place, lyings)) for place, target in enumerate(design.targets)]
    return CaseResult(world, losses, plan, carried_out, targets)


def _loss(workload: Workload, chooser: Chooser, restored: Restored | None, untouched: World) -> WorkloadLoss:
    lyings = chooser.lyings[workload.id]
    found = found_of(chooser.world, lyings)
    if not found.newest:
        before = found_of(untouched, lyings).newest
        return WorkloadLoss(workload, None, 0, before[0] if before else None, restored)
    planned = None if restored is None or restored.choice is None else restored.choice.candidate
    if planned is not None and planned.moment == found.newest[0].moment:
        return WorkloadLoss(workload, planned, found.moments, None, restored)
    reachable = [choice for one in found.newest if (choice := chooser.choice(one, workload.site)) is not None]
    is_there = workload.site not in chooser.world.after.lost_sites
    newest = chooser.soonest(reachable).candidate if reachable and is_there else found.newest[0]
    return WorkloadLoss(workload, newest, found.moments, None, restored)


class LossRow(NamedTuple):
    """A workload, the case's plan, or a target, as `./shelf losses` prints it; empty for what has nothing to say."""

    what: str
    id: str
    route: str = ""
    copy: str = ""
    target: str = ""
    moment: str = ""
    kind: str = ""
    loss_seconds: str = ""
    moments: str = ""
    first_byte: str = ""
    back_at: str = ""
    in_use_at: str = ""
    held_most: str = ""
    reason: str = ""
    over_at: str = ""
    cost: str = ""
    points: str = ""
    stored_bytes: str = ""


def loss_rows(found: CaseResult) -> Iterator[LossRow]:
    """All rows of a case."""
    result = found.world.result
    for one in found.workloads:
        yield _workload_row(found.world, one)
    if found.carried_out is not None and found.plan is not None:
        plan = found.carried_out
        yield LossRow(
            "plan",
            found.plan.id,
            back_at=instant_text(result, plan.back_at),
            held_most=plan.held_most,
            over_at=instant_text(result, plan.over_at),
            cost=f"{plan.cost:.4f}",
        )
    for target, points, stored in found.targets:
        yield LossRow("target", target, points=str(points), stored_bytes=f"{stored:.1f}")


def _workload_row(world: World, one: WorkloadLoss) -> LossRow:
    result, restored = world.result, one.restored
    reason = "" if restored is None else restored.reason
    if one.newest is None:
        return LossRow("workload", one.workload.id, loss_seconds=NOTHING, moments="0", reason=why_nothing(world, one))
    lying = one.newest.lying
    has_choice = restored is not None and restored.choice is not None
    return LossRow(
        "workload",
        one.workload.id,
        lying.holding.route,
        lying.holding.copy,
        lying.target.id,
        moment_text(result, one.newest.moment),
        one.newest.kind,
        str(world.instant - one.newest.moment),
        str(one.moments),
        instant_text(result, restored.first_byte if restored else None),
        instant_text(result, restored.back_at if restored else None),
        instant_text(result, restored.in_use_at if restored else None),
        restored.held_most if restored else "",
        reason,
        "",
        f"{restored.cost:.4f}" if restored and has_choice else "",
    )


def why_nothing(world: World, one: WorkloadLoss) -> str:
    """What could have been restored had the case not come, and what took it."""
    if one.before is None:
        return "there was nothing to restore before either"
    lying, case = one.before.lying, world.case
    where = lying.target.name or lying.target.id
    if case is None or lying.target.id in world.after.lost_targets:
        took = f"it is lost with {where}"
    elif lying.beside_source and one.workload.id in world.after.lost_originals:
        took = "it is lost with its original, on whose storage it lay"
    elif case.intruder is not None and lying.target.account in case.intruder.accounts:
        took = "the intruder could delete it, since no lock held it"
    else:
        took = "what was taken since then is bad, and nothing older is left"
    return f"{moment_text(world.result, one.before.moment)} from {where} could have been restored: {took}"
