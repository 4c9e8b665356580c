"""A slow, readable simulation of a design on simpy, written apart from the engine, straight from the rules.

Simulated time counts four steps a second, so that at one instant writes come first (copies in their order), then the look
at the peak, then sweeps, then reclaims. Every workload and point is an object of its own; claims are asked anew at each sweep from all that was ever
written.
"""

from dataclasses import dataclass, field
from datetime import date, timedelta
from itertools import pairwise
from typing import Any

import simpy

from tests.core.reference import calendar
from tests.core.reference.bytes import changed, source_bytes, unit

RANK = {"full": 0, "synthetic": 1, "differential": 2, "incremental": 3, "snapshot": 3, "log": 4}
WRITE, LOOK, SWEEP = 0, 1, 2


@dataclass(eq=False)
class Point:
    taken: int
    written: int
    kind: str
    run: str
    parent: "Point | None"
    there: bool = True
    locked_until: int = -1
    source: "Point | None" = None


@dataclass(eq=False)
class Copy:
    """One copy of one workload."""

    design: dict[str, Any]
    route: str
    document: dict[str, Any]
    workload: dict[str, Any]
    ladder: dict[str, Any]
    shared: bool
    source: "Copy | None" = None
    written: list[Point] = field(default_factory=list)

    def there(self) -> list[Point]:
        return [point for point in self.written if point.there]

    def write(self, now: int, kind: str, run: str) -> Point | None:
        """A run of this copy's own cadence: takes a point, or reads the newest one of its source."""
        taken = now
        if self.source is not None:
            found = [point for point in self.source.there() if point.kind != "log"]
            newest = max(found, key=lambda point: point.taken, default=None)
            if newest is None or any(point.taken >= newest.taken for point in self.written):
                return None
            taken = newest.taken
        return self.add(now, taken, kind, run, self.parent(kind))

    def follow(self, now: int, point: Point) -> Point | None:
        """A point of the source arrives."""
        if not point.there:
            return None
        parent = next((mine for mine in self.there() if point.parent is not None and mine.source is point.parent), None)
        added = self.add(now, point.taken, point.kind, point.run, parent if point.kind not in ("full", "synthetic") else None)
        if added is not None:
            added.source = point
        return added

    def add(self, now: int, taken: int, kind: str, run: str, parent: Point | None) -> Point | None:
        if parent is None and kind == "log":
            return None
        if parent is None and kind in ("differential", "incremental"):
            kind = "full"
        point = Point(taken, now, kind, run, parent)
        self.written.append(point)
        self.lock(point)
        return point

    def locks(self) -> list[dict[str, Any]]:
        locks = self.document.get("lock", [])
        return locks if isinstance(locks, list) else [locks]

    def lock(self, point: Point) -> None:
        """The longest lock that applies, and as long for all that the point needs, link by link."""
        for lock in self.locks():
            if point.run not in lock.get("runs", [point.run]) or point.kind not in lock.get("kinds", [point.kind]):
                continue
            if "rungs" in lock and not self.claims(point.written)[id(point)] & set(lock["rungs"]):
                continue
            end = calendar.plus(point.written, lock["for"], self.design["timezone"])
            held: Point | None = point
            while held is not None:
                held.locked_until = max(held.locked_until, end)
                held = self.needs(held)

    def takes(self, point: Point) -> bool:
        take = self.document.get("take", "all")
        if take == "all":
            return True
        return point.kind in take["kinds"] if "kinds" in take else point.run in take["runs"]

    def parent(self, kind: str) -> Point | None:
        wanted = {
            "differential": lambda point: point.kind in ("full", "synthetic"),
            "incremental": lambda point: point.kind != "log",
            "log": lambda point: True,
        }.get(kind)
        found = [point for point in self.there() if wanted and wanted(point)]
        return max(found, key=lambda point: point.taken, default=None)

    def claims(self, now: int) -> dict[int, set[str]]:
        """The labels that claim each point at a moment, by the identity of the point."""
        found: dict[int, set[str]] = {id(point): set() for point in self.written}
        points = [point for point in self.written if point.kind != "log"]
        newest = sorted(points, key=lambda point: -point.taken)
        self._label(found, newest[: self.ladder.get("floor", 1)], "recent")
        for rule in self.ladder.get("recent", ()):
            counted = [point for point in newest if point.run in rule.get("runs", [point.run])]
            counted = [point for point in counted if point.kind in rule.get("kinds", [point.kind])]
            self._label(found, self._kept(counted, rule["keep"], now), "recent")
        self._rungs(found, points, now)
        claimed = {name for name, labels in found.items() if labels}
        for log in (point for point in self.written if point.kind == "log"):
            if "logs" in self.ladder:
                claims_it = now < calendar.plus(log.taken, self.ladder["logs"], self.design["timezone"])
            else:
                before = [point for point in points if point.taken < log.taken]
                claims_it = bool(before) and id(max(before, key=lambda point: point.taken)) in claimed
            self._label(found, [log] if claims_it else [], "log")
        return found

    def _kept(self, newest: list[Point], keep: Any, now: int) -> list[Point]:
        if keep == "forever":
            return newest
        if isinstance(keep, dict):
            return newest[: keep["points"]]
        return [point for point in newest if now < calendar.plus(point.taken, keep, self.design["timezone"])]

    def _rungs(self, found: dict[int, set[str]], points: list[Point], now: int) -> None:
        picked: dict[str, list[Point]] = {}
        for rung in self.ladder.get("rungs", ()):
            origin = rung.get("from", "self-contained")
            if origin in picked:
                eligible = picked[origin]
            elif origin == "any" or self.shared:
                eligible = points
            else:
                eligible = [point for point in points if point.kind in ("full", "synthetic", "snapshot")]
            picks = self._picks(rung, eligible)
            picked[rung["name"]] = list(picks.values())
            if isinstance(rung["keep"], dict):
                newest = sorted(picks, reverse=True)[: rung["keep"]["periods"]]
                kept = [picks[one] for one in newest]
            else:
                kept = self._kept(list(picks.values()), rung["keep"], now)
            self._label(found, kept, rung["name"])

    def _picks(self, rung: dict[str, Any], eligible: list[Point]) -> dict[tuple[int, ...], Point]:
        zone, weeks = self.design["timezone"], self.design.get("week_starts", "MO")
        by_period: dict[tuple[int, ...], list[Point]] = {}
        for point in eligible:
            moment = calendar.local(point.taken, zone)
            if "on" not in rung or calendar.reaches(moment, rung["every"], rung["on"], weeks):
                by_period.setdefault(calendar.period(moment, rung["every"], weeks), []).append(point)
        choose = max if rung.get("pick") == "last" else min
        return {name: choose(members, key=lambda point: point.taken) for name, members in by_period.items()}

    @staticmethod
    def _label(found: dict[int, set[str]], points: list[Point], label: str) -> None:
        for point in points:
            found[id(point)].add(label)

    def needs(self, point: Point) -> Point | None:
        return point.parent if point.kind == "log" or not self.shared else None

    def sweep(self, now: int) -> None:
        claimed = {name for name, labels in self.claims(now).items() if labels}
        while True:
            needed = {id(self.needs(point)) for point in self.there()}
            free = [point for point in self.there() if id(point) not in claimed and point.locked_until <= now]
            going = [point for point in free if id(point) not in needed]
            if not going:
                return
            for point in going:
                point.there = False

    def state(self, point: Point, claims: dict[int, set[str]], midnight: int) -> str:
        if claims[id(point)]:
            return "kept"
        if point.locked_until >= midnight:
            return "locked"
        return "needed" if any(self.needs(other) is point for other in self.there()) else "due"


