"""What a case leaves of a workload on all days at once, where neither locks nor logs nor away cartridges decide."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Counts, Instants, Mask, Places
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.design.standing import LossCase
from shelf_core.design.values import duration_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.schedule.frame import BEFORE_ALL
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.cases import world_after
from shelf_core.proof.lying import Lying
from shelf_core.proof.restore_table import moment_text

NOTHING = "nothing"


class DayRow(NamedTuple):
    """A workload at the end of a day: its loss, or `nothing`, and how many moments are left."""

    date: str
    workload: str
    loss_seconds: str
    moments: str
    target: str
    moment: str


@dataclass(frozen=True, eq=False)
class OfAllDays:
    """At the end of each day the newest moment (BEFORE_ALL for none), how many there are, and on which stage the newest lies.

    `several` says on which days more than one stage has the newest moment.
    """

    result: Forecast
    newest: Instants
    moments: Counts
    target: Places
    several: Mask
    names: tuple[str, ...]

    def is_plain(self, place: int) -> bool:
        """Whether one stage alone has the newest moment of a day."""
        return not self.several[place]

    def row(self, workload: Workload, place: int) -> DayRow:
        """The row of a day."""
        result, newest = self.result, int(self.newest[place])
        if newest == BEFORE_ALL:
            return DayRow(result.day(place), workload.id, NOTHING, "0", "", "")
        loss = int(result.frame.midnights[place + 1]) - newest
        name = self.names[int(self.target[place])]
        return DayRow(result.day(place), workload.id, str(loss), str(self.moments[place]), name, moment_text(result, newest))


class AllDays:
    """Finds that for each workload, once for all that are alike."""

    def __init__(self, result: Forecast, case: LossCase) -> None:
        self._result, self._case = result, case
        self._ends: Instants = result.frame.midnights[1:]
        self._asked = self._ends
        if case.unnoticed is not None:
            length = duration_of(case.unnoticed)
            back = Duration(-length.months, -length.days, -length.seconds)
            self._asked = add_to_instants(self._ends, back, result.frame.zone)
        self._world = world_after(result, case, int(self._ends[-1]))
        self._known: dict[tuple[object, ...], OfAllDays] = {}

    def of(self, workload: Workload, lyings: Sequence[Lying]) -> OfAllDays | None:
        """All days of a workload; None where each day has to be looked at by itself."""
        if self._case.intruder is not None or any(one.is_log.any() for one in lyings):
            return None
        if any(self._decides_by_tape(one) for one in lyings):
            return None
        left = [one for one in lyings if self._is_left(workload, one)]
        key = tuple((one.number, one.ready.tobytes(), one.gone.tobytes()) for one in left)
        if key not in self._known:
            self._known[key] = self._found(left)
        return self._known[key]

    def _decides_by_tape(self, one: Lying) -> bool:
        world, target = self._world, one.target
        is_hit = target.id in world.lost_targets or target.away_site in world.lost_sites
        return target.media == "tape" and target.returns_after is not None and is_hit

    def _is_left(self, workload: Workload, one: Lying) -> bool:
        world = self._world
        if one.target.media == "snapshot" and workload.id in world.lost_originals:
            return False
        return one.target.id not in world.lost_targets

    def _found(self, left: Sequence[Lying]) -> OfAllDays:
        days = len(self._ends)
        newest = np.full(days, BEFORE_ALL, np.int64)
        target, several = np.zeros(days, np.int64), np.zeros(days, bool)
        stretches = []
        for number, one in enumerate(left):
            first = np.searchsorted(self._ends, one.ready, side="right")
            # A point counts from the day on which the moment that is asked for has come to it.
            first = np.maximum(first, np.searchsorted(self._asked, one.taken, side="left"))
            last = np.searchsorted(self._ends, one.gone, side="right")
            some = first < last
            columns = (one.taken[some].tolist(), first[some].tolist(), last[some].tolist())
            stretches += [(*pair, number) for pair in zip(*columns, strict=True)]
        changes = np.zeros(days + 1, np.int64)
        covered: dict[int, list[tuple[int, int]]] = {}
        for taken, begins, ends, number in sorted(stretches):
            part = slice(begins, ends)
            several[part] = (newest[part] == taken) & (several[part] | (target[part] != number))
            newest[part], target[part] = taken, number
            covered.setdefault(taken, []).append((begins, ends))
        for spans in covered.values():
            for begins, ends in _union(spans):
                changes[begins] += 1
                changes[ends] -= 1
        names = tuple(one.target.id for one in left)
        return OfAllDays(self._result, newest, np.cumsum(changes)[:-1], target, several, names)


def _union(spans: list[tuple[int, int]]) -> list[tuple[int, int]]:
    found: list[tuple[int, int]] = []
    for first, last in sorted(spans):
        if found and first <= found[-1][1]:
            found[-1] = (found[-1][0], max(found[-1][1], last))
        else:
            found.append((first, last))
    return found
