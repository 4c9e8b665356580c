"""A case of loss at the end of every day of a design."""

from collections.abc import Iterator

import numpy as np

from shelf_core.arrays import Instants
from shelf_core.calendar.zones import day_number
from shelf_core.design.standing import LossCase
from shelf_core.design.workloads import Workload
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.all_days import AllDays, DayRow
from shelf_core.proof.cartridges import TapeLayout
from shelf_core.proof.cases import World, named_by, world_after
from shelf_core.proof.choosing import Candidate, Choice, Chooser, found_of
from shelf_core.proof.losses import NOTHING
from shelf_core.proof.lying import Lying
from shelf_core.proof.passing import Passages
from shelf_core.proof.restore_table import moment_text


def rows_of_every_day(result: Forecast, case: LossCase, lyings: dict[str, list[Lying]]) -> Iterator[DayRow]:
    """Every workload at the end of every day, from its first point that can be restored to its `until`."""
    tapes: dict[str, TapeLayout] = {}
    passages = Passages(result.design, result.frame, frozenset(case.lost.sites))
    at_once = AllDays(result, case)
    for workload in result.design.workloads:
        days = days_asked(result, workload, lyings[workload.id])
        found = at_once.of(workload, lyings[workload.id])
        for place in days:
            if found is not None and found.is_plain(place):
                yield found.row(workload, place)
            else:
                yield _slow_row(result, case, lyings, workload, place, passages, tapes)


def _slow_row(
    result: Forecast,
    case: LossCase,
    lyings: dict[str, list[Lying]],
    workload: Workload,
    place: int,
    passages: Passages,
    tapes: dict[str, TapeLayout],
) -> DayRow:
    """One day looked at by itself, as where an intruder, logs or away cartridges decide, or several copies are alike."""
    instant = int(result.frame.midnights[place + 1])
    world = world_after(result, case, instant, tapes)
    found = found_of(world, lyings[workload.id])
    if not found.newest:
        return DayRow(result.day(place), workload.id, NOTHING, "0", "", "")
    newest = _where(world, Chooser(world, lyings, passages), workload, found.newest)
    target, moment = newest.lying.target.id, moment_text(result, newest.moment)
    return DayRow(result.day(place), workload.id, str(instant - newest.moment), str(found.moments), target, moment)


def _where(world: World, chooser: Chooser, workload: Workload, newest: list[Candidate]) -> Candidate:
    """Of several that reach the newest moment the one that would be back first where the case's plan restores it."""
    if len({one.lying.number for one in newest}) == 1:
        return newest[0]
    plan = next((one for one in world.design.recovery_plans if world.case and one.id == world.case.plan), None)
    is_named = plan is not None and workload in named_by(plan, world.design)
    place = plan.place if plan is not None and is_named and plan.place else workload.site
    choice = chooser.choose(workload, place)
    if isinstance(choice, Choice) and choice.candidate.moment == newest[0].moment:
        return choice.candidate
    return newest[0]


def days_asked(result: Forecast, workload: Workload, lyings: list[Lying]) -> range:
    """The places of the days from the first at whose end something can be restored to the workload's last."""
    ends: Instants = result.frame.midnights[1:]
    first = min((float(lying.ready[~lying.is_log].min()) for lying in lyings if (~lying.is_log).any()), default=np.inf)
    begin = int(np.searchsorted(ends, first, side="right"))
    until = result.frame.days if workload.until is None else day_number(workload.until) - result.frame.first_day + 1
    return range(begin, max(begin, min(until, result.frame.days)))