class Simulation:
    """Runs a design for its first days and notes what the forecast and the lists of points must say."""

    def __init__(self, design: dict[str, Any], days: int, list_on: set[int]) -> None:
        self.design, self.days, self.list_on = design, days, list_on
        self.zone = design["timezone"]
        self.first = date.fromisoformat(design["starts"])
        self.midnights = [self._midnight(self.first + timedelta(days=place)) for place in range(days + 1)]
        self.env = simpy.Environment(initial_time=4 * self.midnights[0] - 2)
        self.targets = {target["id"]: target for target in design["targets"]}
        self.copies = list(self._copies())
        self.rows: list[tuple[str, str, int, float, float]] = []
        self.points: dict[int, list[tuple[str, ...]]] = {}
        self.peaks = dict.fromkeys(self.targets, 0.0)
        self.reclaimed = dict.fromkeys(self.targets, 0.0)
        self.before_sweep: dict[tuple[str, int], float] = {}
        self.last_write = dict.fromkeys(self.targets, -1)
        for copy in self.copies:
            if "cadence" in copy.document:
                for at, kind, run in self._runs(copy):
                    self.env.process(self._run(copy, at, kind, run))
            if copy.document.get("sweep") != "with-runs":
                for at in self.midnights[1:-1]:
                    self.env.process(self._sweep(copy, at))
        for target in self.targets.values():
            for at in self._reclaims(target):
                self.env.process(self._reclaim(target["id"], at))
        self.env.process(self._days())
        self.env.run(until=4 * self.midnights[-1])

    def _midnight(self, day: date) -> int:
        return calendar.instant(calendar.datetime.combine(day, calendar.time()), self.zone)

    def _copies(self):
        ladders = {ladder["id"]: ladder for ladder in self.design["ladders"]}
        for route in self.design["routes"]:
            chosen = route["workloads"]
            for workload in self.design["workloads"]:
                if workload["id"] in chosen.get("ids", ()) or set(workload.get("tags", ())) & set(chosen.get("tags", ())):
                    made: dict[str, Copy] = {}
                    for document in route["copies"]:
                        shared = self.targets[document["target"]].get("packing") == "shared"
                        source = made.get(document.get("from"))
                        copy = Copy(self.design, route["id"], document, workload, ladders[document["ladder"]], shared, source)
                        made[document["id"]] = copy
                        yield copy

    def _runs(self, copy: Copy) -> list[tuple[int, str, str]]:
        cadence = next(one for one in self.design["cadences"] if one["id"] == copy.document["cadence"])
        best: dict[int, tuple[int, int, str, str]] = {}
        begins, ends = copy.workload.get("from", "0001-01-01"), copy.workload.get("until", "9999-12-31")
        for place, run in enumerate(cadence["runs"]):
            for at in calendar.run_instants(run, self.design, self.first + timedelta(days=self.days)):
                day = calendar.local(at, self.zone).date().isoformat()
                if self.midnights[0] <= at < self.midnights[-1] and begins <= day <= ends:
                    mine = (RANK[run["kind"]], place, run["kind"], run["id"])
                    best[at] = min(best.get(at, mine), mine)
        return [(at, kind, run) for at, (_, _, kind, run) in sorted(best.items())]

    def _until(self, instant: int, phase: int) -> simpy.Event:
        return self.env.timeout(4 * instant + phase - self.env.now)

    def _run(self, copy: Copy, at: int, kind: str, run: str):
        yield self._until(at, WRITE)
        # Copies are written in their order: one that reads another waits until that one has been written.
        yield self.env.timeout(0)
        for _ in range(self.copies.index(copy)):
            yield self.env.timeout(0)
        self._wrote(copy, at, copy.write(at, kind, run))
        self.env.process(self._sweep(copy, at))

    def _arrive(self, copy: Copy, point: Point, at: int):
        if at > self.env.now // 4:
            yield self._until(at, WRITE)
        for _ in range(self.copies.index(copy) + 1):
            yield self.env.timeout(0)
        self._wrote(copy, at, copy.follow(at, point))
        self.env.process(self._sweep(copy, at))

    def _wrote(self, copy: Copy, at: int, point: Point | None) -> None:
        if self.last_write[copy.document["target"]] != at:
            self.last_write[copy.document["target"]] = at
            self.env.process(self._look(copy.document["target"], at))
        if point is None:
            return
        for other in self.copies:
            if other.source is copy and "cadence" not in other.document and other.takes(point):
                arrival = calendar.plus(at, other.document.get("delay", "PT0S"), self.zone)
                if arrival < self.midnights[-1]:
                    self.env.process(self._arrive(other, point, arrival))

    def _sweep(self, copy: Copy, at: int):
        yield self._until(at, SWEEP)
        target = copy.document["target"]
        if self.targets[target].get("reclaim") is None:
            copy.sweep(at)
            return
        self.before_sweep.setdefault((target, at), self.stored(target))
        copy.sweep(at)
        yield self.env.timeout(1)
        before = self.before_sweep.pop((target, at), None)
        if before is not None:
            self.reclaimed[target] += max(0.0, before - self.stored(target))

    def _reclaims(self, target: dict[str, Any]) -> list[int]:
        if target.get("reclaim") is None:
            return []
        found = calendar.run_instants(target["reclaim"], self.design, self.first + timedelta(days=self.days))
        return sorted(at for at in found if self.midnights[0] <= at < self.midnights[-1])

    def _reclaim(self, target: str, at: int):
        # Just after the sweeps of the instant have been added up.
        yield self._until(at, 3)
        for _ in range(len(self.copies) + 3):
            yield self.env.timeout(0)
        self.reclaimed[target] = 0.0

    def _look(self, target: str, at: int):
        yield self._until(at, LOOK)
        self.peaks[target] = max(self.peaks[target], self.held(target))

    def held(self, target: str) -> float:
        return self.stored(target) + self.reclaimed[target]

    def _days(self):
        for place in range(self.days):
            yield self._until(self.midnights[place + 1], -1)
            for name in self.targets:
                stored = self.held(name)
                self.rows.append(
                    ((self.first + timedelta(days=place)).isoformat(), name, self.count(name), stored, self.peaks[name])
                )
                self.peaks[name] = stored
            if place in self.list_on:
                self.points[place] = sorted(self._list())

    def _list(self):
        for copy in self.copies:
            # Just before midnight: a claim that ends at midnight still holds.
            claims = copy.claims(self.midnights[0] if not copy.written else self.env.now // 4)
            for point in copy.there():
                taken = calendar.local(point.taken, self.zone).isoformat(timespec="minutes")
                labels = "+".join(sorted(claims[id(point)]))
                yield (
                    copy.workload["id"],
                    copy.route,
                    copy.document["id"],
                    copy.document["target"],
                    taken,
                    point.kind,
                    point.run,
                    labels,
                    copy.state(point, claims, self.env.now // 4 + 1),
                )

    def count(self, target: str) -> int:
        return sum(
            copy.workload.get("count", 1) * sum(point.kind != "log" for point in copy.there())
            for copy in self.copies
            if copy.document["target"] == target
        )

    def stored(self, target: str) -> float:
        here = [copy for copy in self.copies if copy.document["target"] == target]
        if self.targets[target].get("packing") != "shared":
            return sum(copy.workload.get("count", 1) * self.size(copy, point) for copy in here for point in copy.there())
        total, common = 0.0, {}
        for workload in self.design["workloads"]:
            count = workload.get("count", 1)
            points = [(copy, point) for copy in here if copy.workload is workload for point in copy.there()]
            total += count * sum(self.size(copy, point) for copy, point in points if point.kind == "log")
            times = sorted(point.taken for _, point in points if point.kind != "log")
            if not times:
                continue
            full = source_bytes(workload, self.design, times[0]) / workload.get("reduction", 1)
            like = workload.get("alike", {"group": None, "percent": 0})
            total += count * (1 - like["percent"] / 100) * full
            common.setdefault(like["group"], []).append(like["percent"] / 100 * full)
            changes = sum(changed(workload, self.design, a, b) for a, b in pairwise(times))
            total += count * changes / workload.get("change_reduction", workload.get("reduction", 1))
        return total + sum(max(shares) for shares in common.values())

    def size(self, copy: Copy, point: Point) -> float:
        workload = copy.workload
        reduction = workload.get("reduction", 1)
        change_reduction = workload.get("change_reduction", reduction)
        if point.kind == "log":
            per_second = unit(workload.get("log_per_day", 0)) / 86_400
            return per_second * (point.taken - point.parent.taken) / change_reduction
        if point.parent is not None:
            return changed(workload, self.design, point.parent.taken, point.taken) / change_reduction
        return source_bytes(workload, self.design, point.taken) / reduction
