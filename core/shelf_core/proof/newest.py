"""The newest moment that counted points reach, through time."""

import heapq
import math
from collections.abc import Iterator

import numpy as np

from shelf_core.engine.retention.parents import NONE
from shelf_core.proof.counting import Counting
from shelf_core.proof.lying import Lying, log_links

Steps = list[tuple[float, float]]
"""From each instant on (just after it) the newest moment, -inf for none; the first from ever."""


def newest_through_time(counting: Counting, spare: int = 0) -> Steps:
    """The newest moment that is reached just after each instant at which that changes; with `spare` 1 the one before it.

    Just before an instant u the newest is that of the last step before u.
    """
    if counting.is_log.any():
        return _with_logs(counting, spare)
    some = np.flatnonzero(counting.begin < counting.end)
    order = some[np.argsort(counting.begin[some], kind="stable")]
    begins, ends = counting.begin[order].tolist(), counting.end[order].tolist()
    taken = counting.taken[order].tolist()
    instants = sorted({*begins, *(end for end in ends if end < math.inf)})
    heap: list[tuple[float, float]] = []
    found: Steps = [(-math.inf, -math.inf)]
    at = 0
    for instant in instants:
        while at < len(begins) and begins[at] <= instant:
            heapq.heappush(heap, (-taken[at], ends[at]))
            at += 1
        newest = _top(heap, instant, spare)
        if newest != found[-1][1]:
            found.append((instant, newest))
    return found


def _top(heap: list[tuple[float, float]], instant: float, spare: int) -> float:
    """The newest of those that are still there just after an instant, or the newest one taken before that."""
    while heap and heap[0][1] <= instant:
        heapq.heappop(heap)
    if not heap:
        return -math.inf
    if not spare:
        return -heap[0][0]
    first = heapq.heappop(heap)
    aside = [first]
    while heap and (heap[0][1] <= instant or heap[0][0] == first[0]):
        one = heapq.heappop(heap)
        if one[1] > instant:
            aside.append(one)
    second = -heap[0][0] if heap else -math.inf
    for one in aside:
        heapq.heappush(heap, one)
    return second


class _Chain:
    """The points and logs of a stage, of which some count at an instant: what moment they reach."""

    def __init__(self, lying: Lying, places: np.ndarray, begin: np.ndarray, end: np.ndarray) -> None:
        self.begin, self.end = begin.tolist(), end.tolist()
        life = lying.holding.life
        self.taken = life.taken.tolist()
        self.is_log: list[bool] = lying.is_log.tolist()
        self.starts_at = {log: int(life.parent[log]) for log in np.flatnonzero(lying.is_log).tolist()}
        follows = log_links(lying)
        self.before = {after: log for log, after in follows.items() if after != NONE}
        order = np.argsort(life.taken, kind="stable")
        self.points = [place for place in order.tolist() if not self.is_log[place]]
        self.logs = [place for place in order.tolist() if self.is_log[place]]
        self.places = places

    def there(self, place: int, instant: float) -> bool:
        """Whether it counts just after an instant."""
        return self.begin[place] <= instant < self.end[place]

    def reached(self, instant: float, newest_point: int, newest_log: int) -> Iterator[float]:
        """The moments that are reached just after an instant, the newest first, of points and of logs."""
        point, log = newest_point, newest_log
        while point >= 0 or log >= 0:
            is_log = point < 0 or (log >= 0 and self.taken[self.logs[log]] >= self.taken[self.points[point]])
            place = self.logs[log] if is_log else self.points[point]
            if is_log:
                log -= 1
            else:
                point -= 1
            if self.there(place, instant) and (not is_log or self._leads_back(place, instant)):
                yield self.taken[place]

    def _leads_back(self, log: int, instant: float) -> bool:
        """Whether an unbroken chain of logs leads to a log from a point that counts."""
        while True:
            start = self.starts_at[log]
            if start != NONE and not self.is_log[start] and self.there(start, instant):
                return True
            before = self.before.get(log, NONE)
            if before == NONE or not self.there(before, instant):
                return False
            log = before


def _with_logs(counting: Counting, spare: int) -> Steps:
    chains = []
    for number, lying in enumerate(counting.lyings):
        mine = np.flatnonzero(counting.lying == number)
        chains.append(_Chain(lying, counting.place[mine], counting.begin[mine], counting.end[mine]))
    some = counting.begin < counting.end
    instants = np.unique(np.r_[counting.begin[some], counting.end[some][np.isfinite(counting.end[some])]]).tolist()
    by_taken = [(np.array([c.taken[p] for p in c.points]), np.array([c.taken[p] for p in c.logs])) for c in chains]
    found: Steps = [(-math.inf, -math.inf)]
    for instant in instants:
        newest: list[float] = []
        for chain, (points, logs) in zip(chains, by_taken, strict=True):
            last_point = int(np.searchsorted(points, instant, side="right")) - 1
            last_log = int(np.searchsorted(logs, instant, side="right")) - 1
            moments = chain.reached(instant, last_point, last_log)
            for _ in range(1 + spare):
                one = next(moments, None)
                if one is not None:
                    newest.append(one)
        ordered = sorted(set(newest), reverse=True)
        value = ordered[spare] if len(ordered) > spare else -math.inf
        if value != found[-1][1]:
            found.append((instant, value))
    return found
