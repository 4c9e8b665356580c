"""Claims of the reference: asked anew at each moment, from all that has been written until then."""

from collections.abc import Callable
from datetime import datetime, time, timedelta
from typing import Any

from tests.core.reference import calendar
from tests.core.reference.points import Point

FULLS = ("full", "synthetic")
Labels = dict[int, set[str]]


class Claims:
    """What a ladder or rotation, and holds, claim on one copy of one workload."""

    def __init__(
        self,
        design: dict[str, Any],
        workload: dict[str, Any],
        copy: dict[str, Any],
        ladder: dict[str, Any] | None,
        shared: bool,
    ) -> None:
        self.design, self.workload, self.copy, self.ladder, self.shared = design, workload, copy, ladder, shared
        self.zone, self.weeks = design["timezone"], design.get("week_starts", "MO")
        locks = [*listed(copy.get("lock")), *(lock for step in copy.get("step_downs", ()) for lock in listed(step.get("lock")))]
        self.floor = (ladder or {}).get("floor", 1) if all(lock["for"] != "kept" for lock in locks) else 0
        self.sessions: Callable[[int], list[int]] = lambda _now: []
        self.holds = [hold for hold in design.get("holds", ()) if chosen(workload, hold["workloads"])]

    def labels(self, written: list[Point], now: int) -> Labels:
        """The labels that claim each point at a moment, by the identity of the point."""
        written = [point for point in written if point.written <= now]
        found: Labels = {id(point): set() for point in written}
        if self.ladder is None:
            self.label(found, self.newest_sessions(written, now), "rotation")
            return found
        for point in written:
            if any(self.begin(hold["placed"]) <= now < self.end(hold) for hold in point.holds):
                found[id(point)].add("hold")
        points = [point for point in written if point.kind != "log"]
        newest = sorted(points, key=lambda point: -point.taken)
        self.label(found, newest[: self.floor], "recent")
        for rule in self.ladder.get("recent", ()):
            self.label(found, self.kept(narrowed(newest, rule), rule["keep"], now), "recent")
        self.rungs(found, points, now)
        self.logs(found, written, points, now)
        return found

    def kept(self, newest: list[Point], keep: Any, now: int) -> list[Point]:
        if keep == "forever":
            return newest
        if isinstance(keep, dict) and "superseded" in keep:
            return self.not_superseded(newest, 1 + keep["superseded"].get("extra", 0), now)
        if isinstance(keep, dict):
            return newest[: keep["points"]]
        return [point for point in newest if now < calendar.plus(point.taken, keep, self.zone)]

    def not_superseded(self, newest: list[Point], enough: int, now: int) -> list[Point]:
        found = []
        for place, point in enumerate(newest):
            for part in self.parts(point, now):
                if sum(part in self.parts(other, 0) for other in newest[:place]) < enough:
                    found.append(point)
                    break
        return found

    def parts(self, point: Point, now: int) -> list[str]:
        """The parts that a point holds and that still count at a moment. Without parts a workload is one itself."""
        members = self.workload.get("members") or [{"id": ""}]
        day = calendar.local(point.taken, self.zone).date().isoformat()
        held = []
        for member in members:
            offline = any(begins <= day <= ends for begins, ends in member.get("offline", ()))
            closed = member.get("closed_from", "9999-12-31")
            if offline or day >= closed or now >= self.let_go(member):
                continue
            held.append(member["id"])
        return held

    def let_go(self, member: dict[str, Any]) -> int:
        keep = member.get("keep_closed")
        if "closed_from" not in member or keep is True:
            return 10**12
        return self.begin(max(keep or "", member["closed_from"]))

    def rungs(self, found: Labels, points: list[Point], now: int) -> None:
        for rung in self.ladder.get("rungs", ()):
            picks = self.picks(rung, points)
            if isinstance(rung["keep"], dict):
                newest = sorted(picks, reverse=True)[: rung["keep"]["periods"]]
                kept = [picks[one] for one in newest]
            else:
                kept = self.kept(list(picks.values()), rung["keep"], now)
            self.label(found, kept, rung["name"])

    def picks(self, rung: dict[str, Any], points: list[Point]) -> dict[tuple[int, ...], Point]:
        """The pick of each period among the points written so far."""
        origin = rung.get("from", "self-contained")
        by_period: dict[tuple[int, ...], list[Point]] = {}
        for point in points:
            if origin not in ("self-contained", "any"):
                eligible = origin in point.picked_by
            else:
                eligible = origin == "any" or self.shared or point.kind in (*FULLS, "snapshot")
            moment = calendar.local(point.taken, self.zone)
            if eligible and ("on" not in rung or calendar.reaches(moment, rung["every"], rung["on"], self.weeks)):
                by_period.setdefault(calendar.period(moment, rung["every"], self.weeks), []).append(point)
        choose = max if rung.get("pick") == "last" else min
        return {name: choose(members, key=lambda point: point.taken) for name, members in by_period.items()}

    def note_picks(self, point: Point, written: list[Point]) -> None:
        """Which rungs pick a point as it is written: what is promoted goes by that."""
        if not (self.ladder or {}).get("rungs") or point.kind == "log":
            return
        points = [one for one in written if one.kind != "log"]
        for rung in self.ladder.get("rungs", ()):
            if any(pick is point for pick in self.picks(rung, points).values()):
                point.picked_by.add(rung["name"])

    def settled(self, label: str, point: Point, now: int) -> bool:
        """Whether the pick of a rung can change no more: at once with `first`, with `last` when the period is over."""
        rung = next((one for one in (self.ladder or {}).get("rungs", ()) if one["name"] == label), None)
        if rung is None:
            return False
        return rung.get("pick", "first") == "first" or self.period_end(rung, point) <= now

    def period_end(self, rung: dict[str, Any], point: Point) -> int:
        moment = calendar.local(point.taken, self.zone)
        mine = calendar.period(moment, rung["every"], self.weeks)
        if rung["every"] == "hour":
            ends = moment.replace(minute=0, second=0) + timedelta(hours=1)
            return calendar.instant(ends, self.zone)
        day = moment.date()
        while calendar.period(datetime.combine(day, time()), rung["every"], self.weeks) == mine:
            day += timedelta(days=1)
        return calendar.instant(datetime.combine(day, time()), self.zone)

    def logs(self, found: Labels, written: list[Point], points: list[Point], now: int) -> None:
        for log in (point for point in written if point.kind == "log"):
            if "logs" in self.ladder:
                claims_it = now < calendar.plus(log.taken, self.ladder["logs"], self.zone)
            else:
                claims_it = log.goes_with is not None and bool(found[id(log.goes_with)])
            self.label(found, [log] if claims_it else [], "log")

    def newest_sessions(self, written: list[Point], now: int) -> list[Point]:
        """The points whose set has not been written to since."""
        sessions = self.sessions(now)
        lies_in = {at: self.set_of(place, at) for place, at in enumerate(sessions)}
        years = sorted({name[1] for name in lies_in.values() if isinstance(name, tuple) and name[0] == "year"})
        for at, name in lies_in.items():
            if isinstance(name, tuple) and name[0] == "year":
                lies_in[at] = ("year", years.index(name[1]) % self.copy["rotation"]["years"])
        newest = {name: at for at, name in lies_in.items()}
        return [point for point in written if newest[lies_in[point.written]] == point.written]

    def set_of(self, place: int, at: int) -> Any:
        rotation = self.copy["rotation"]
        if rotation["scheme"] == "fifo":
            return place % rotation["sets"]
        if rotation["scheme"] == "hanoi":
            number, ruler = place + 1, 1
            while number % 2 == 0:
                number, ruler = number // 2, ruler + 1
            return min(rotation["sets"], ruler)
        day = calendar.local(at, self.zone).date()
        names = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"]
        if names[day.weekday()] != rotation["weekly_on"]:
            return names[day.weekday()]
        if (day + timedelta(days=7)).month == day.month:
            return ("week", (day.day - 1) // 7)
        if day.month == 12 and rotation.get("years"):
            return ("year", day.year)
        return ("month", day.month)

    def release(self, written: list[Point], point: Point, now: int) -> int:
        """When a point that is claimed at a moment first stops being claimed, knowing all that is ever written."""
        moments = {one.written for one in written} | {10**12}
        for keep in self.durations():
            moments.add(calendar.plus(point.taken, keep, self.zone))
        if point.goes_with is not None:
            moments |= {calendar.plus(point.goes_with.taken, keep, self.zone) for keep in self.durations()}
        for hold in self.holds:
            moments |= {self.begin(hold["placed"]), self.end(hold)}
        moments |= {self.let_go(member) for member in self.workload.get("members", ())}
        later = sorted(moment for moment in moments if moment > now)
        low, high = 0, len(later) - 1
        if self.holds:
            return next((one for one in later if not self.labels(written, one)[id(point)]), 10**12)
        # A claim of a ladder that has ended does not begin again, so the end may be looked for by halving.
        if self.labels(written, later[high])[id(point)]:
            return 10**12
        while low < high:
            middle = (low + high) // 2
            if self.labels(written, later[middle])[id(point)]:
                low = middle + 1
            else:
                high = middle
        return later[low]

    def durations(self) -> list[str]:
        if self.ladder is None:
            return []
        keeps = [rule["keep"] for rule in (*self.ladder.get("recent", ()), *self.ladder.get("rungs", ()))]
        return [keep for keep in (*keeps, self.ladder.get("logs")) if isinstance(keep, str) and keep != "forever"]

    def begin(self, day: str) -> int:
        return calendar.instant(datetime.fromisoformat(day), self.zone)

    def end(self, hold: dict[str, Any]) -> int:
        return self.begin(hold["released"]) if hold.get("released") else 10**12

    def asked_for(self, hold: dict[str, Any], point: Point) -> bool:
        """Whether a point was taken between the two dates of a hold."""
        return hold["taken_from"] <= calendar.local(point.taken, self.zone).date().isoformat() <= hold["taken_to"]

    @staticmethod
    def label(found: Labels, points: list[Point], label: str) -> None:
        for point in points:
            found[id(point)].add(label)


def narrowed(points: list[Point], rule: dict[str, Any]) -> list[Point]:
    found = [point for point in points if point.run in rule.get("runs", [point.run])]
    return [point for point in found if point.kind in rule.get("kinds", [point.kind])]


def listed(value: Any) -> list[Any]:
    return value if isinstance(value, list) else [] if value is None else [value]


def chosen(workload: dict[str, Any], selection: dict[str, Any]) -> bool:
    return workload.get("like", workload["id"]) in selection.get("ids", ()) or bool(
        set(workload.get("tags", ())) & set(selection.get("tags", ()))
    )
