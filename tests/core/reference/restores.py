"""Recovery plans read slowly: a process for each machine on simpy, rates by raising all until something is full.

Points are those that the simulation of the rules noted, sizes those of its formulas, times those of its calendar. Nothing of
the core is used. Without tape and snapshots; those have worked examples of their own.
"""

import math
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any, NamedTuple

import simpy

from tests.core.reference import calendar
from tests.core.reference.bytes import changed, log_size, size, source_bytes
from tests.core.reference.ladder import chosen
from tests.core.reference.losses import SlowLoss
from tests.core.reference.proof import Stretch, chains

LATER = 5
"""Of what happens at one instant, starts come after all else."""
DAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
SOON = 1e-3


class Reached(NamedTuple):
    """A point with the logs that are read after it, and the moment reached."""

    point: Stretch
    logs: tuple[Stretch, ...]
    moment: int


@dataclass(eq=False)
class Machine:
    """The restore of one machine."""

    rank: tuple[int, int, int]
    device: dict[str, Any]
    left: float
    uses: list[tuple[str, float]]
    own: float
    first: float = math.inf
    over: float = math.inf
    rate: float = 0.0
    done: Any = field(default=None)


class Back(NamedTuple):
    """What a plan comes to for a workload; times are absolute seconds."""

    workload: str
    target: str
    moment: int
    read: float
    first: float
    over: float


