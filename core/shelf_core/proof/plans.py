"""Recovery plans carried out: group after group, until all is back (docs/model.md, Restores)."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.design.document import selected
from shelf_core.design.standing import RecoveryPlan
from shelf_core.design.targets import Prices
from shelf_core.design.values import TB, bytes_of, duration_of
from shelf_core.design.workloads import Workload
from shelf_core.nights.moving import Held
from shelf_core.nights.transfers import PRIORITY
from shelf_core.proof.aftermath import named_by
from shelf_core.proof.cases import World
from shelf_core.proof.choosing import Choice, Chooser
from shelf_core.proof.lying import Lying
from shelf_core.proof.passing import Passages
from shelf_core.proof.restoring import Job, carry_out

NEVER = "never"
NEEDED_FIRST = 0


@dataclass(frozen=True, eq=False)
class Restored:
    """What a plan comes to for one workload. Instants are absolute seconds, None where there is none.

    `group` counts from 1, 0 is what is needed first. `reason` says why it is not restored, or `never`.
    """

    group: int
    workload: Workload
    choice: Choice | None
    reason: str
    first_byte: float | None = None
    back_at: float | None = None
    in_use_at: float | None = None
    held_most: str = ""
    cost: float = 0.0


@dataclass(frozen=True, eq=False)
class PlanResult:
    """A plan carried out: each workload, when all that can be restored is back, and when the last check is over.

    Instants are None where something never ends; `held_most` is what held the last of each group for longest, added up.
    """

    restored: list[Restored]
    begins: float
    back_at: float | None
    over_at: float | None
    held_most: str
    cost: float
    read_bytes: float


def carry_out_plan(world: World, plan: RecoveryPlan, lyings: Mapping[str, list[Lying]]) -> PlanResult:
    """Bring back what a plan names, and what is needed first, from what is left."""
    passages = Passages(world.design, world.result.frame, world.after.lost_sites)
    chooser = Chooser(world, lyings, passages, in_place=plan.in_place)
    begins = _later(float(world.instant), plan.ready, world)
    now: float | None = begins
    restored: list[Restored] = []
    lasts: Held = {}
    back_at: float | None = begins
    for number, workloads, then in _groups(world, plan):
        of_group, jobs = _group(number, workloads, plan, chooser, begins, now)
        if now is not None:
            carry_out(jobs, passages, now)
            label, seconds = max(jobs, key=lambda job: job.ended).held_most if jobs else ("", 0.0)
            if label:
                lasts[label] = lasts.get(label, 0.0) + seconds
        done = [_restored(one, now, world) for one in of_group]
        restored += done
        ends = [one.back_at for one in done if one.choice is not None]
        ended = now if not ends else None if None in ends or now is None else max(end for end in ends if end is not None)
        back_at = ended
        now = None if ended is None else _later(ended, then, world)
    most = max(lasts, key=lambda label: lasts[label]) if lasts else ""
    cost, read = sum(one.cost for one in restored), sum(one.choice.read_bytes for one in restored if one.choice is not None)
    latest = max((one.back_at for one in restored if one.back_at is not None), default=None)
    has_any = any(one.choice is not None for one in restored)
    return PlanResult(restored, begins, latest if back_at is not None and has_any else None, now, most, cost, read)


def _later(instant: float, length: str | None, world: World) -> float:
    if length is None:
        return instant
    whole = math.floor(instant)
    return float(add_to_instants(np.array([whole]), duration_of(length), world.result.frame.zone)[0]) + (instant - whole)


def _groups(world: World, plan: RecoveryPlan) -> Sequence[tuple[int, list[Workload], str | None]]:
    """What is needed first as a group of its own, then those of the plan without it."""
    design = world.design
    if world.case is not None:
        first = [one for one in design.workloads if one.needed_first and one.id in world.after.lost_originals]
    else:
        first = [one for one in named_by(plan, design) if one.needed_first]
    ids = {one.id for one in first}
    found: list[tuple[int, list[Workload], str | None]] = [(NEEDED_FIRST, first, None)] if first else []
    for number, group in enumerate(plan.groups, start=1):
        named = [one for one in selected(group.workloads, design.workloads) if one.id not in ids]
        found.append((number, named, group.then))
    return found


@dataclass(frozen=True, eq=False)
class _InGroup:
    number: int
    workload: Workload
    choice: Choice | str


def _group(
    number: int, workloads: list[Workload], plan: RecoveryPlan, chooser: Chooser, begins: float, now: float | None
) -> tuple[list[_InGroup], list[Job]]:
    ordered = sorted(workloads, key=lambda one: one.priority or PRIORITY)
    found, jobs = [], []
    for workload in ordered:
        choice = chooser.choose(workload, plan.place or workload.site)
        if isinstance(choice, Choice) and now is not None:
            chooser.wait(choice, begins)
            jobs += choice.jobs
        found.append(_InGroup(number, workload, choice))
    return found, jobs


def _restored(one: _InGroup, start: float | None, world: World) -> Restored:
    if isinstance(one.choice, str):
        return Restored(one.number, one.workload, None, one.choice)
    ends = [job.ended for job in one.choice.jobs]
    if start is None or any(math.isinf(end) for end in ends):
        return Restored(one.number, one.workload, one.choice, NEVER)
    last = max(one.choice.jobs, key=lambda job: job.ended)
    target = one.choice.candidate.lying.target
    in_use = None
    if target.media == "disk" and target.run_from is not None:
        in_use = _later(start, target.run_from, world)
    first = min(job.first_byte for job in one.choice.jobs)
    cost = cost_of_reading(one.choice)
    return Restored(one.number, one.workload, one.choice, "", first, max(ends), in_use, last.held_most[0], cost)


def cost_of_reading(choice: Choice) -> float:
    """Retrieval and traffic by the TB, and requests; parts are not rounded."""
    prices = choice.candidate.lying.target.prices or Prices()
    amount = choice.read_bytes
    traffic = prices.traffic_tb if choice.leaves_site else 0.0
    requests = amount / bytes_of(prices.part_size) / 1000 * prices.requests_thousand
    return (prices.retrieval_tb + traffic) * amount / TB + requests
