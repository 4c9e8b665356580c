"""A month of a cadence: what it takes on each day."""

from dataclasses import dataclass
from datetime import date

import numpy as np

from shelf_core.calendar.arithmetic import add_to_local
from shelf_core.calendar.names import WEEKDAYS
from shelf_core.calendar.zones import DAY, day_number, day_text, local_text
from shelf_core.design.cadences import KINDS, Cadence
from shelf_core.design.patterns import MONTH_NAMES
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.runs import Runs, runs_of


@dataclass(frozen=True)
class Taking:
    """One run on a day: its local time, kind and name.

    `gives_way_to` names the run at the same instant that is taken in its place, None for one that is taken.
    """

    time: str
    kind: str
    run: str
    gives_way_to: str | None = None


@dataclass(frozen=True)
class MonthDay:
    """A day of the sheet; `in_month` is False for the days of the weeks at its edges."""

    date: str
    day: int
    in_month: bool
    in_design: bool
    takings: list[Taking]


@dataclass(frozen=True)
class MonthSheet:
    """A month as whole weeks; `before` and `after` are the neighbouring months, None outside the design."""

    title: str
    weekdays: list[str]
    weeks: list[list[MonthDay]]
    before: str | None
    after: str | None


def month_sheet(cadence: Cadence, runs: Runs, frame: Frame, month: str) -> MonthSheet:
    """The sheet of a month such as `2027-03`. Raises ValueError for anything else."""
    first = _first_of(month)
    following = _moved(first, 1)
    start = WEEKDAYS.index(frame.week_starts)
    begin = first - (date.fromisoformat(day_text(first)).weekday() - start) % 7
    weeks = -(-(following - begin) // 7)
    by_day = _takings(cadence, runs, frame, begin, begin + 7 * weeks)
    days = [_day(day, first <= day < following, frame, by_day.get(day, [])) for day in range(begin, begin + 7 * weeks)]
    year, number = (int(part) for part in month.split("-"))
    last_day = frame.first_day + frame.days - 1
    return MonthSheet(
        title=f"{MONTH_NAMES[number - 1]} {year}",
        weekdays=[WEEKDAYS[(start + place) % 7] for place in range(7)],
        weeks=[days[at : at + 7] for at in range(0, len(days), 7)],
        before=day_text(_moved(first, -1))[:7] if first > frame.first_day else None,
        after=day_text(following)[:7] if following <= last_day else None,
    )


def _first_of(month: str) -> int:
    try:
        return day_number(f"{month}-01")
    except ValueError:
        raise ValueError(f"expected a month such as 2027-03, got {month}") from None


def _moved(day: int, months: int) -> int:
    return int(add_to_local(np.array([day * DAY]), months, 0)[0]) // DAY


def _takings(cadence: Cadence, runs: Runs, frame: Frame, begin: int, end: int) -> dict[int, list[Taking]]:
    local = frame.zone.local(runs.instants)
    found: dict[int, list[Taking]] = {}
    for place in np.flatnonzero((local >= begin * DAY) & (local < end * DAY)):
        run = cadence.runs[runs.run[place]]
        taking = Taking(local_text(local[place])[11:16], KINDS[runs.kind[place]], run.name or run.id)
        found.setdefault(int(local[place]) // DAY, []).append(taking)
    for run in cadence.runs if len(cadence.runs) > 1 else ():
        alone = runs_of(cadence.model_copy(update={"runs": [run]}), frame).instants
        at = np.searchsorted(runs.instants, alone)
        of_alone = frame.zone.local(alone)
        for place in np.flatnonzero((of_alone >= begin * DAY) & (of_alone < end * DAY)):
            winner = cadence.runs[runs.run[at[place]]]
            if winner.id != run.id:
                taking = Taking(local_text(of_alone[place])[11:16], run.kind, run.name or run.id, winner.name or winner.id)
                found.setdefault(int(of_alone[place]) // DAY, []).append(taking)
    return {day: sorted(takings, key=lambda taking: taking.time) for day, takings in found.items()}


def _day(day: int, in_month: bool, frame: Frame, takings: list[Taking]) -> MonthDay:  # noqa: FBT001 - one of two kinds of day
    in_design = frame.first_day <= day < frame.first_day + frame.days
    return MonthDay(day_text(day), int(day_text(day)[8:]), in_month, in_design, takings)
