"""Asks that take a case of loss or a rehearsal: what is left, when it is back, when it was last practised."""

import math

import numpy as np

from shelf_core.calendar.zones import local_second
from shelf_core.design.standing import LossCase
from shelf_core.design.values import duration_of
from shelf_core.engine.schedule.frame import BEFORE_ALL
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.aftermath import Aftermath, named_by
from shelf_core.proof.all_days import AllDays
from shelf_core.proof.asks import Judged, JudgedDays, added
from shelf_core.proof.cases import world_after
from shelf_core.proof.counting import Counter
from shelf_core.proof.plans import NEVER, PlanResult, carry_out_plan


class CasesThroughTime:
    """What cases leave on days, kept for the workloads that ask for the same."""

    def __init__(self, counter: Counter) -> None:
        self.counter = counter
        self._plans: dict[tuple[str, int], PlanResult | None] = {}
        self._afters: dict[str, Aftermath] = {}
        self._all_days: dict[str, AllDays] = {}

    def case(self, name: str) -> LossCase:
        """A case by its id."""
        return next(one for one in self.counter.result.design.loss_cases if one.id == name)

    def _after(self, name: str) -> Aftermath:
        if name not in self._afters:
            self._afters[name] = Aftermath(self.counter.result, self.case(name), self.counter.layouts)
        return self._afters[name]

    def judge_loss(self, judged: Judged) -> JudgedDays:
        """`stands` with `rpo`: the loss at the end of the day is at most so much."""
        result, name = self.counter.result, judged.ask.stands or ""
        if name not in self._all_days:
            self._all_days[name] = AllDays(self._after(name))
        newest = self._all_days[name].of(judged.workload, self.counter.lyings[judged.workload.id]).newest[judged.places]
        ends = result.frame.midnights[judged.places + 1]
        limits = added(newest, duration_of(judged.ask.rpo or "PT0S"), result.frame)
        loss = np.where(newest == BEFORE_ALL, np.inf, ends - newest)
        return JudgedDays(judged.places, (newest != BEFORE_ALL) & (limits >= ends), loss)

    def judge_return(self, judged: Judged) -> JudgedDays:
        """`stands` with `rto`: at the end of each month, the workload is back, or in use, within that time."""
        result, name = self.counter.result, judged.ask.stands or ""
        places = np.array([place for place in judged.days if is_end_of_month(result, place)], np.int64)
        ends = result.frame.midnights[places + 1]
        back = np.array([self._back_at(name, place, judged) for place in places.tolist()], np.float64)
        limits = added(ends, duration_of(judged.ask.rto or "PT0S"), result.frame)
        return JudgedDays(places, back <= limits + 1e-3, back - ends, NEVER)

    def _back_at(self, name: str, place: int, judged: Judged) -> float:
        plan = self._carried_out(name, place)
        restored = next((one for one in plan.restored if one.workload.id == judged.workload.id), None) if plan else None
        if restored is None or restored.back_at is None:
            return math.inf
        if judged.ask.degraded and restored.in_use_at is not None:
            return min(restored.back_at, restored.in_use_at)
        return restored.back_at

    def _carried_out(self, name: str, place: int) -> PlanResult | None:
        key = (name, place)
        if key not in self._plans:
            result, case = self.counter.result, self.case(name)
            plan = next((one for one in result.design.recovery_plans if one.id == case.plan), None)
            world = world_after(self._after(name), int(result.frame.midnights[place + 1]))
            self._plans[key] = None if plan is None else carry_out_plan(world, plan, self.counter.lyings)
        return self._plans[key]


def is_end_of_month(result: Forecast, place: int) -> bool:
    """Whether a day is the last of its month: plans are judged then."""
    return result.day(place)[:7] != _next_day(result, place)[:7]


def _next_day(result: Forecast, place: int) -> str:
    day = np.datetime64(result.day(place)) + 1
    return str(day)


def judge_rehearsed(counter: Counter, judged: Judged) -> JudgedDays:
    """`rehearsed`: the newest record that passed is not too old; judged up to its end, after which it is due."""
    result, frame = counter.result, counter.result.frame
    length = duration_of(judged.ask.rehearsed or "PT0S")
    records = np.array(records_of(result, judged), np.int64)
    until = np.r_[added(np.array([int(judged.since)]), length, frame), added(records, length, frame)]
    places = judged.places
    if len(records):
        places = places[frame.midnights[places + 1] <= until[-1]]
    ends = frame.midnights[places + 1]
    past = ends - until[np.searchsorted(records, ends, side="left")]
    return JudgedDays(places, past <= 0, np.maximum(past, 0).astype(float))


def records_of(result: Forecast, judged: Judged) -> list[int]:
    """When rehearsals passed that count for a workload, in their order."""
    design = result.design
    plans = {plan.id: {one.id for one in named_by(plan, design)} for plan in design.recovery_plans}
    return sorted(
        result.frame.zone.instant(local_second(one.at))
        for one in design.rehearsals
        if one.passed and (judged.ask.acted or not one.acted) and judged.workload.id in plans[one.plan]
    )


def due_on(counter: Counter, judged: Judged) -> float:
    """The end of the newest record, after which the next rehearsal is due; inf without any."""
    records = records_of(counter.result, judged)
    if not records:
        return math.inf
    return float(added(np.array(records[-1:], np.int64), duration_of(judged.ask.rehearsed or "PT0S"), counter.result.frame)[0])
