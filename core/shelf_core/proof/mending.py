"""The smallest change of a ladder by which an ask would hold: each is tried by whole runs of the engine."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from shelf_core.calendar.names import Duration
from shelf_core.design.document import Design, selected
from shelf_core.design.ladders import KeepPeriods, KeepPoints, Ladder, Recent, Rung
from shelf_core.design.standing import Duty
from shelf_core.design.values import duration_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.memory import Memory
from shelf_core.engine.watching import Watch, nobody
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.wording import duration_words
from shelf_core.proof.arrived import Arrivals, arrivals_of
from shelf_core.proof.duties import FAILS, Duties

MOST_TRIED = 40
STEPS = (1, 2, 3, 6, 12)
MONTHS = (1, 3, 6, 12)


@dataclass(frozen=True)
class Mending:
    """A change that was tried and by which the ask holds for all of its duty's workloads: the ladder as it should be.

    `sentence` is empty, and `ladder` None, where none of `tried` changes would do.
    """

    duty: str
    ask: int
    ladder: Ladder | None
    sentence: str
    tried: int


@dataclass(frozen=True)
class _Change:
    ladder: Ladder
    words: str
    weight: float


def mend(
    result: Forecast, duty: Duty, ask: int, arrivals: Arrivals, memory: Memory | None = None, watch: Watch = nobody
) -> Mending:
    """The first of the changes of ladders, from the smallest on, by which an ask holds.

    Changes are looked through with the transfers as they end now; the one that would do is then followed and judged anew.
    """
    workloads = [
        one for one in selected(duty.workloads, result.design.workloads) if _fails(Duties(result, arrivals), duty, one, ask)
    ]
    changes = sorted(_changes(result.design, workloads), key=lambda one: one.weight)[:MOST_TRIED]
    for number, change in enumerate(changes):
        watch(number, len(changes))
        changed = forecast(_with(result.design, change.ladder), memory)
        likely = Duties(changed, arrivals.as_far_as_known(result, changed), memory)
        if any(_fails(likely, duty, workload, ask) for workload in workloads):
            continue
        sure = Duties(changed, arrivals_of(changed), memory)
        if not any(_fails(sure, duty, one, ask) for one in selected(duty.workloads, changed.design.workloads)):
            return Mending(duty.id, ask, change.ladder, change.words, number + 1)
    return Mending(duty.id, ask, None, "", len(changes))


def _fails(duties: Duties, duty: Duty, workload: Workload, ask: int) -> bool:
    return duties.answer(duty, workload, ask).verdict == FAILS


def _with(design: Design, ladder: Ladder) -> Design:
    return design.model_copy(update={"ladders": [ladder if one.id == ladder.id else one for one in design.ladders]})


def _changes(design: Design, workloads: Sequence[Workload]) -> Iterator[_Change]:
    """Longer keeps of each rule of each ladder by which the workloads are kept."""
    names = {workload.id for workload in workloads}
    used = {
        copy.ladder
        for route in design.routes
        if names.intersection(one.id for one in selected(route.workloads, design.workloads))
        for copy in route.copies
    }
    for ladder in design.ladders:
        if ladder.id in used:
            for place, rung in enumerate(ladder.rungs):
                yield from _longer_rung(ladder, place, rung)
            for place, rule in enumerate(ladder.recent):
                yield from _longer_recent(ladder, place, rule)


def _longer_rung(ladder: Ladder, place: int, rung: Rung) -> Iterator[_Change]:
    def changed(keep: KeepPeriods | str, words: str, weight: float) -> _Change:
        rungs = [one.model_copy(update={"keep": keep}) if at == place else one for at, one in enumerate(ladder.rungs)]
        name = ladder.name or ladder.id
        return _Change(ladder.model_copy(update={"rungs": rungs}), f"Let {rung.name} of {name} keep {words}.", weight)

    days = {"hour": 1 / 24, "day": 1, "week": 7, "month": 30.4, "quarter": 91.3, "year": 365.25}[rung.every]
    if isinstance(rung.keep, KeepPeriods):
        for more in STEPS:
            count = rung.keep.periods + more
            yield changed(KeepPeriods(periods=count), f"{count} {rung.every}s in place of {rung.keep.periods}", more * days)
    elif rung.keep != "forever":
        for months in MONTHS:
            longer = _later(rung.keep, months)
            yield changed(longer, f"for {duration_words(duration_of(longer))}", months * 30.4)


def _longer_recent(ladder: Ladder, place: int, rule: Recent) -> Iterator[_Change]:
    def changed(keep: KeepPoints | str, words: str, weight: float) -> _Change:
        recent = [one.model_copy(update={"keep": keep}) if at == place else one for at, one in enumerate(ladder.recent)]
        name = ladder.name or ladder.id
        return _Change(ladder.model_copy(update={"recent": recent}), f"Let {name} keep {words}.", weight)

    if isinstance(rule.keep, KeepPoints):
        for more in STEPS:
            count = rule.keep.points + more
            yield changed(KeepPoints(points=count), f"the newest {count} points in place of {rule.keep.points}", more)
    elif isinstance(rule.keep, str) and rule.keep != "forever":
        for days in STEPS:
            length = duration_of(rule.keep)
            longer = _written(Duration(length.months, length.days + days, length.seconds))
            yield changed(longer, f"every point for {duration_words(duration_of(longer))}", days)


def _later(keep: str, months: int) -> str:
    length = duration_of(keep)
    return _written(Duration(length.months + months, length.days, length.seconds))


def _written(length: Duration) -> str:
    years, months = divmod(length.months, 12)
    days = "".join(f"{count}{letter}" for count, letter in ((years, "Y"), (months, "M"), (length.days, "D")) if count)
    clock = f"T{length.seconds}S" if length.seconds else ""
    return f"P{days}{clock}" if days or clock else "P0D"
