"""Slips that show when something is lost: what must come back first and is gone itself."""

from collections.abc import Iterator

import numpy as np

from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.standing import LossCase
from shelf_core.engine.schedule.frame import BEFORE_ALL
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.finding import Finding
from shelf_core.forecast.findings import findings
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.all_days import AllDays
from shelf_core.proof.arrived import Arrivals
from shelf_core.proof.every_day import days_asked
from shelf_core.proof.lying import lying_of


def all_findings(result: Forecast, arrivals: Arrivals | None = None) -> list[Finding]:
    """The findings of a forecast, and those that only show when something is lost.

    Without `arrivals` as if no transfer took time.
    """
    return [*findings(result), *loss_findings(result, arrivals or Arrivals({}))]


def loss_findings(result: Forecast, arrivals: Arrivals) -> Iterator[Finding]:
    """What is needed before all else is restored, and of which a case of loss leaves nothing in the end.

    In its first days there may be nothing that is old enough for an intrusion that nobody noticed: that is no slip.
    """
    design = result.design
    if not any(one.needed_first for one in design.workloads):
        return
    lyings = lying_of(result, arrivals)
    for case in design.loss_cases:
        after = Aftermath(result, case)
        all_days = AllDays(after)
        for workload in design.workloads:
            if not workload.needed_first or workload.id not in after.lost_originals:
                continue
            days = days_asked(result, workload, lyings[workload.id])
            is_left = all_days.of(workload, lyings[workload.id]).newest[days.start : days.stop] != BEFORE_ALL
            if len(is_left) and not is_left[-1]:
                place = days.start + int(np.append(np.flatnonzero(is_left), -1).max()) + 1
                yield _none_left(result, case, workload.name or workload.id, workload.id, place)


def _none_left(result: Forecast, case: LossCase, name: str, workload: str, place: int) -> Finding:
    on = written_day(day_number(result.day(place)) * DAY)
    return Finding(
        "none left of what is needed first",
        f"Of {name}, needed before all else is restored, {case.name or case.id} would leave nothing from {on} on.",
        "Keep a copy of it where this case does not reach, or lock one.",
        workload=workload,
    )
