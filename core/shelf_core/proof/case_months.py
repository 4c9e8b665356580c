"""Each case of loss at the end of every month of a design: what it takes at worst, and when its plan has all back."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import groupby
from typing import NamedTuple

import numpy as np

from shelf_core.design.standing import LossCase, RecoveryPlan
from shelf_core.engine.schedule.frame import BEFORE_ALL
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.arrived import Arrivals
from shelf_core.proof.cases import world_after
from shelf_core.proof.every_day import EveryDay, WorkloadDays
from shelf_core.proof.lying import LazyLyings, Lying
from shelf_core.proof.picture import plan_picture
from shelf_core.proof.plans import carry_out_plan
from shelf_core.proof.standing import is_end_of_month


@dataclass(frozen=True)
class MonthOfCase:
    """A month of a case. `date` is the last day of it that the design has.

    `worst_loss_seconds` is the greatest loss of any workload on any of its days, `worst_workload` the name of that one; None
    where none has anything left, or nothing is asked yet. `nothing_left` are the names of those that have nothing left on one
    of its days. The rest is the case's plan, called for at the end of `date`: seconds until all that can be restored is back
    and until the last check is over (None for never, and without a plan), `not_back` how many workloads are not restored.
    """

    date: str
    worst_loss_seconds: float | None
    worst_workload: str
    nothing_left: list[str]
    back_seconds: float | None
    over_seconds: float | None
    back_text: str
    not_back: int
    held_most: str
    cost: float


@dataclass(frozen=True)
class MonthsOfCase:
    """A case through the months of the design. `plan` is the name of its plan, empty without one."""

    case: str
    name: str
    plan: str
    months: list[MonthOfCase]


class CaseMonthsWork:
    """All cases of a design, each a part of its own. `arrivals` is asked when a part is done: it may have to follow nights."""

    def __init__(self, result: Forecast, arrivals: Callable[[], Arrivals]) -> None:
        self._result, self._arrivals = result, arrivals

    def __len__(self) -> int:
        return max(1, len(self._result.design.loss_cases))

    def part(self, number: int) -> MonthsOfCase | None:
        """One case, by its place in the document; None where there is none."""
        cases = self._result.design.loss_cases
        return months_of_case(self._result, cases[number], LazyLyings(self._result, self._arrivals())) if cases else None

    def joined(self, parts: Sequence[MonthsOfCase | None]) -> list[MonthsOfCase]:
        """All of them."""
        return [one for one in parts if one is not None]


def months_of_case(result: Forecast, case: LossCase, lyings: Mapping[str, list[Lying]]) -> MonthsOfCase:
    """A case on all days of a design, and its plan at the end of each month."""
    plan = next((one for one in result.design.recovery_plans if one.id == case.plan), None)
    after, workloads = Aftermath(result, case), list(EveryDay(result, case, lyings).workloads())
    months = []
    for days in _months(result):
        losses, carried = _losses(result, days, workloads), NO_PLAN
        if plan is not None and is_end_of_month(result, days[-1]):
            carried = _plan_after(after, plan, lyings, int(result.frame.midnights[days[-1] + 1]))
        months.append(MonthOfCase(result.day(days[-1]), **losses._asdict(), **carried._asdict()))
    return MonthsOfCase(case.id, case.name or case.id, "" if plan is None else plan.name or plan.id, months)


def _months(result: Forecast) -> Iterator[list[int]]:
    """The places of the days of each month."""
    for _, days in groupby(range(result.frame.days), key=lambda place: result.day(place)[:7]):
        yield list(days)


class _Losses(NamedTuple):
    worst_loss_seconds: float | None
    worst_workload: str
    nothing_left: list[str]


def _losses(result: Forecast, days: list[int], workloads: list[WorkloadDays]) -> _Losses:
    """The greatest loss of a month, whose it is, and who has nothing left."""
    worst, name, nothing = None, "", []
    for one in workloads:
        places = np.arange(max(days[0], one.days.start), min(days[-1] + 1, one.days.stop))
        newest = one.found.newest[places]
        is_left = newest != BEFORE_ALL
        if not is_left.all():
            nothing.append(one.workload.name or one.workload.id)
        loss = float((result.frame.midnights[places[is_left] + 1] - newest[is_left]).max(initial=-1))
        if loss >= 0 and (worst is None or loss > worst):
            worst, name = loss, one.workload.name or one.workload.id
    return _Losses(worst, name, nothing)


class _Carried(NamedTuple):
    back_seconds: float | None
    over_seconds: float | None
    back_text: str
    not_back: int
    held_most: str
    cost: float


NO_PLAN = _Carried(None, None, "", 0, "", 0.0)


def _plan_after(after: Aftermath, plan: RecoveryPlan, lyings: Mapping[str, list[Lying]], called: int) -> _Carried:
    world = world_after(after, called)
    one = plan_picture(after.result, plan.id, carry_out_plan(world, plan, lyings), called, world.asked)
    not_back = sum(bool(bar.reason) for bar in one.bars)
    return _Carried(one.back_at, one.over_at, one.back_text, not_back, one.held_most, one.cost)


class MonthRow(NamedTuple):
    """A month of a case as `./shelf losses --every-month` prints it; empty for what has nothing to say."""

    date: str
    worst_loss_seconds: str
    worst_workload: str
    nothing_left: str
    back_seconds: str
    over_seconds: str
    not_back: str
    held_most: str
    cost: str


def month_rows(found: MonthsOfCase) -> Iterator[MonthRow]:
    """One row a month. `nothing_left` are names, joined by `; `."""
    for one in found.months:
        plan = ("",) * 5
        if found.plan and one.back_text:
            plan = (_seconds(one.back_seconds), _seconds(one.over_seconds), str(one.not_back), one.held_most, f"{one.cost:.4f}")
        yield MonthRow(one.date, _seconds(one.worst_loss_seconds), one.worst_workload, "; ".join(one.nothing_left), *plan)


def _seconds(value: float | None) -> str:
    return "" if value is None else f"{value:.3f}".removesuffix(".000")
