"""A case of loss at the end of every day of a design."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants
from shelf_core.calendar.zones import day_number
from shelf_core.design.standing import LossCase
from shelf_core.design.workloads import Workload
from shelf_core.engine.schedule.frame import BEFORE_ALL
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.aftermath import Aftermath, named_by
from shelf_core.proof.all_days import AllDays, OfAllDays
from shelf_core.proof.cases import world_after
from shelf_core.proof.choosing import Chooser, found_of
from shelf_core.proof.losses import NOTHING
from shelf_core.proof.lying import Lying, Sizes
from shelf_core.proof.passing import Passages
from shelf_core.proof.restore_table import moment_text


class DayRow(NamedTuple):
    """A workload at the end of a day: its loss, or `nothing`, and how many moments are left."""

    date: str
    workload: str
    loss_seconds: str
    moments: str
    target: str
    moment: str


@dataclass(frozen=True, eq=False)
class WorkloadDays:
    """What a case leaves of a workload on the days on which that is asked: their places, and what there is on all days."""

    workload: Workload
    days: range
    found: OfAllDays


class EveryDay:
    """A case at the end of every day: of each workload all days at once, and row by row with where the newest moment lies."""

    def __init__(self, result: Forecast, case: LossCase, lyings: Mapping[str, list[Lying]]) -> None:
        self._result, self._lyings = result, lyings
        self._after, self._sizes = Aftermath(result, case), Sizes(result)
        self._all_days = AllDays(self._after)
        self._passages = Passages(result.design, result.frame, frozenset(case.lost.sites))
        plan = next((one for one in result.design.recovery_plans if one.id == case.plan), None)
        self._asked: dict[tuple[int, str | None], range] = {}
        self._place = None if plan is None else plan.place
        self._named = set() if plan is None else {one.id for one in named_by(plan, result.design)}

    def workloads(self) -> Iterator[WorkloadDays]:
        """Each workload, from its first point that can be restored to its `until`."""
        for workload in self._result.design.workloads:
            lyings = self._lyings[workload.id]
            found = self._all_days.of(workload, lyings)
            key = (id(found), workload.until)
            if key not in self._asked:
                self._asked[key] = days_asked(self._result, workload, lyings)
            yield WorkloadDays(workload, self._asked[key], found)

    def rows(self) -> Iterator[DayRow]:
        """Every workload on every day."""
        for one in self.workloads():
            yield from (self._row(one, place) for place in one.days)

    def _row(self, one: WorkloadDays, place: int) -> DayRow:
        result, newest = self._result, int(one.found.newest[place])
        if newest == BEFORE_ALL:
            return DayRow(result.day(place), one.workload.id, NOTHING, "0", "", "")
        loss, moments = int(result.frame.midnights[place + 1]) - newest, str(one.found.moments[place])
        target = self._target(one, place)
        return DayRow(result.day(place), one.workload.id, str(loss), moments, target, moment_text(result, newest))

    def _target(self, one: WorkloadDays, place: int) -> str:
        """Of several that reach the newest moment the one that would be back first where the case's plan restores it."""
        workload, lyings = one.workload, self._lyings[one.workload.id]
        first = lyings[int(one.found.stage[place])].target.id
        if not one.found.several[place]:
            return first
        instant = int(self._result.frame.midnights[place + 1])
        world = world_after(self._after, instant)
        where = (self._place if workload.id in self._named else None) or workload.site
        newest = found_of(world, lyings).newest
        chooser = Chooser(world, self._lyings, self._passages, sizes=self._sizes)
        reachable = [] if where in world.after.lost_sites else [chooser.choice(one, where) for one in newest]
        choices = [one for one in reachable if one is not None]
        return (chooser.soonest(choices).candidate if choices else newest[0]).lying.target.id


def days_asked(result: Forecast, workload: Workload, lyings: list[Lying]) -> range:
    """The places of the days from the first at whose end something can be restored to the workload's last."""
    ends: Instants = result.frame.midnights[1:]
    first = min((float(lying.ready[~lying.is_log].min()) for lying in lyings if (~lying.is_log).any()), default=np.inf)
    begin = int(np.searchsorted(ends, first, side="right"))
    until = result.frame.days if workload.until is None else day_number(workload.until) - result.frame.first_day + 1
    return range(begin, max(begin, min(until, result.frame.days)))
