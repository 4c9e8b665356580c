"""A slow, readable simulation of a design on simpy, written apart from the engine, straight from the rules.

Simulated time counts a thousand steps a second, so that at one instant writes come first (copies in their order), then
step-downs, then the look at the peak, then sweeps, then reclaims. Every workload and point is an object of its own; claims
are asked anew at each sweep from all that was ever written.
"""

from datetime import date, datetime, time, timedelta
from typing import Any

import simpy

from tests.core.reference import calendar
from tests.core.reference.bytes import held_on, moved, unit
from tests.core.reference.copies import Copy
from tests.core.reference.ladder import chosen
from tests.core.reference.points import Lying, Point

RANK = {"full": 0, "synthetic": 1, "differential": 2, "incremental": 3, "snapshot": 3, "log": 4}
STEPS = 1000
HOLD, STEP_DOWN, LOOK, SWEEP, RECLAIM = 499, 500, 901, 902, 903
PATIENCE = 6


def simulate(design: dict[str, Any], days: int, list_on: set[int]) -> "Simulation":
    """A design for its first days, as if it ran on.

    Whether a point may step down can depend on when it will stop being claimed. So what was written in one run of the
    simulation, some way past the end, is what the next one foresees by, until it finds the same.
    """
    minimum = {target["id"]: target.get("minimum_days", 0) for target in design["targets"]}
    steps = [step for route in design["routes"] for copy in route["copies"] for step in copy.get("step_downs", ())]
    longest = max((minimum[step["target"]] for step in steps if step.get("skip_if_short", True)), default=0)
    if not longest:
        return Simulation(design, days, list_on, None)
    before: Simulation | None = None
    for _ in range(PATIENCE):
        found = Simulation(design, days + 2 * longest, list_on, before)
        if before is not None and found.history() == before.history():
            return found
        before = found
    raise AssertionError("what is foreseen does not settle")


def with_later(workload: dict[str, Any]) -> list[dict[str, Any]]:
    """A workload and the machines that come later, each lot as a workload of its own; the number tells lots of one day apart."""
    found, days = [{key: value for key, value in workload.items() if key != "count_steps"}], []
    for step in workload.get("count_steps", ()):
        days.append(step["on"])
        again = f".{days.count(step['on'])}" if days.count(step["on"]) > 1 else ""
        key = f"{workload['id']}@{step['on']}{again}"
        found.append(found[0] | {"id": key, "like": workload["id"], "from": step["on"], "count": step["add"]})
    return found


