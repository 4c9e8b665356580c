"""What was computed before, by the content it was computed from: an edit recomputes only what it touches."""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any

from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.cadences import Cadence
from shelf_core.design.ladders import Ladder
from shelf_core.engine.frame import Frame
from shelf_core.engine.lifecycle import Lifecycle, lifecycle_of
from shelf_core.engine.runs import Runs, runs_of


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

    def lifecycle(
        self, *, cadence: Cadence, ladder: Ladder, sweep: str, shared: bool, frame: Frame, begins: str | None, ends: str | None
    ) -> Lifecycle:
        """The lifecycle of a copy's points for workloads that run from the date `begins` to the date `ends`."""

        def compute() -> Lifecycle:
            first = frame.midnight(begins) if begins else frame.begin
            last = frame.zone.instant((day_number(ends) + 1) * DAY) if ends else frame.end
            runs = self.runs(cadence, frame).within(first, max(first, last))
            return lifecycle_of(runs, cadence, ladder, sweep, frame, shared=shared)

        key = ("lifecycle", frame, cadence.model_dump_json(), ladder.model_dump_json(), sweep, shared, begins, ends)
        result: Lifecycle = self.get(key, compute)
        return result