class SlowPlan:
    """A plan of a plain design carried out at an instant after a case. `found` is what lies of each workload."""

    def __init__(
        self,
        design: dict[str, Any],
        plan: dict[str, Any],
        case: dict[str, Any] | None,
        found: dict[str, list[Stretch]],
        at: int,
    ) -> None:
        self.design, self.plan, self.case, self.at, self.zone = design, plan, case, at, design["timezone"]
        self.targets = {one["id"]: one for one in design["targets"]}
        self.sites = {one["id"]: one for one in design["sites"]}
        self.losses = {
            one["id"]: SlowLoss(design, found[one["id"]], one, case or {"lost": {"source": False}})
            for one in design["workloads"]
        }
        self.lost_sites = set((case or {}).get("lost", {}).get("sites", ()))
        self.places = {one["id"]: place for place, one in enumerate(design["workloads"])}
        unnoticed = (case or {}).get("unnoticed")
        self.asked = at if unnoticed is None else next(iter(self.losses.values())).clock.back(at, unnoticed)

    def carry_out(self) -> tuple[list[Back | tuple[str, str]], float]:
        """Each workload of the plan, with a reason where it is left out, and when the last check is over."""
        begin = now = self._after(self.at, self.plan["ready"]) if "ready" in self.plan else float(self.at)
        rows: list[Back | tuple[str, str]] = []
        for workloads, then in self._groups():
            of_group, machines = [], []
            for workload in sorted(workloads, key=lambda one: one.get("priority", 5)):
                chosen_ = self._choose(workload)
                if isinstance(chosen_, str):
                    of_group.append((workload, chosen_, []))
                    continue
                mine = self._machines(workload, chosen_)
                machines += mine
                of_group.append((workload, chosen_, mine))
            self._together(machines, now, begin)
            for workload, chosen_, mine in of_group:
                rows.append(self._row(workload, chosen_, mine))
            now = max((one.over for one in machines), default=now)
            if then:
                now = self._after(now, then)
        return rows, now

    def _row(self, workload: dict[str, Any], reached: Any, mine: list[Machine]) -> Back | tuple[str, str]:
        if isinstance(reached, str):
            return workload["id"], reached
        read, target = self._amounts(workload, reached)[0] * workload.get("count", 1), reached.point.target["id"]
        return Back(workload["id"], target, reached.moment, read, min(one.first for one in mine), max(one.over for one in mine))

    def _groups(self) -> Iterator[tuple[list[dict[str, Any]], str | None]]:
        every = self.design["workloads"]
        named = [[one for one in every if chosen(one, group["workloads"])] for group in self.plan["groups"]]
        first = [one for one in every if one.get("needed_first")]
        if self.case is None:
            first = [one for one in first if any(one in group for group in named)]
        else:
            first = [one for one in first if self._original_is_lost(one, named)]
        if first:
            yield first, None
        for group, workloads in zip(self.plan["groups"], named, strict=True):
            yield [one for one in workloads if one not in first], group.get("then")

    def _original_is_lost(self, workload: dict[str, Any], named: list[list[dict[str, Any]]]) -> bool:
        lost = (self.case or {}).get("lost", {})
        if not lost.get("source", True):
            return False
        if self.lost_sites:
            return workload["site"] in self.lost_sites
        # Of a case with a plan all that the plan names.
        return any(workload in group for group in named) if "plan" in (self.case or {}) else True

    def _place(self, workload: dict[str, Any]) -> str:
        return self.plan.get("place", workload["site"])

    def _choose(self, workload: dict[str, Any]) -> Reached | str:
        if self._place(workload) in self.lost_sites:
            return "the place is lost"
        every = list(self._reached(workload))
        if not every:
            return "nothing is left"
        every = [one for one in every if self._way(one.point.target["site"], self._place(workload)) is not None]
        if not every:
            return "no way or no drive"
        newest = max(one.moment for one in every)
        best, soonest = None, math.inf
        for one in (one for one in every if one.moment == newest):
            alone = self._machines(workload, one)
            self._together(alone, float(self.at), float(self.at))
            end = max(machine.over for machine in alone)
            if best is None or end < soonest - SOON:
                best, soonest = one, end
        assert best is not None
        return best

    def _reached(self, workload: dict[str, Any]) -> Iterator[Reached]:
        loss = self.losses[workload["id"]]
        for point, logs in chains([one for one in loss.found if loss.is_left(one, self.at)]):
            if point.taken > self.asked:
                continue
            read: list[Stretch] = []
            for log in logs:
                if (read[-1] if read else point).taken >= self.asked:
                    break
                read.append(log)
            yield Reached(point, tuple(read), min(read[-1].taken, self.asked) if read else point.taken)

    def _amounts(self, workload: dict[str, Any], reached: Reached) -> tuple[float, float]:
        """What a machine reads and what it writes."""
        reduction = workload.get("reduction", 1)
        change_reduction = workload.get("change_reduction", reduction)
        point = reached.point
        logs = sum(log_size(workload, log.lying.point) for log in reached.logs)
        whole = source_bytes(workload, self.design, point.taken)
        is_shared = point.target.get("packing") == "shared"
        if self.plan.get("in_place"):
            amount = changed(workload, self.design, reached.moment, self.at)
            return (amount / change_reduction if is_shared else self._chain(workload, point) + logs), amount
        read = whole / reduction if is_shared else self._chain(workload, point)
        return read + logs, whole + logs * change_reduction

    def _chain(self, workload: dict[str, Any], point: Stretch) -> float:
        total, one = 0.0, point.lying
        while one is not None:
            total += size(workload, self.design, one)
            one = one.parent if one.stored_as in ("differential", "incremental") else None
        return total

    def _machines(self, workload: dict[str, Any], reached: Reached) -> list[Machine]:
        read, written = self._amounts(workload, reached)
        uses, own = self._passes(workload, reached.point.target, written / read if read else 0.0)
        rank = (workload.get("priority", 5), self.places[workload["id"]])
        return [
            Machine((*rank, number), reached.point.target, read, list(uses), own) for number in range(workload.get("count", 1))
        ]

    def _passes(self, workload: dict[str, Any], target: dict[str, Any], ratio: float) -> tuple[list[tuple[str, float]], float]:
        place, own = self._place(workload), math.inf
        uses = [(f"read {target['id']}", 1.0), (f"write {place}", ratio)]
        uses += [(f"network {site}", 1.0) for site in {target["site"], place}]
        if "write_speed" in workload and ratio:
            own = workload["write_speed"] / ratio
        own = min(own, target.get("stream_speed", math.inf))
        here = target["site"]
        for link in self._way(here, place) or ():
            there = next(site for site in link["sites"] if site != here)
            uses.append((f"link {link['id']}" + ("" if link.get("shared") else f" {here}"), 1.0))
            own = min(own, link.get("stream_speed", math.inf))
            here = there
        return uses, own

    def _way(self, begin: str, end: str) -> list[dict[str, Any]] | None:
        """The way with the fewest links, found by trying all; of equals the one whose sorted places come first."""
        if begin == end or not self.design.get("links"):
            return []
        links = [(place, one) for place, one in enumerate(self.design["links"]) if not self.lost_sites & set(one["sites"])]
        ways: list[tuple[int, list[int], list[dict[str, Any]]]] = []

        def walk(here: str, been: set[str], places: list[int], way: list[dict[str, Any]]) -> None:
            if here == end:
                ways.append((len(way), sorted(places), way))
                return
            for place, link in links:
                if here in link["sites"]:
                    there = next(site for site in link["sites"] if site != here)
                    if there not in been:
                        walk(there, been | {there}, [*places, place], [*way, link])

        walk(begin, {begin}, [], [])
        return min(ways, key=lambda one: one[:2])[2] if ways else None

    def _after(self, instant: float, length: str) -> float:
        whole = math.floor(instant)
        return calendar.plus(whole, length, self.zone) + (instant - whole)

    def _together(self, machines: list[Machine], now: float, thawed_from: float) -> None:
        """Let machines do their work side by side. Thawing was asked for when the plan began."""
        _Side(self, machines, now, thawed_from).go()

    def speed(self, name: str, at: float) -> float:
        """What a resource carries at an instant."""
        what, who, *_ = name.split(" ")
        if what == "link":
            return self._speed_of(next(one for one in self.design["links"] if one["id"] == who), at)
        part = self.targets[who] if what == "read" else self.sites[who]
        field_ = {"read": "read_speed", "write": "write_speed", "network": "network"}[what]
        return float(part.get(field_, math.inf))

    def _speed_of(self, link: dict[str, Any], at: float) -> float:
        speed = link.get("speed", math.inf) * link.get("usable_percent", 100) / 100
        now = calendar.local(math.floor(at + SOON), self.zone)
        for limit in link.get("limits", ()):
            for day in (now.date(), now.date() - timedelta(days=1)):
                if DAYS[day.weekday()] not in limit.get("days", DAYS):
                    continue
                begins = datetime.fromisoformat(f"{day}T{limit.get('from', '00:00')}")
                ends = datetime.fromisoformat(f"{day}T{limit.get('to', '00:00')}")
                if begins <= now < (ends if ends > begins else ends + timedelta(days=1)):
                    speed = min(speed, limit["speed"])
        return speed


