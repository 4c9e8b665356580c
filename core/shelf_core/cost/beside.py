"""What costs beside storage, month by month (docs/model.md, Cost)."""

from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes, Days, Money
from shelf_core.calendar.zones import day_number
from shelf_core.cost.months import months_of
from shelf_core.design.document import selected
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


def _per_month(cost: ExtraCost, result: Forecast) -> Money:
    frame, months = result.frame, months_of(result.frame)
    days = frame.first_day + np.arange(frame.days)
    amount = cost.amount / (MONTHS_OF_A_YEAR if cost.every == "year" else 1)
    number = months.of(frame.midnights[:-1])
    units = np.bincount(number, weights=_units(cost, result) * _stands(days, cost.from_, cost.until))
    found: Money = amount * (units / months.days)
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
    design, frame = result.design, result.frame
    days = frame.first_day + np.arange(frame.days)
    if cost.for_ == "design":
        return np.ones(frame.days)
    says_which = cost.workloads.ids or cost.workloads.tags
    chosen = selected(cost.workloads, design.workloads) if says_which else design.workloads
    total = np.zeros(frame.days)
    for one in chosen:
        total += _of_one(cost, one, frame) * _stands(days, one.from_, one.until)
    return total


def _of_one(cost: ExtraCost, workload: Workload, frame: Frame) -> Bytes | float:
    if cost.for_ == "workload":
        return 1.0
    if cost.for_ == "machine":
        return float(workload.count)
    sizes = source_bytes(behaviour_of(workload, frame), frame.midnights[:-1], frame.begin)
    return sizes * scale_of(workload).full * workload.reduction / TB
