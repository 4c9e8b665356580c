"""Runs: when a cadence takes points (docs/model.md, Runs)."""

from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Days, Instants, LocalSeconds, Places, begins_anew
from shelf_core.calendar.recurrence import MOST_OCCURRENCES, occurrences
from shelf_core.calendar.rules import parse_rule
from shelf_core.calendar.zones import DAY, Zone, clock_seconds, day_number, local_second
from shelf_core.design.cadences import Cadence, Run
from shelf_core.digits import grouped
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import RANK, Kinds, kind_number


@dataclass(frozen=True, eq=False)
class Runs:
    """The runs of a cadence in the order of their instants, at most one per instant.

    `kind` is what each run was meant to take, `run` its place in the cadence's list of runs.
    """

    instants: Instants
    kind: Kinds
    run: Places

    def within(self, begin: int, end: int) -> "Runs":
        """Only the runs from `begin` to before `end`."""
        part = slice(*np.searchsorted(self.instants, [begin, end]))
        return Runs(self.instants[part], self.kind[part], self.run[part])


def runs_of(cadence: Cadence, frame: Frame) -> Runs:
    """All runs of a cadence within the design.

    Raises ValueError when a run comes more often than the engine computes.
    """
    each = [_instants(run, frame) for run in cadence.runs]
    instants = np.concatenate(each)
    if len(instants) > MOST_OCCURRENCES:
        raise ValueError(f"expected at most {grouped(MOST_OCCURRENCES)} runs within the design, got {grouped(len(instants))}")
    run = np.repeat(np.arange(len(each)), [len(one) for one in each])
    kind = np.array([kind_number(one.kind) for one in cadence.runs], np.int8)[run]
    order = np.lexsort((run, RANK[kind], instants))
    instants, kind, run = instants[order], kind[order], run[order]
    first = begins_anew(instants)
    return Runs(instants[first], kind[first], run[first])


def run_times(cadence: Cadence, frame: Frame) -> list[LocalSeconds]:
    """For each run of a cadence the local times, as it says them, at which it is the one that is taken, in order.

    Of several times that are one instant, as at a skipped hour, the earliest reading stands for it.
    """
    runs = runs_of(cadence, frame)
    found = []
    for place, run in enumerate(cadence.runs):
        local, instants = _times(run, frame)
        order = np.lexsort((local, instants))
        local, instants = local[order], instants[order]
        first = begins_anew(instants)
        taken = np.isin(instants, runs.instants[runs.run == place])
        found.append(np.sort(local[first & taken]))
    return found


def skipped_times(run: Run, frame: Frame) -> LocalSeconds:
    """The local times of a run, as it says them, that a clock change moves to another time within the design, in order.

    What is moved to an instant at which the run takes place anyway, as with runs by the hour, changes nothing.
    """
    local, instants = _times(run, frame)
    moved = _zone(run, frame).local(instants) != local
    return np.sort(local[moved & ~np.isin(instants, instants[~moved])])


def _instants(run: Run, frame: Frame) -> Instants:
    return _times(run, frame)[1]


def _zone(run: Run, frame: Frame) -> Zone:
    return frame.zone_named(run.timezone) if run.timezone else frame.zone


def _times(run: Run, frame: Frame) -> tuple[Instants, Instants]:
    """The local times of a run within the design, and their instants."""
    local = _local_times(run, frame)
    days = local // DAY
    if run.from_:
        local, days = _kept(local, days, days >= day_number(run.from_))
    if run.until:
        local, days = _kept(local, days, days <= day_number(run.until))
    if run.except_:
        local, days = _kept(local, days, ~np.isin(days, [day_number(day) for day in run.except_]))
    instants = _zone(run, frame).instants(local)
    inside = (instants >= frame.begin) & (instants < frame.end)
    return local[inside], instants[inside]


def _kept(local: LocalSeconds, days: Days, keep: np.ndarray) -> tuple[Instants, Instants]:
    return local[keep], days[keep]


def _local_times(run: Run, frame: Frame) -> LocalSeconds:
    if run.once is not None:
        return np.array(sorted({local_second(text) for text in run.once}), np.int64)
    first_day = day_number(run.from_) if run.from_ else frame.first_day
    # A zone of its own may be a day ahead of or behind the design's.
    last_day = frame.first_day + frame.days
    rule = parse_rule(run.rrule or "")
    starts = [first_day * DAY + clock_seconds(text) for text in run.at]
    return np.concatenate([occurrences(rule, start, last_day) for start in starts])
