"""Restores carried out together: streams and cartridges one at a time, rates shared as those of nights are."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from shelf_core.design.targets import Target
from shelf_core.nights.fair import Flow, fair_rates
from shelf_core.nights.moving import BY_PRIORITY, TOGETHER, Held
from shelf_core.nights.resources import Leg
from shelf_core.nights.streams import streams_of
from shelf_core.proof.passing import Passages

HORIZON = 400 * 86_400
"""Seconds: what has not ended so long after it began never ends."""
FETCH, THAW, STREAM, MOUNT = "fetch", "thaw", "stream", "mount"


@dataclass(eq=False)
class Job:
    """The restore of one machine. Instants are absolute seconds; `ended` is inf for what never ends.

    `rank` orders those that wait, `place` is the site where it is put; `device` is what reads it, None for what takes no
    stream; it waits until `fetched`, then until `thawed`; `cartridges` are read one after another, each with a mount of so many
    seconds.
    """

    rank: tuple[int, int, int]
    leg: Leg
    amount: float
    place: str = ""
    device: Target | None = None
    needs_fetch: bool = False
    fetched: float = -math.inf
    thawed: float = -math.inf
    cartridges: tuple[tuple[str, int], ...] = ()
    mount: float = 0.0
    asked: float = 0.0
    first_byte: float = math.inf
    ended: float = math.inf
    held: Held = field(default_factory=dict)
    _left: float = 0.0
    _moves_from: float = math.inf

    @property
    def priority(self) -> int:
        """1 for what comes first, to 9."""
        return self.rank[0]

    @property
    def ready(self) -> float:
        """When it may ask for its stream."""
        return max(self.asked, self.fetched, self.thawed)

    @property
    def held_most(self) -> tuple[str, float]:
        """What held it for longest, and for how long; nothing for what took no time."""
        found = [(seconds, label) for label, seconds in self.held.items() if seconds > 1e-3]
        longest = max(found, key=lambda one: one[0], default=(0.0, ""))
        return longest[1], longest[0]


def carry_out(jobs: Sequence[Job], passages: Passages, begin: float) -> float:
    """Do some restores together, all asked for at an instant; the instant at which all have ended."""
    for job in jobs:
        job.asked = begin
        _hold(job, FETCH, min(job.ready, max(job.fetched, begin)) - begin)
        _hold(job, THAW, job.ready - max(job.fetched, begin))
    _Together(jobs, passages, begin).go()
    return max((job.ended for job in jobs), default=begin)


def _hold(job: Job, label: str, seconds: float) -> None:
    if seconds > 0 and label:
        job.held[label] = job.held.get(label, 0.0) + seconds


class _Together:
    def __init__(self, jobs: Sequence[Job], passages: Passages, begin: float) -> None:
        self._waiting = sorted(jobs, key=lambda job: job.rank)
        self._passages, self._now, self._begin = passages, begin, begin
        self._running: list[Job] = []
        self._free: dict[str, int] = {}
        self._mounted: set[tuple[str, int]] = set()
        for job in jobs:
            streams = None if job.device is None else streams_of(job.device)
            if job.device is not None and streams is not None:
                self._free[job.device.id] = streams

    def go(self) -> None:
        """Until all have ended, or nothing more can happen."""
        while self._waiting or self._running:
            self._start_what_fits()
            rates = self._rates()
            at = self._next_event(rates)
            if at is None or at > self._begin + HORIZON:
                return
            for job, (rate, label) in rates.items():
                _hold(job, label, at - self._now)
                job._left -= rate * (at - self._now) if at > self._now else 0.0
            self._now = at
            self._end_what_is_through(rates)

    def _start_what_fits(self) -> None:
        for job in list(self._waiting):
            if job.ready > self._now + TOGETHER or not self._fits(job):
                continue
            self._waiting.remove(job)
            _hold(job, STREAM, self._now - job.ready)
            self._take(job, -1)
            self._mounted.update(job.cartridges)
            passing = job.mount * len(job.cartridges)
            _hold(job, MOUNT, passing)
            job._left, job._moves_from = job.amount, self._now + passing
            self._running.append(job)
            # What takes no time ends at once, and gives its stream to the next.
            if passing == 0 and (job.amount <= 0 or not job.leg.constraints):
                job.first_byte = self._now
                self._end(job)

    def _fits(self, job: Job) -> bool:
        free = job.device is None or self._free.get(job.device.id, 1) > 0
        return free and not self._mounted.intersection(job.cartridges)

    def _take(self, job: Job, change: int) -> None:
        if job.device is not None and job.device.id in self._free:
            self._free[job.device.id] += change

    def _rates(self) -> dict[Job, tuple[float, str]]:
        moving = [job for job in self._running if job._moves_from <= self._now + TOGETHER]
        flows = [Flow(job.priority, job.leg.constraints, 1) for job in moving]
        found = fair_rates(flows, self._passages.at(self._now + TOGETHER))
        rates = {}
        for job, rate in zip(moving, found, strict=True):
            if rate.rate > 0:
                job.first_byte = min(job.first_byte, self._now)
            label = "" if rate.held_by is None else job.leg.labels[rate.held_by]
            rates[job] = (rate.rate, label + (BY_PRIORITY if rate.by_priority and label else ""))
        return rates

    def _next_event(self, rates: dict[Job, tuple[float, str]]) -> float | None:
        found = [self._now + max(0.0, job._left) / rate for job, (rate, _) in rates.items() if rate > 0]
        found += [job._moves_from for job in self._running if job._moves_from > self._now + TOGETHER]
        found += [job.ready for job in self._waiting if job.ready > self._now + TOGETHER]
        change = self._passages.next_change(self._now + TOGETHER)
        if change is not None and rates:
            found.append(change)
        return min(found, default=None)

    def _end_what_is_through(self, rates: dict[Job, tuple[float, str]]) -> None:
        for job, (rate, _) in rates.items():
            if job._left <= (math.inf if math.isinf(rate) else max(rate, 1.0) * TOGETHER):
                self._end(job)

    def _end(self, job: Job) -> None:
        job.ended = self._now
        self._running.remove(job)
        self._take(job, +1)
        self._mounted.difference_update(job.cartridges)
