"""Duties: whether what each asks of every workload holds on every day of a design (docs/model.md, Duties)."""

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from shelf_core.calendar.zones import DAY, day_number, local_second
from shelf_core.design.document import Design, selected
from shelf_core.design.standing import Ask, Duty
from shelf_core.design.values import duration_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.memory import Memory
from shelf_core.engine.watching import Watch, nobody
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.proof.arrived import Arrivals, arrivals_of
from shelf_core.proof.asks import (
    Judge,
    Judged,
    JudgedDays,
    Value,
    added,
    judge_age,
    judge_copies,
    judge_gone,
    judge_history,
    taken_back,
)
from shelf_core.proof.counting import Counter
from shelf_core.proof.lying import LazyLyings, Lying
from shelf_core.proof.standing import CasesThroughTime, judge_rehearsed

FIRST_BY = "P7D"
NEVER_PROTECTED = "never protected"
FAILS, HOLDS, HOLDS_SO_FAR = "fails", "holds", "holds as far as this design goes"
Verdict = Literal["fails", "holds", "holds as far as this design goes"]
FROM_THE_FIRST = ("gone_after", "rehearsed")
"""Asks that hold from where a workload begins; the others once it has had time to be protected."""


@dataclass(frozen=True, eq=False)
class Answer:
    """How an ask of a duty is met by a workload: on which days it is judged, and how on each."""

    duty: Duty
    number: int
    workload: Workload
    verdict: Verdict
    days: JudgedDays

    @property
    def ask(self) -> Ask:
        """What is asked."""
        return self.duty.asks[self.number]

    @property
    def failed(self) -> list[int]:
        """The places of the days on which it fails."""
        return self.days.failed().tolist()

    @property
    def worst(self) -> Value | None:
        """The worst value of all days, None where none is judged."""
        return self.days.worst()


class Duties:
    """Judges the duties of a design.

    `arrivals` say when transfers ended; they are followed where neither they nor `lyings`, what lies where, are given.
    `further` says it of the design taken further than its end.
    """

    def __init__(
        self,
        result: Forecast,
        arrivals: Arrivals | None = None,
        memory: Memory | None = None,
        *,
        lyings: Mapping[str, list[Lying]] | None = None,
        further: Callable[[Forecast], Arrivals] = arrivals_of,
    ) -> None:
        self.result, self._memory, self._arrivals_further = result, memory, further
        if lyings is None:
            lyings = LazyLyings(result, arrivals_of(result) if arrivals is None else arrivals)
        self.counter = Counter(result, lyings)
        self._cases = CasesThroughTime(self.counter)
        self._further: Duties | None = None

    def answers(self, watch: Watch = nobody) -> Iterator[Answer]:
        """All asks of all duties, workload by workload."""
        design = self.result.design
        todo = [
            (duty, workload, number)
            for duty in design.duties
            for workload in selected(duty.workloads, design.workloads)
            for number in range(len(duty.asks))
        ]
        for done, (duty, workload, number) in enumerate(todo):
            yield self.answer(duty, workload, number)
            watch(done + 1, len(todo))

    def answer(self, duty: Duty, workload: Workload, number: int) -> Answer:
        """How one ask is met by one workload."""
        ask = duty.asks[number]
        days, verdict = self.judged(duty, workload, ask), HOLDS
        if not days.holds.all():
            verdict = FAILS
        elif self._reaches_beyond(workload, ask):
            verdict = HOLDS_SO_FAR if self._holds_further(duty, workload, ask) else FAILS
        return Answer(duty, number, workload, verdict, days)  # type: ignore[arg-type]

    def judged(self, duty: Duty, workload: Workload, ask: Ask) -> JudgedDays:
        """The days on which an ask is judged, and how."""
        begins = begin_of(self.result, workload)
        since, days = self._asked(duty, workload, ask, begins)
        if not any(len(lying.taken) for lying in self.counter.lyings[workload.id]):
            never = np.zeros(len(days), bool)
            return JudgedDays(np.arange(days.start, days.stop), never, np.where(never, 0.0, np.inf), NEVER_PROTECTED)
        judged = Judged(ask, workload, days, since)
        return self._judge_of(ask)(self.counter, judged)

    def earliest(self, ask: Ask, instant: float) -> float:
        """How far back a history is asked for at an instant."""
        length = duration_of(ask.history or "PT0S")
        return float(taken_back(np.array([int(instant)]), length, self.result.frame)[0])

    def _judge_of(self, ask: Ask) -> Judge:
        if ask.kind == "stands":
            judge = self._cases.judge_return if ask.rto is not None else self._cases.judge_loss
            return lambda _counter, judged: judge(judged)
        return {
            "rpo": judge_age,
            "history": judge_history,
            "copies": judge_copies,
            "gone_after": judge_gone,
            "rehearsed": judge_rehearsed,
        }[ask.kind]

    def _asked(self, duty: Duty, workload: Workload, ask: Ask, begins: int) -> tuple[float, range]:
        """From when on it is asked, and the places of the days on which it is."""
        frame = self.result.frame
        since = float(begins)
        if ask.kind not in FROM_THE_FIRST:
            length = duration_of(ask.first_by or duty.first_by or FIRST_BY)
            since = float(added(np.array([begins]), length, frame)[0])
        first = int(np.searchsorted(frame.midnights[1:], since, side="right"))
        last = frame.days
        for until in (workload.until, duty.until):
            if until is not None:
                last = min(last, day_number(until) - frame.first_day + 1)
        if duty.from_ is not None:
            first = max(first, day_number(duty.from_) - frame.first_day)
        return (float(begins) if ask.kind in FROM_THE_FIRST else since), range(max(first, 0), max(first, last, 0))

    def _reaches_beyond(self, workload: Workload, ask: Ask) -> bool:
        length = ask.history or ask.gone_after
        if length is None:
            return False
        begins = np.array([begin_of(self.result, workload)])
        return int(added(begins, duration_of(length), self.result.frame)[0]) > self.result.frame.end

    def _holds_further(self, duty: Duty, workload: Workload, ask: Ask) -> bool:
        """Whether it holds in the design with so many more years as the longest that any duty looks back."""
        if self._further is None:
            longer = forecast(_longer(self.result.design), self._memory)
            self._further = Duties(longer, self._arrivals_further(longer))
        return bool(self._further.judged(duty, workload, ask).holds.all())


def _longer(design: Design) -> Design:
    lengths = [duration_of(one) for duty in design.duties for ask in duty.asks if (one := ask.history or ask.gone_after)]
    years = max(math.ceil(length.months / 12 + length.days / 366 + length.seconds / (366 * DAY)) for length in lengths)
    return design.model_copy(update={"years": design.years + years})


def begin_of(result: Forecast, workload: Workload) -> int:
    """When a workload begins: at its `from` or the design's start, or at its first opening point before that."""
    frame = result.frame
    begins = frame.begin if workload.from_ is None else frame.midnight(workload.from_)
    opening = [frame.zone.instant(local_second(one.taken)) for one in result.design.opening if one.workload == workload.id]
    return min([begins, *opening])


def value_text(value: Value | None) -> str:
    """A value as the tables have it: seconds, a count, words, or copies-media-off site."""
    if value is None:
        return ""
    if isinstance(value, tuple):
        return "-".join(map(str, value))
    return value if isinstance(value, str) else str(round(value))
