"""The table of a recovery plan, as `./shelf restore` prints it."""

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from shelf_core.calendar.zones import local_text
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.tables import with_offset
from shelf_core.proof.plans import PlanResult, Restored


class RestoreRow(NamedTuple):
    """A workload of a plan, or with the group `all` the plan; empty for what has nothing to say."""

    group: str
    workload: str = ""
    route: str = ""
    copy: str = ""
    target: str = ""
    moment: str = ""
    kind: str = ""
    lost_seconds: str = ""
    read_bytes: str = ""
    first_byte: str = ""
    back_at: str = ""
    in_use_at: str = ""
    held_most: str = ""
    reason: str = ""
    over_at: str = ""
    cost: str = ""


def restore_rows(result: Forecast, plan: PlanResult, asked: int) -> Iterator[RestoreRow]:
    """One row a workload, then one for the whole plan. `asked` is the moment asked for."""
    for one in plan.restored:
        yield _row(result, one, asked)
    yield RestoreRow(
        "all",
        read_bytes=f"{plan.read_bytes:.1f}",
        back_at=instant_text(result, plan.back_at),
        held_most=plan.held_most,
        over_at=instant_text(result, plan.over_at),
        cost=f"{plan.cost:.4f}",
    )


def _row(result: Forecast, one: Restored, asked: int) -> RestoreRow:
    if one.choice is None:
        return RestoreRow(str(one.group), one.workload.id, reason=one.reason)
    candidate = one.choice.candidate
    return RestoreRow(
        str(one.group),
        one.workload.id,
        candidate.lying.holding.route,
        candidate.lying.holding.copy,
        candidate.lying.target.id,
        moment_text(result, candidate.moment),
        candidate.kind,
        str(asked - candidate.moment),
        f"{one.choice.read_bytes:.1f}",
        instant_text(result, one.first_byte),
        instant_text(result, one.back_at),
        instant_text(result, one.in_use_at),
        one.held_most,
        one.reason,
        "",
        f"{one.cost:.4f}",
    )


def instant_text(result: Forecast, instant: float | None) -> str:
    """An instant in local time with its offset; empty for none."""
    return with_offset(result, None if instant is None else instant - result.frame.begin)


def moment_text(result: Forecast, instant: int) -> str:
    """A moment in local time, to the minute."""
    return local_text(int(result.frame.zone.local(np.array([instant]))[0]))[:16]