class Simulation:
    """Runs a design for its first days and notes what the forecast and the lists of points must say."""

    def __init__(self, design: dict[str, Any], days: int, list_on: set[int], before: "Simulation | None") -> None:
        design = design | {"workloads": [one for workload in design["workloads"] for one in with_later(workload)]}
        self.design, self.days, self.list_on, self.before = design, days, list_on, before
        self.zone = design["timezone"]
        self.first = date.fromisoformat(design["starts"])
        self.midnights = [self._midnight(self.first + timedelta(days=place)) for place in range(days + 1)]
        self.env = simpy.Environment(initial_time=STEPS * self.midnights[0] - 2)
        self.targets = {target["id"]: target for target in design["targets"]}
        self.copies = list(self._copies())
        self.rows: list[tuple[str, str, int, float, float, float]] = []
        self.points: dict[int, list[tuple[str, ...]]] = {}
        self.peaks = dict.fromkeys(self.targets, 0.0)
        self.moved = dict.fromkeys(self.targets, 0.0)
        self.reclaimed = dict.fromkeys(self.targets, 0.0)
        self.before_sweep: dict[tuple[str, int], float] = {}
        self.arriving: dict[tuple[int, int], list[Point]] = {}
        self.on_the_way: set[tuple[int, int]] = set()
        self.sweeps_at: set[tuple[int, int]] = set()
        self._schedule()
        self.peaks = {name: self.held(name) for name in self.targets}
        self.env.run(until=STEPS * self.midnights[-1])

    def _schedule(self) -> None:
        for place, copy in enumerate(self.copies):
            self._open(copy)
            if "cadence" in copy.document:
                for at, kind, run in self._runs(copy):
                    self.env.process(self._run(place, at, kind, run))
            elif isinstance(copy.document.get("take"), dict) and "rungs" in copy.document["take"]:
                for at in self.midnights[1:-1]:
                    self.env.process(self._take_picks(place, at))
            self._sweep_daily(place)
            for hold in copy.claims.holds:
                self.env.process(self._place(copy, hold, copy.claims.begin(hold["placed"])))
        for target in self.targets.values():
            for at in self._reclaims(target):
                self.env.process(self._reclaim(target["id"], at))
        self.env.process(self._days())

    def _sweep_daily(self, place: int) -> None:
        if self.copies[place].document.get("sweep") != "with-runs":
            for at in self.midnights[1:-1]:
                self._will_sweep(place, at)

    def history(self) -> list[list[tuple[int, int, str]]]:
        """All that was ever written, by copy."""
        return [[(point.taken, point.written, point.kind) for point in copy.written] for copy in self.copies]

    def _foreseen(self, copy: Copy, point: Point, now: int) -> int:
        """When a point will stop being claimed, by what the run before wrote; at first nothing is known to end."""
        if self.before is None:
            return 10**12
        then = self.before.copies[self.copies.index(copy)]
        same = next((one for one in then.written if (one.taken, one.written) == (point.taken, point.written)), None)
        return 10**12 if same is None else then.claims.release(then.written, same, now)

    def _midnight(self, day: date) -> int:
        return calendar.instant(datetime.combine(day, time()), self.zone)

    def _copies(self):
        """The copies of each route in their order, each for all of the route's workloads."""
        ladders = {ladder["id"]: ladder for ladder in self.design["ladders"]}
        for route in self.design["routes"]:
            workloads = [one for one in self.design["workloads"] if chosen(one, route["workloads"])]
            made: dict[tuple[str | None, str], Copy] = {}
            for document in route["copies"]:
                alike: list[Copy] = []
                for workload in workloads:
                    source, ladder = made.get((document.get("from"), workload["id"])), ladders.get(document.get("ladder"))
                    copy = Copy(self.design, route["id"], document, workload, ladder, source, self._foreseen)
                    made[document["id"], workload["id"]] = copy
                    alike.append(copy)
                    copy.alike = alike
                yield from alike

    def _open(self, copy: Copy) -> None:
        """The points that are there when the design starts."""
        stock = [
            one
            for one in self.design.get("opening", ())
            if (one["route"], one["copy"], one["workload"]) == (copy.route, copy.document["id"], copy.workload["id"])
        ]
        for one in sorted(stock, key=lambda one: one["taken"]):
            at = calendar.instant(datetime.fromisoformat(one["taken"]), self.zone)
            given = unit(one["size"]) if "size" in one else None
            added = copy.add(Point(at, at, one["kind"], "opening", copy.parent(one["kind"]), given=given))
            for hold in copy.claims.holds if added is not None else ():
                placed = copy.claims.begin(hold["placed"])
                if (
                    placed < self.midnights[0]
                    and hold not in added.holds
                    and at <= placed
                    and copy.claims.asked_for(hold, added)
                ):
                    added.holds.append(hold)

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

    def _until(self, instant: int, step: int) -> simpy.Event:
        return self.env.timeout(STEPS * instant + step - self.env.now)

    def _run(self, place: int, at: int, kind: str, run: str):
        yield self._until(at, place)
        self._wrote(place, at, self.copies[place].write(at, kind, run))
        self._will_sweep(place, at)

    def _arrive(self, place: int, at: int):
        yield self._until(at, place)
        for point in sorted(self.arriving[place, at], key=lambda one: one.taken):
            self._wrote(place, at, self.copies[place].follow(at, point))
        self._will_sweep(place, at)

    def _wrote(self, place: int, at: int, point: Point | None) -> None:
        copy = self.copies[place]
        if point is None:
            return
        self._came(copy, point.lies[0], at)
        for other, follower in enumerate(self.copies):
            if follower.source is copy and "cadence" not in follower.document and takes(follower, point):
                self._send(other, point, at)

    def _came(self, copy: Copy, lying: Lying, at: int) -> None:
        target = copy.targets[lying.stage]["id"]
        self.moved[target] += moved(copy, lying, self.design, self.copies)
        self._will_look(target, at)

    def _send(self, place: int, point: Point, at: int) -> None:
        if (place, id(point)) in self.on_the_way:
            return
        self.on_the_way.add((place, id(point)))
        arrival = calendar.plus(at, self.copies[place].document.get("delay", "PT0S"), self.zone)
        if arrival >= self.midnights[-1]:
            return
        if (place, arrival) not in self.arriving:
            self.env.process(self._arrive(place, arrival))
        self.arriving.setdefault((place, arrival), []).append(point)

    def _take_picks(self, place: int, at: int):
        """At a midnight, what rungs that pick the last have picked in the periods that end with it."""
        yield self._until(at, place)
        source = self.copies[place].source
        points = [point for point in source.written if point.kind != "log"]
        for rung in source.claims.ladder.get("rungs", ()):
            if rung["name"] not in self.copies[place].document["take"]["rungs"] or rung.get("pick") != "last":
                continue
            for pick in source.claims.picks(rung, points).values():
                if pick.run != "opening" and source.claims.period_end(rung, pick) == at:
                    self._send(place, pick, at)

    def _place(self, copy: Copy, hold: dict[str, Any], at: int):
        if self.midnights[0] <= at < self.midnights[-1]:
            yield self._until(at, HOLD)
            copy.place(hold)

    def _will_sweep(self, place: int, at: int) -> None:
        if (place, at) not in self.sweeps_at:
            self.sweeps_at.add((place, at))
            self.env.process(self._sweep(place, at))

    def _sweep(self, place: int, at: int):
        yield self._until(at, STEP_DOWN + place)
        copy = self.copies[place]
        for lying in copy.step_down(at):
            self._came(copy, lying, at)
        if copy.targets[0]["media"] == "snapshot":
            self._will_look(copy.targets[0]["id"], at)
        yield self._until(at, SWEEP)
        targets = [target["id"] for target in copy.targets if target.get("reclaim")]
        for target in targets:
            self.before_sweep.setdefault((target, at), self.stored(target))
        copy.sweep(at)
        if targets:
            yield self.env.timeout(1)
        for target in targets:
            before = self.before_sweep.pop((target, at), None)
            if before is not None:
                self.reclaimed[target] += max(0.0, before - self.stored(target))

    def _reclaims(self, target: dict[str, Any]) -> list[int]:
        if target.get("reclaim") is None:
            return []
        found = calendar.run_instants(target["reclaim"], self.design, self.first + timedelta(days=self.days))
        return sorted(at for at in found if self.midnights[0] <= at < self.midnights[-1])

    def _reclaim(self, target: str, at: int):
        # After the sweeps of the instant have been added up.
        yield self._until(at, RECLAIM + 1)
        self.reclaimed[target] = 0.0

    def _will_look(self, target: str, at: int) -> None:
        self.env.process(self._look(target, at))

    def _look(self, target: str, at: int):
        yield self._until(at, LOOK)
        self.peaks[target] = max(self.peaks[target], self.held(target))

    def held(self, target: str) -> float:
        return self.stored(target) + self.reclaimed[target]

    def stored(self, target: str) -> float:
        # The look at a day's end comes one step before its midnight.
        return held_on(self.targets[target], self.design, self.copies, (self.env.now + 1) // STEPS)

    def _days(self):
        for place in range(self.days):
            yield self._until(self.midnights[place + 1], -1)
            for name in self.targets:
                stored = self.held(name)
                peak, moved_here = max(self.peaks[name], stored), self.moved[name]
                day = (self.first + timedelta(days=place)).isoformat()
                self.rows.append((day, name, self.count(name), stored, peak, moved_here))
                self.peaks[name], self.moved[name] = stored, 0.0
            if place in self.list_on:
                self.points[place] = sorted(self._list(self.midnights[place + 1]))

    def _list(self, midnight: int):
        for copy in self.copies:
            # Just before midnight: a claim that ends at midnight still holds.
            labels = copy.labels(midnight - 1)
            for stage, target in enumerate(copy.targets):
                for lying in copy.on(stage):
                    point = lying.point
                    yield (
                        copy.workload["id"],
                        copy.route,
                        copy.document["id"],
                        target["id"],
                        calendar.local(point.taken, self.zone).isoformat(timespec="minutes"),
                        point.kind,
                        point.run,
                        "+".join(sorted(labels[id(point)])),
                        copy.state(lying, labels, midnight),
                    )

    def count(self, target: str) -> int:
        return sum(
            copy.workload.get("count", 1) * sum(lying.stored_as != "log" for lying in copy.on(stage))
            for copy in self.copies
            for stage, one in enumerate(copy.targets)
            if one["id"] == target
        )


def takes(copy: Copy, point: Point) -> bool:
    """Whether a following copy takes a point as soon as it is written on the source."""
    take = copy.document.get("take", "all")
    if point.run == "opening":
        return False
    if take == "all":
        return True
    if "rungs" in take:
        rungs = {rung["name"] for rung in copy.source.claims.ladder["rungs"] if rung.get("pick", "first") == "first"}
        return bool(point.picked_by & rungs & set(take["rungs"]))
    return point.kind in take["kinds"] if "kinds" in take else point.run in take["runs"]
