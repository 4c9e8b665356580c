"""What was computed before, by the content it was computed from: an edit recomputes only what it touches."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any

from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.base import Part
from shelf_core.design.cadences import Cadence
from shelf_core.design.routes import Take
from shelf_core.design.values import duration_of
from shelf_core.engine.arrivals import following, from_runs, read_at_runs
from shelf_core.engine.frame import Frame
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.engine.lives import CopyRules, lives_of
from shelf_core.engine.runs import Runs, runs_of

Window = tuple[str | None, str | None]
"""The dates from which and until which a workload runs."""


class Memory:
    """Results by key, the least recently used forgotten first. Safe to share between threads.

    `most` is the number of results that are kept; the default holds some 200 MB of lifecycles of ten years.
    """

    def __init__(self, most: int = 1000) -> None:
        self._most = most
        self._kept: OrderedDict[Hashable, Any] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, compute: Callable[[], Any]) -> Any:
        """The result for a key, computed if it is not there. Two threads may compute the same; the results are equal."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        result = compute()
        with self._lock:
            self._kept[key] = result
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
        return result

    def runs(self, cadence: Cadence, frame: Frame) -> Runs:
        """The runs of a cadence."""
        result: Runs = self.get(("runs", frame, cadence.model_dump_json()), lambda: runs_of(cadence, frame))
        return result

    def first_copy(self, cadence: Cadence, rules: CopyRules, window: Window, frame: Frame) -> Lifecycle:
        """The lives on a copy that takes points itself."""
        key = ("first", frame, cadence.model_dump_json(), _content(rules), window)
        result: Lifecycle = self.get(
            key, lambda: lives_of(from_runs(self._runs_within(cadence, window, frame), cadence), rules, frame)
        )
        return result

    def reading_copy(self, source: Lifecycle, cadence: Cadence, rules: CopyRules, window: Window, frame: Frame) -> Lifecycle:
        """The lives on a copy that reads another at its own runs."""
        key = ("reading", source, frame, cadence.model_dump_json(), _content(rules), window)

        def compute() -> Lifecycle:
            runs = self._runs_within(cadence, window, frame)
            return lives_of(read_at_runs(source, runs, cadence), rules, frame)

        result: Lifecycle = self.get(key, compute)
        return result

    def following_copy(self, source: Lifecycle, take: Take | None, delay: str, rules: CopyRules, frame: Frame) -> Lifecycle:
        """The lives on a copy that follows another."""
        taking = take.model_dump_json() if isinstance(take, Part) else "all"
        key = ("following", source, frame, taking, delay, _content(rules))
        result: Lifecycle = self.get(key, lambda: lives_of(following(source, take, duration_of(delay), frame), rules, frame))
        return result

    def _runs_within(self, cadence: Cadence, window: Window, frame: Frame) -> Runs:
        begins, ends = window
        first = frame.midnight(begins) if begins else frame.begin
        last = frame.zone.instant((day_number(ends) + 1) * DAY) if ends else frame.end
        return self.runs(cadence, frame).within(first, max(first, last))


def _content(rules: CopyRules) -> tuple[Hashable, ...]:
    locks = tuple(lock.model_dump_json() for lock in rules.locks)
    return (rules.ladder.model_dump_json(), locks, rules.sweep, rules.shared)
