"""Which duties hold as a design stands: what the consequence panel says after each edit, as little as possible judged anew.

An ask of a workload is judged again only if something changed that it rests on. That a part of a forecast is the same is seen
by its being the very same object: the engine's memory hands it on from state to state.
"""

import threading
import weakref
from collections import OrderedDict
from collections.abc import Hashable, Iterator
from dataclasses import dataclass
from typing import Any

from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.document import selected
from shelf_core.design.standing import Ask, Duty
from shelf_core.design.workloads import Workload
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.arrived import Arrivals
from shelf_core.proof.duties import Duties, begin_of
from shelf_core.proof.lying import LazyLyings

MOST = 20_000
"""Answers that are kept: some hundred bytes each."""


@dataclass(frozen=True)
class DutyVerdict:
    """A duty as a design stands: on how many days of this design it fails, for how many of its workloads, from when on.

    `is_judged` is False where it asks for times of plans alone, which are judged with all duties.
    """

    duty: str
    name: str
    is_judged: bool
    workloads: int
    failing: int
    first_failed: str | None
    sentence: str


@dataclass(frozen=True)
class _Met:
    """How an ask is met by a workload: the place of the first day on which it fails, None for none."""

    first_failed: int | None


@dataclass(frozen=True)
class _Kept:
    met: _Met
    rests_on: tuple["weakref.ReferenceType[Any]", ...]


class Verdicts:
    """Judges duties of one state of a design after another, keeping answers that rest on the same. Safe between threads."""

    def __init__(self) -> None:
        self._kept: OrderedDict[Hashable, _Kept] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, result: Forecast, arrivals: Arrivals) -> list[DutyVerdict]:
        """The verdicts of all duties, by when points come as far as that is known."""
        lyings = LazyLyings(result, arrivals)
        judging = _Judging(result, lyings)
        return [self._verdict(judging, duty) for duty in result.design.duties]

    def _verdict(self, judging: "_Judging", duty: Duty) -> DutyVerdict:
        design = judging.result.design
        workloads = selected(duty.workloads, design.workloads)
        asks = [number for number, ask in enumerate(duty.asks) if ask.rto is None]
        firsts: dict[str, int] = {}
        for workload in workloads:
            for number in asks:
                first = self._met(judging, duty, workload, number).first_failed
                if first is not None:
                    firsts[workload.id] = min(first, firsts.get(workload.id, first))
        first_day = judging.result.day(min(firsts.values())) if firsts else None
        sentence = _sentence(len(firsts), len(workloads), first_day, is_judged=bool(asks))
        return DutyVerdict(duty.id, duty.name or duty.id, bool(asks), len(workloads), len(firsts), first_day, sentence)

    def _met(self, judging: "_Judging", duty: Duty, workload: Workload, number: int) -> _Met:
        values, rests_on = judging.grounds(duty, workload, number)
        # By their places in memory, so that two states are kept side by side; another object may come to lie there later.
        key = (values, tuple(map(id, rests_on)))
        with self._lock:
            kept = self._kept.get(key)
            if kept is not None and all(was() is now for was, now in zip(kept.rests_on, rests_on, strict=True)):
                self._kept.move_to_end(key)
                return kept.met
        met = judging.met(duty, workload, number)
        with self._lock:
            self._kept[key] = _Kept(met, tuple(weakref.ref(one) for one in rests_on))
            while len(self._kept) > MOST:
                self._kept.popitem(last=False)
        return met


class _Judging:
    """One state of a design: what an ask of a workload rests on, and how it is met."""

    def __init__(self, result: Forecast, lyings: LazyLyings) -> None:
        self.result, self._lyings = result, lyings
        self._duties = Duties(result, lyings=lyings)
        self._stages: dict[str, list[tuple[Hashable, list[Any]]]] = {}
        self._said: dict[int, str] = {}
        self._cases: dict[str, tuple[Hashable, frozenset[str]]] = {}
        self._begins: dict[str, int] = {}

    def met(self, duty: Duty, workload: Workload, number: int) -> _Met:
        """Judge it."""
        failed = self._duties.judged(duty, workload, duty.asks[number]).failed()
        return _Met(int(failed[0]) if len(failed) else None)

    def grounds(self, duty: Duty, workload: Workload, number: int) -> tuple[Hashable, tuple[Any, ...]]:
        """All that an answer rests on: what is compared by value, and what has to be the very same object."""
        frame, ask = self.result.frame, duty.asks[number]
        values: list[Hashable] = [frame.begin, frame.end, self.result.design.timezone, frame.week_starts]
        values += [duty.from_, duty.until, duty.first_by, self._text(ask)]
        values += [workload.site, workload.count, workload.until, self._begin(workload)]
        values.append(self._of_case(ask, workload))
        if ask.rehearsed is not None:
            values += [workload.id, self._rehearsals()]
        objects: list[Any] = []
        for value, some in self._of_stages(workload):
            values.append(value)
            objects += some
        return tuple(values), tuple(objects)

    def _begin(self, workload: Workload) -> int:
        if workload.id not in self._begins:
            self._begins[workload.id] = begin_of(self.result, workload)
        return self._begins[workload.id]

    def _of_stages(self, workload: Workload) -> list[tuple[Hashable, list[Any]]]:
        if workload.id not in self._stages:
            self._stages[workload.id] = list(self._grounds_of_stages(workload))
        return self._stages[workload.id]

    def _grounds_of_stages(self, workload: Workload) -> Iterator[tuple[Hashable, list[Any]]]:
        for one in self._lyings.grounds(workload.id):
            locks = tuple(map(self._text, one.locks))
            value: tuple[Hashable, ...] = (self._text(one.target), locks)
            objects = one.objects
            if one.target.media == "tape" and one.target.cartridge is not None:
                # On which cartridges a point lies depends on all that is written to the tapes.
                value = (*value, workload.id, *(self._text(other) for other in one.beside))
                objects = [*objects, *one.lives_beside]
            yield value, objects

    def _of_case(self, ask: Ask, workload: Workload) -> Hashable:
        if ask.stands is None:
            return None
        if ask.stands not in self._cases:
            case = next(one for one in self.result.design.loss_cases if one.id == ask.stands)
            after = Aftermath(self.result, case)
            self._cases[ask.stands] = (case.model_dump_json(), after.lost_targets), after.lost_originals
        said, originals = self._cases[ask.stands]
        return said, workload.id in originals

    def _rehearsals(self) -> Hashable:
        design = self.result.design
        return tuple(map(self._text, (*design.rehearsals, *design.recovery_plans))), tuple(map(self._text, design.workloads))

    def _text(self, part: Any) -> str:
        """A part of the document as text, written once."""
        key = id(part)
        if key not in self._said:
            self._said[key] = part.model_dump_json()
        return self._said[key]


def change_words(now: DutyVerdict, before: DutyVerdict | None) -> str:
    """What became of a duty since another state, empty where nothing did."""
    if before is None or not (now.is_judged and before.is_judged) or now.first_failed == before.first_failed:
        return "" if before is None or now.failing == before.failing else f"failed for {before.failing} before"
    if before.first_failed is None:
        return "held before"
    return f"failed from {written_day(day_number(before.first_failed) * DAY)} on before"


def _sentence(failing: int, workloads: int, first_day: str | None, *, is_judged: bool) -> str:
    if not is_judged:
        return "asks for times of plans, which are judged with all duties in Proof"
    if first_day is None:
        return "holds on every day" if workloads else "names no workload"
    of_all = f" for {failing} of {workloads} workloads" if workloads > 1 else ""
    return f"fails{of_all}, first on {written_day(day_number(first_day) * DAY)}"
