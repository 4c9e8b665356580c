"""One copy of one workload in the reference: writes, step-downs, sweeps."""

from collections.abc import Callable, Iterator
from typing import Any

from tests.core.reference import calendar
from tests.core.reference.ladder import FULLS, Claims, listed
from tests.core.reference.points import Lying, Point

Foreseen = Callable[["Copy", Point, int], int]


class Copy:
    """Points of one workload on one copy. `foreseen` tells when a point will stop being claimed."""

    def __init__(
        self,
        design: dict[str, Any],
        route: str,
        document: dict[str, Any],
        workload: dict[str, Any],
        ladder: dict[str, Any] | None,
        source: "Copy | None",
        foreseen: Foreseen,
    ) -> None:
        self.design, self.route, self.document, self.workload, self.source = design, route, document, workload, source
        self.zone, self.foreseen = design["timezone"], foreseen
        targets = {target["id"]: target for target in design["targets"]}
        self.steps = document.get("step_downs", [])
        self.targets = [targets[document["target"]], *(targets[step["target"]] for step in self.steps)]
        self.claims = Claims(design, workload, document, ladder, self.shared(0))
        self.written: list[Point] = []
        self.alike: list[Copy] = [self]
        self.claims.sessions = self.sessions
        self.too_short: set[tuple[int, int]] = set()

    def shared(self, stage: int) -> bool:
        return self.targets[stage].get("packing") == "shared" and self.targets[stage]["media"] != "snapshot"

    def on(self, stage: int) -> list[Lying]:
        found = [point.lies[stage] for point in self.written if stage in point.lies]
        return [lying for lying in found if lying.there]

    def write(self, now: int, kind: str, run: str) -> Point | None:
        """A run of this copy's own cadence: takes a point, or reads the newest one of its source."""
        taken = now
        if self.source is not None:
            found = [point for point in self.source.written if point.kind != "log" and point.there]
            newest = max(found, key=lambda point: point.taken, default=None)
            if newest is None or any(point.taken >= newest.taken for point in self.written):
                return None
            taken = newest.taken
        return self.add(Point(taken, now, kind, run, self.parent(kind)))

    def replicates(self) -> bool:
        """Whether what comes here are replicas of snapshots."""
        return self.source is not None and self.targets[0]["media"] == "snapshot"

    def follow(self, now: int, point: Point) -> Point | None:
        """A point of the source arrives."""
        if not point.there:
            return None
        arrived = Point(point.taken, now, point.kind, point.run, None, source=point)
        if self.replicates():
            pass
        elif isinstance(self.document.get("take"), dict) and "rungs" in self.document["take"]:
            arrived.kind = "full"
        elif point.kind == "snapshot":
            arrived.kind = "incremental"
            arrived.parent = self.parent("incremental")
        elif point.kind not in FULLS:
            here = [lying.point for lying in self.on(0)]
            arrived.parent = next((mine for mine in here if point.parent is not None and mine.source is point.parent), None)
        return self.add(arrived)

    def add(self, point: Point) -> Point | None:
        if point.parent is None and point.kind == "log":
            return None
        if point.parent is None and point.kind in ("differential", "incremental"):
            point.kind = "full"
        if point.kind == "log":
            earlier = [lying.point for lying in self.on(0) if lying.point.kind != "log" and lying.point.taken < point.taken]
            point.goes_with = max(earlier, key=lambda one: one.taken, default=None)
        self.written.append(point)
        self.claims.note_picks(point, self.written)
        for hold in self.claims.holds:
            stands = self.claims.begin(hold["placed"]) <= point.written < self.claims.end(hold)
            if stands and self.claims.asked_for(hold, point):
                point.holds.append(hold)
        point.lies[0] = Lying(point, 0, point.written, point.kind, point.parent.lies[0] if point.parent else None)
        self.lock(point.lies[0], listed(self.document.get("lock")))
        if "rotation" in self.document:
            self.write_over()
        return point

    def sessions(self, now: int) -> list[int]:
        """The instants at which this copy has written anything, of whatever workload."""
        return sorted({point.written for copy in self.alike for point in copy.written if point.written <= now})

    def write_over(self) -> None:
        """What lay on the set that has just been written to is gone at once, of whatever workload."""
        now = self.written[-1].written
        for copy in self.alike:
            for lying in copy.on(0):
                if not copy.claims.labels([lying.point], now)[id(lying.point)]:
                    lying.there = False

    def parent(self, kind: str) -> Point | None:
        wanted = {
            "differential": lambda point: point.kind in FULLS,
            "incremental": lambda point: point.kind != "log",
            "log": lambda point: True,
        }.get(kind)
        found = [lying.point for lying in self.on(0) if wanted and wanted(lying.point)]
        return max(found, key=lambda point: point.taken, default=None)

    def place(self, hold: dict[str, Any]) -> None:
        """A hold is placed: it claims what is there."""
        for point in self.written:
            if point.there and hold not in point.holds and self.claims.asked_for(hold, point):
                point.holds.append(hold)

    def lock(self, lying: Lying, locks: list[dict[str, Any]]) -> None:
        """The longest lock that applies, and as long for all that the point needs there, link by link."""
        point = lying.point
        for lock in locks if self.targets[lying.stage].get("lock", "none") != "none" else ():
            if point.run not in lock.get("runs", [point.run]) or point.kind not in lock.get("kinds", [point.kind]):
                continue
            if "rungs" in lock and not self.labels(lying.came)[id(point)] & set(lock["rungs"]):
                continue
            if lock["for"] == "kept":
                if not self.labels(lying.came)[id(point)] - {"hold"}:
                    continue
                end = self.ladder_release(point, lying.came)
            else:
                end = calendar.plus(lying.came, lock["for"], self.zone)
            held: Lying | None = lying
            while held is not None:
                held.locked_until = max(held.locked_until, end)
                held = self.needs(held)

    def ladder_release(self, point: Point, now: int) -> int:
        """Until when the ladder claims a point whose claims are all durations or forever."""
        ladder, ends = self.claims.ladder or {}, [now]
        rules = [
            rule["keep"]
            for rule in ladder.get("recent", ())
            if point.kind != "log"
            and point.run in rule.get("runs", [point.run])
            and point.kind in rule.get("kinds", [point.kind])
        ]
        rules += [rung["keep"] for rung in ladder.get("rungs", ()) if rung["name"] in point.picked_by]
        if point.kind == "log" and "logs" in ladder:
            rules.append(ladder["logs"])
        elif point.kind == "log":
            return self.ladder_release(point.goes_with, now) if point.goes_with else now
        ends += [10**12 if keep == "forever" else calendar.plus(point.taken, keep, self.zone) for keep in rules]
        return max(ends)

    def labels(self, now: int) -> dict[int, set[str]]:
        return self.claims.labels(self.written, now)

    def needs(self, lying: Lying) -> Lying | None:
        if lying.point.kind == "log" and lying.stored_as == "log":
            return lying.parent
        return None if self.shared(lying.stage) else lying.parent

    def step_down(self, now: int) -> Iterator[Lying]:
        """All step-downs at a sweep, one after another."""
        for stage, step in enumerate(self.steps, start=1):
            moving = self.chains(now, stage, step) if step.get("as") == "chain" else self.singles(now, stage, step)
            for lying in sorted(moving, key=lambda one: (one.point.written, one.point.taken)):
                yield self.move(lying, now, stage, step)

    def move(self, lying: Lying, now: int, stage: int, step: dict[str, Any]) -> Lying:
        chain = step.get("as") == "chain"
        parent = lying.parent.point.lies.get(stage) if chain and lying.parent else None
        moved = Lying(lying.point, stage, now, lying.stored_as if chain else "full", parent)
        lying.point.lies[stage] = moved
        lying.left = not step.get("keep_source", False)
        self.lock(moved, listed(step.get("lock")))
        return moved

    def ready(self, lying: Lying, now: int, stage: int, step: dict[str, Any]) -> bool:
        """Whether a point has the age, and is of no chain in use."""
        point = lying.point
        if calendar.plus(point.taken, step["after"], self.zone) > now:
            return False
        newer = [one for one in self.written if one.taken > point.taken and one.kind != "log"]
        loose = self.shared(stage - 1) or self.targets[stage - 1]["media"] == "snapshot"
        return any(loose or one.kind in FULLS for one in newer)

    def singles(self, now: int, stage: int, step: dict[str, Any]) -> list[Lying]:
        labels, found = self.labels(now), []
        for lying in self.on(stage - 1):
            if lying.point.kind == "log" or any(later >= stage for later in lying.point.lies):
                continue
            claimed = labels[id(lying.point)]
            which = step.get("which", "rungs")
            if which != "all":
                claimed = {label for label in claimed if self.claims.settled(label, lying.point, now)}
            if isinstance(which, list):
                claimed &= set(which)
            if claimed and self.ready(lying, now, stage, step) and self.long_enough([lying.point], now, stage, step):
                found.append(lying)
        return found

    def chains(self, now: int, stage: int, step: dict[str, Any]) -> list[Lying]:
        labels = self.labels(now)
        chains: dict[int, list[Lying]] = {}
        for lying in self.on(stage - 1):
            root = lying
            while root.parent is not None:
                root = root.parent
            chains.setdefault(id(root), []).append(lying)
        moving: dict[int, Lying] = {}
        for members in chains.values():
            staying = [lying for lying in members if not any(later >= stage for later in lying.point.lies)]
            claimed = [lying for lying in staying if labels[id(lying.point)]]
            if not claimed or not all(self.ready(lying, now, stage, step) for lying in claimed):
                continue
            if not self.long_enough([lying.point for lying in claimed], now, stage, step):
                continue
            for lying in claimed:
                link: Lying | None = lying
                while link is not None and stage not in link.point.lies:
                    moving[id(link)] = link
                    link = link.parent
        return list(moving.values())

    def long_enough(self, points: list[Point], now: int, stage: int, step: dict[str, Any]) -> bool:
        """Whether the last of the points to be claimed stays as long as the target bills at least."""
        days = self.targets[stage].get("minimum_days", 0)
        if not days or not step.get("skip_if_short", True):
            return True
        if all((stage, id(point)) in self.too_short for point in points):
            return False
        end = calendar.plus(now, f"P{days}D", self.zone)
        if max(self.foreseen(self, point, now) for point in points) >= end:
            return True
        self.too_short |= {(stage, id(point)) for point in points} if not self.claims.holds else set()
        return False

    def sweep(self, now: int) -> None:
        labels = self.labels(now)
        for stage in range(len(self.targets)):
            while True:
                lying = self.on(stage)
                needed = {id(self.needs(one)) for one in lying}
                claimed = {id(one) for one in lying if labels[id(one.point)] and not one.left}
                going = [one for one in lying if id(one) not in claimed | needed and one.locked_until <= now]
                if not going:
                    break
                for one in going:
                    one.there = False

    def state(self, lying: Lying, labels: dict[int, set[str]], midnight: int) -> str:
        if labels[id(lying.point)] and not lying.left:
            return "kept"
        if lying.locked_until >= midnight:
            return "locked"
        return "needed" if any(self.needs(other) is lying for other in self.on(lying.stage)) else "due"
