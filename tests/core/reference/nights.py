"""Nights by a second, slow simulation: a process for each transfer, rates by raising all a little until something is full.

It reads points and moved bytes off a forecast and shares nothing else with the engine. Without windows that stop, tape and
synthetic fulls; those have tests of their own.
"""

import math
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import simpy

from shelf_core.design.values import bytes_per_second_of, duration_of
from shelf_core.engine.schedule.kinds import FULL, LOG
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.moves import moved_of

Key = tuple[str, str, str, int, int, int]
"""Route, copy, workload, machine, moment, and whether it is a log."""
LATER = 5
"""Of what happens at one instant, starts come after all else."""


@dataclass(eq=False)
class Moving:
    """One transfer, from asking to its end."""

    key: Key
    copy: Any
    workload: Any
    how: str
    kind: int
    written: float
    left: float
    order: tuple[int, ...]
    parent: Key | None
    before: Key | None
    source: Key | None
    target: Any
    source_target: Any
    asked: float = math.nan
    started: float = math.nan
    ended: float = math.nan
    rate: float = 0.0
    uses: list[tuple[str, float]] = field(default_factory=list)
    own: float = math.inf

    @property
    def priority(self) -> int:
        return self.copy.priority or self.workload.priority or 5


class Simulation:
    """All transfers of a forecast."""

    def __init__(self, result: Forecast) -> None:
        self.result, self.design = result, result.design
        self.zone, self.begin = ZoneInfo(result.design.timezone), result.frame.begin
        self.env = simpy.Environment()
        self.all = {one.key: one for one in self._transfers()}
        self.over = {key: self.env.event() for key in self.all}
        self.waiting: list[tuple[Moving, Any]] = []
        self.running: list[Moving] = []
        self.done: dict[Key, Any] = {}
        self.since, self.wake = 0.0, self.env.event()
        self.streams = {target.id: target.streams or math.inf for target in self.design.targets}
        self._spread()

    def run(self) -> dict[Key, Moving]:
        """Follow everything to its end."""
        for one in self.all.values():
            self.env.process(self._life(one))
        self.env.process(self._pump())
        self.env.run(until=float(self.result.frame.end - self.begin) + 400 * 86_400)
        return self.all

    def _transfers(self) -> list[Moving]:
        found: list[Moving] = []
        targets = {target.id: target for target in self.design.targets}
        for route_place, route in enumerate(self.design.routes):
            for copy_place, copy in enumerate(route.copies):
                for holding in self.result.holdings:
                    if (holding.route, holding.copy, holding.stage) != (route.id, copy.id, 0):
                        continue
                    for workload in holding.workloads:
                        place = next(at for at, one in enumerate(self.design.workloads) if one.id == workload.id)
                        moved = moved_of(self.result, holding.of(workload)) / workload.count
                        for machine in range(workload.count):
                            order = (route_place, copy_place, place, machine)
                            found += self._machine(holding.life, copy, workload, moved, order, (route.id, copy.id), targets)
        return found

    def _machine(self, life: Any, copy: Any, workload: Any, moved: Any, order: Any, where: Any, targets: Any) -> list[Moving]:
        route = next(one for one in self.design.routes if one.id == where[0])
        source_copy = next((one for one in route.copies if one.id == copy.from_), None)
        how = "run" if copy.from_ is None else "read" if copy.cadence else "follow"
        last: dict[bool, Key] = {}
        found = []
        keys = [
            (where[0], where[1], workload.id, order[3], int(taken), int(kind == LOG))
            for taken, kind in zip(life.taken, life.kind, strict=True)
        ]
        for at, key in enumerate(keys):
            if not self.begin <= life.written[at] < self.result.frame.end:
                continue
            is_log = bool(life.kind[at] == LOG)
            parent = keys[life.parent[at]] if life.parent[at] >= 0 else None
            source = None if source_copy is None else (where[0], source_copy.id, *key[2:])
            one = Moving(
                key, copy, workload, how, int(life.kind[at]), float(life.written[at] - self.begin), float(moved[at]),
                (*order, int(life.taken[at])), parent, last.get(is_log), source, targets[copy.target],
                None if source_copy is None else targets[source_copy.target],
            )  # fmt: skip
            if is_log and (parent is None or parent[5]):
                one.parent = None
            elif is_log:
                one.before = None
            self._what_it_uses(one)
            last[is_log] = key
            found.append(one)
        return found

    def _what_it_uses(self, one: Moving) -> None:
        sites = {site.id: site for site in self.design.sites}
        here = one.workload.site if one.source_target is None else one.source_target.site
        if one.source_target is None:
            ratio = one.workload.reduction if one.kind == FULL else one.workload.change_reduction or one.workload.reduction
            if one.workload.read_speed:
                one.own = min(one.own, bytes_per_second_of(one.workload.read_speed) / ratio)
            if sites[here].read_speed:
                one.uses.append((f"read of {here}", ratio))
        else:
            one.uses.append((f"read from {one.source_target.id}", 1.0))
            if one.source_target.stream_speed:
                one.own = min(one.own, bytes_per_second_of(one.source_target.stream_speed))
        one.uses.append((f"write to {one.target.id}", 1.0))
        if one.target.stream_speed:
            one.own = min(one.own, bytes_per_second_of(one.target.stream_speed))
        one.uses += [(f"network of {site}", 1.0) for site in {here, one.target.site}]
        if here != one.target.site:
            link = next(link for link in self.design.links if here in link.sites)
            one.uses.append((f"link {link.id}" + ("" if link.shared else f" from {here}"), 1.0))
            if link.stream_speed:
                one.own = min(one.own, bytes_per_second_of(link.stream_speed))

    def _capacity(self, name: str) -> float:
        what, who = name.rsplit(" ", 1) if not name.startswith("link ") else ("link", name.split(" ")[1])
        if what == "link":
            return self._speed_of(next(one for one in self.design.links if one.id == who))
        part: Any = next(one for one in (*self.design.targets, *self.design.sites) if one.id == who)
        speed = {"read of": "read_speed", "read from": "read_speed", "write to": "write_speed", "network of": "network"}[what]
        value = getattr(part, speed)
        return math.inf if value is None else bytes_per_second_of(value)

    def _local(self) -> datetime:
        return datetime.fromtimestamp(self.begin + round(self.env.now, 3), self.zone)

    def _speed_of(self, link: Any) -> float:
        speed = math.inf if link.speed is None else bytes_per_second_of(link.speed) * link.usable_percent / 100
        now = self._local()
        names = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
        for limit in link.limits:
            for day in (now.date(), now.date() - timedelta(days=1)):
                if limit.days is not None and names[day.weekday()] not in limit.days:
                    continue
                begins = datetime.combine(day, datetime.strptime(limit.from_ or "00:00", "%H:%M").time(), self.zone)  # noqa: DTZ007
                ends = datetime.combine(day, datetime.strptime(limit.to or "00:00", "%H:%M").time(), self.zone)  # noqa: DTZ007
                if ends <= begins:
                    ends += timedelta(days=1)
                if begins <= now < ends:
                    speed = min(speed, bytes_per_second_of(limit.speed))
        return speed

    def _is_open(self, one: Moving) -> bool:
        window = one.copy.window
        if window is None or one.kind == LOG:
            return True
        clock = self._local().strftime("%H:%M:%S")
        opens, closes = window.opens + ":00", window.closes + ":00"
        return opens <= clock < closes if opens < closes else clock >= opens or clock < closes

    def _spread(self) -> None:
        runs: dict[tuple[str, str, float], list[Moving]] = {}
        for one in self.all.values():
            if one.how != "follow":
                runs.setdefault((*one.key[:2], one.written), []).append(one)
        for together in runs.values():
            together.sort(key=lambda one: one.order[2:4])
            length = duration_of(together[0].copy.spread or "PT0S").seconds
            for place, one in enumerate(together):
                one.asked = one.written + length * place / len(together)

    def _life(self, one: Moving) -> Any:
        if one.how == "follow" and one.source in self.over:
            yield self.over[one.source]
            delay = duration_of(one.copy.delay or "PT0S").seconds
            yield self.env.timeout(max(delay, one.written - self.env.now))
        else:
            yield self.env.timeout((one.written if one.how == "follow" else one.asked) - self.env.now)
        one.asked = self.env.now
        for key in (one.parent, one.before, one.source if one.how == "read" else None):
            if key in self.over:
                yield self.over[key]
        may = self.env.event()
        self.waiting.append((one, may))
        self._poke()
        yield may
        one.started = self.env.now
        if one.source_target is None and one.kind not in (FULL, LOG) and one.workload.scan:
            yield self.env.timeout(duration_of(one.workload.scan).seconds)
        for target in [one.target] * (2 if one.copy.verify else 1):
            yield from self._move(one, target)
        one.ended = self.env.now
        for target in {one.target.id, *([one.source_target.id] if one.source_target else [])}:
            self.streams[target] += 1
        self.over[one.key].succeed()
        self._poke()

    def _move(self, one: Moving, target: Any) -> Any:
        amount = one.left
        self.running.append(one)
        done = self.env.event()
        one.rate, self.done[one.key] = 0.0, done
        self._poke()
        yield done
        one.left, one.own = amount, math.inf if not target.stream_speed else bytes_per_second_of(target.stream_speed)
        one.uses = [(f"read from {target.id}", 1.0)]

    def _poke(self) -> None:
        if not self.wake.triggered:
            self.wake.succeed()

    def _last_of_all(self) -> Any:
        """An event of this instant that comes after all others of it."""
        event = simpy.Event(self.env)
        event._ok, event._value = True, None
        self.env.schedule(event, priority=LATER)
        return event

    def _pump(self) -> Any:
        """Lets bytes pass until something changes, then sees what has moved, what starts, and who gets how much."""
        while True:
            yield self._last_of_all()
            self._pass()
            through = [one for one in self.running if one.left <= 1e-3 + one.rate * 1e-6]
            for one in through:
                self.running.remove(one)
                self.done.pop(one.key).succeed()
            # What ends may unlock something else at this very instant.
            if through or self._start():
                continue
            self._share()
            soonest = min([one.left / one.rate for one in self.running if one.rate > 0], default=math.inf)
            minute = self._until_a_clock_strikes() if self.running or self.waiting else math.inf
            self.wake = self.env.event()
            rest = min(soonest, minute)
            yield self.wake if math.isinf(rest) else self.wake | self.env.timeout(max(rest, 1e-3))

    def _until_a_clock_strikes(self) -> float:
        """Until a limit or a window may begin or end."""
        clocks = {"00:00"}
        for link in self.design.links:
            clocks |= {clock for limit in link.limits for clock in (limit.from_, limit.to) if clock}
        for route in self.design.routes:
            clocks |= {clock for copy in route.copies if copy.window for clock in (copy.window.opens, copy.window.closes)}
        today = self._local().date()
        strikes = [
            datetime.combine(day, datetime.strptime(clock, "%H:%M").time(), self.zone).timestamp()  # noqa: DTZ007 - of the day
            for day in (today, today + timedelta(days=1))
            for clock in clocks
        ]
        now = self.begin + round(self.env.now, 3)
        # A hair later: whatever is asked for as the clock strikes has been by then.
        return min(strike - now for strike in strikes if strike > now) + 1e-3

    def _pass(self) -> None:
        seconds = self.env.now - self.since
        for one in self.running:
            one.left -= one.rate * seconds if seconds > 0 and not math.isinf(one.rate) else 0.0
            if math.isinf(one.rate):
                one.left = 0.0
        self.since = self.env.now

    def _start(self) -> bool:
        some = False
        for one, may in sorted(self.waiting, key=lambda pair: (pair[0].priority, round(pair[0].asked, 3), pair[0].order)):
            needs = {one.target.id, *([one.source_target.id] if one.source_target else [])}
            if self._is_open(one) and all(self.streams[name] > 0 for name in needs):
                for name in needs:
                    self.streams[name] -= 1
                self.waiting.remove((one, may))
                may.succeed()
                some = True
        return some

    def _share(self) -> None:
        whole = {name: self._capacity(name) for one in self.running for name, _ in one.uses}
        left = dict(whole)
        for one in self.running:
            one.rate = 0.0
        for priority in sorted({one.priority for one in self.running}):
            rising = [one for one in self.running if one.priority == priority]
            while rising:
                slope: dict[str, float] = {}
                for one in rising:
                    for name, amount in one.uses:
                        slope[name] = slope.get(name, 0.0) + amount
                step = min([*(left[name] / amount for name, amount in slope.items()), *(one.own - one.rate for one in rising)])
                for one in rising:
                    one.rate += step
                if math.isinf(step):
                    break
                for name, amount in slope.items():
                    left[name] = max(0.0, left[name] - step * amount)
                full = {name for name in slope if left[name] <= 1e-9 * whole[name] and not math.isinf(whole[name])}
                # Of what is full, rounding leaves nothing to those that come after.
                left |= dict.fromkeys(full, 0.0)
                rising = [
                    one for one in rising if one.rate < one.own * (1 - 1e-9) and not any(name in full for name, _ in one.uses)
                ]