class _Side:
    """Machines that are restored side by side."""

    def __init__(self, plan: SlowPlan, machines: list[Machine], now: float, thawed_from: float) -> None:
        self.plan, self.machines, self.begin, self.thawed_from = plan, machines, now, thawed_from
        self.env = simpy.Environment()
        self.streams = {one["id"]: one.get("streams", math.inf) for one in plan.design["targets"]}
        self.waiting: list[tuple[Machine, Any]] = []
        self.running: list[Machine] = []
        self.since, self.wake = 0.0, self.env.event()

    def go(self) -> None:
        for one in self.machines:
            self.env.process(self._life(one))
        self.env.process(self._pump())
        self.env.run(until=90 * 86_400)

    def _life(self, one: Machine) -> Any:
        if "thaw" in one.device:
            ready = self.plan._after(self.thawed_from, one.device["thaw"])
            yield self.env.timeout(max(0.0, ready - self.begin))
        may = self.env.event()
        self.waiting.append((one, may))
        self._poke()
        yield may
        one.done = self.env.event()
        self.running.append(one)
        self._poke()
        yield one.done
        one.over = self.begin + self.env.now
        self.streams[one.device["id"]] += 1
        self._poke()

    def _poke(self) -> None:
        if not self.wake.triggered:
            self.wake.succeed()

    def _last(self) -> Any:
        event = simpy.Event(self.env)
        event._ok, event._value = True, None
        self.env.schedule(event, priority=LATER)
        return event

    def _pump(self) -> Any:
        while True:
            yield self._last()
            for one in self.running:
                one.left -= one.rate * (self.env.now - self.since) if math.isfinite(one.rate) else one.left
            self.since = self.env.now
            through = [one for one in self.running if one.left <= SOON + one.rate * 1e-6]
            for one in through:
                self.running.remove(one)
                one.done.succeed()
            if through or self._start():
                continue
            self._share()
            if not self.running and not self.waiting and all(math.isfinite(one.over) for one in self.machines):
                return
            soonest = min((one.left / one.rate for one in self.running if one.rate > 0), default=math.inf)
            self.wake = self.env.event()
            rest = min(soonest, self._quarter())
            yield self.wake | self.env.timeout(max(rest, SOON))

    def _quarter(self) -> float:
        """Until the next quarter of an hour of the clock, at which a limit may begin or end."""
        return 900 - (self.begin + self.env.now) % 900

    def _start(self) -> bool:
        some = False
        for one, may in sorted(self.waiting, key=lambda pair: pair[0].rank):
            if self.streams[one.device["id"]] > 0:
                self.streams[one.device["id"]] -= 1
                self.waiting.remove((one, may))
                may.succeed()
                some = True
        return some

    def _share(self) -> None:
        at = self.begin + self.env.now
        whole = {name: self.plan.speed(name, at) for one in self.running for name, _ in one.uses}
        left = dict(whole)
        for one in self.running:
            one.rate = 0.0
        for priority in sorted({one.rank[0] for one in self.running}):
            rising = [one for one in self.running if one.rank[0] == priority]
            while rising:
                slope: dict[str, float] = {}
                for name, amount in (use for one in rising for use in one.uses):
                    slope[name] = slope.get(name, 0.0) + amount
                room = [left[name] / amount for name, amount in slope.items() if amount > 0]
                step = min([*room, *(one.own - one.rate for one in rising)])
                for one in rising:
                    one.rate += step
                if math.isinf(step):
                    break
                for name, amount in slope.items():
                    left[name] = max(0.0, left[name] - step * amount)
                full = {name for name in slope if math.isfinite(whole[name]) and left[name] <= 1e-9 * whole[name]}
                # Of what is full, rounding leaves nothing to those that come after.
                left |= dict.fromkeys(full, 0.0)
                rising = [
                    one for one in rising if one.rate < one.own * (1 - 1e-9) and not any(use[0] in full for use in one.uses)
                ]
        for one in self.running:
            one.first = min(one.first, at) if one.rate > 0 else one.first
