"""What costs beside storage, month by month (docs/model.md, Cost)."""

from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes, Days, Money
from shelf_core.calendar.zones import day_number
from shelf_core.cost.months import months_of
from shelf_core.design.document import Design, selected
from shelf_core.design.extra_costs import ExtraCost
from shelf_core.design.values import TB
from shelf_core.design.workloads import Workload
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.volume.sizes import behaviour_of, scale_of, source_bytes
from shelf_core.forecast.forecast import Forecast

MONTHS_OF_A_YEAR = 12


@dataclass(frozen=True, eq=False)
class BesideCost:
    """What one of these comes to in each month, in the design's currency."""

    id: str
    name: str
    per_month: Money


def beside_of(result: Forecast) -> list[BesideCost]:
    """All of them, in the order of the document: each day has its part of its month's amount."""
    return [BesideCost(one.id, one.name or one.id, _per_month(one, result)) for one in result.design.costs]


def due_for(cost: ExtraCost, result: Forecast) -> list[tuple[Workload, Money]]:
    """What is due in each month for each workload that it is paid for; nothing where it is paid once for the design."""
    return [(one, _amounts(cost, _of_one(cost, one, result.frame), result)) for one in _paid_for(cost, result.design)]


def _per_month(cost: ExtraCost, result: Forecast) -> Money:
    return _amounts(cost, _units(cost, result), result)


def _amounts(cost: ExtraCost, units: Bytes, result: Forecast) -> Money:
    """The amounts of the months, from how many times one is due on each day."""
    frame, months = result.frame, months_of(result.frame)
    days = frame.first_day + np.arange(frame.days)
    amount = cost.amount / (MONTHS_OF_A_YEAR if cost.every == "year" else 1)
    number = months.of(frame.midnights[:-1])
    found: Money = amount * (np.bincount(number, weights=units * _stands(days, cost.from_, cost.until)) / months.days)
    return found


def _stands(days: Days, begin: str | None, end: str | None) -> Bytes:
    """1 on the days from one date to another, both in, else 0."""
    found = np.ones(len(days))
    if begin is not None:
        found[days < day_number(begin)] = 0
    if end is not None:
        found[days > day_number(end)] = 0
    return found


def _units(cost: ExtraCost, result: Forecast) -> Bytes:
    """How many times the amount is due on each day."""
    if cost.for_ == "design":
        return np.ones(result.frame.days)
    total = np.zeros(result.frame.days)
    for one in _paid_for(cost, result.design):
        total += _of_one(cost, one, result.frame)
    return total


def _paid_for(cost: ExtraCost, design: Design) -> list[Workload]:
    if cost.for_ == "design":
        return []
    says_which = cost.workloads.ids or cost.workloads.tags
    return selected(cost.workloads, design.workloads) if says_which else design.workloads


def _of_one(cost: ExtraCost, workload: Workload, frame: Frame) -> Bytes:
    """How many times the amount is due for a workload on each day."""
    there = _stands(frame.first_day + np.arange(frame.days), workload.from_, workload.until)
    if cost.for_ == "workload":
        return there
    if cost.for_ == "machine":
        return float(workload.count) * there
    sizes = source_bytes(behaviour_of(workload, frame), frame.midnights[:-1], frame.begin)
    return sizes * scale_of(workload).full * workload.reduction / TB * there
