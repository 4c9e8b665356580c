"""Duties read slowly: what lay where from when until when, noted by the simulation, judged instant by instant.

It shares nothing with the core: points are those of the simulation, times those of its calendar.
"""

from collections.abc import Iterator
from datetime import datetime, time, timedelta
from itertools import pairwise
from typing import Any

from tests.core.reference import calendar, simulation
from tests.core.reference.copies import Copy
from tests.core.reference.ladder import chosen
from tests.core.reference.points import Lying

FOREVER = 10**12


class Noting(Copy):
    """A copy that notes when each of its points went."""

    def __init__(self, *given: Any) -> None:
        super().__init__(*given)
        self.went: dict[int, int] = {}

    def sweep(self, now: int) -> None:
        self._noted(now, lambda: super(Noting, self).sweep(now))

    def write_over(self) -> None:
        before = {id(one): (copy, one) for copy in self.alike for one in copy.on(0)}
        super().write_over()
        for key, (copy, one) in before.items():
            if not one.there:
                copy.went[key] = self.written[-1].written  # type: ignore[attr-defined]

    def _noted(self, now: int, act: Any) -> None:
        before = [one for stage in range(len(self.targets)) for one in self.on(stage)]
        act()
        for one in before:
            if not one.there:
                self.went[id(one)] = now


class Stretch:
    """A point on one stage: it can be restored from after `came` until `went`."""

    def __init__(self, copy: Noting, lying: Lying) -> None:
        self.copy, self.lying = copy, lying
        self.target = copy.targets[lying.stage]
        self.taken, self.is_log = lying.point.taken, lying.stored_as == "log"
        self.came, self.went = lying.came, copy.went.get(id(lying), FOREVER)
        needed = lying.parent if not self.is_log and not copy.shared(lying.stage) else None
        while needed is not None:
            self.came = max(self.came, needed.came)
            self.went = min(self.went, copy.went.get(id(needed), FOREVER))
            needed = needed.parent

    def there(self, instant: int) -> bool:
        return self.came < instant <= self.went


def stretches(design: dict[str, Any], days: int, workload: str) -> list[Stretch]:
    """All that ever lies of a workload, as if the design ran on for so many days."""
    return stretches_of_all(design, days)[workload]


def stretches_of_all(design: dict[str, Any], days: int) -> dict[str, list[Stretch]]:
    """All that ever lies, by workload."""
    before = simulation.Copy
    simulation.Copy = Noting  # type: ignore[misc]
    try:
        slow = simulation.simulate(design, days, set())
    finally:
        simulation.Copy = before  # type: ignore[misc]
    found: dict[str, list[Stretch]] = {one["id"]: [] for one in design["workloads"]}
    for copy in slow.copies:
        found[copy.workload["id"]] += [Stretch(copy, lying) for point in copy.written for lying in point.lies.values()]
    return found


def chains(there: list[Stretch]) -> Iterator[tuple[Stretch, list[Stretch]]]:
    """Each point that is there with the logs that go on from it, over newer points, as long as none is missing."""
    for point in (one for one in there if not one.is_log):
        logs = [one for one in there if one.is_log and one.copy is point.copy and one.lying.stage == point.lying.stage]
        reached, chain = [], {id(point.lying.point)}
        for log in sorted(logs, key=lambda one: one.taken):
            parent = log.lying.point.parent
            before = None if parent is None else log_before(log, parent)
            if parent is not None and (id(parent) in chain or (before is not None and id(before) in chain)):
                chain.add(id(log.lying.point))
                reached.append(log)
        yield point, reached


def log_before(log: Stretch, parent: Any) -> Any:
    """The newest log before a log's parent, where that is none."""
    if parent.kind == "log":
        return None
    earlier = [one for one in log.copy.written if one.kind == "log" and one.taken <= parent.taken]
    return max(earlier, key=lambda one: one.taken, default=None)


def lies_beside_source(one: Stretch) -> bool:
    """Whether it is a snapshot on the source's own storage."""
    return one.target["media"] == "snapshot" and not one.copy.replicates()


class SlowDuty:
    """One ask of one workload, judged day by day."""

    def __init__(self, design: dict[str, Any], found: list[Stretch], workload: dict[str, Any], ask: dict[str, Any]) -> None:
        self.design, self.workload, self.ask, self.zone = design, workload, ask, design["timezone"]
        counted = ask.get("counted", {})
        self.all = found
        self.found = [one for one in found if self.counts(one, counted)]

    def counts(self, one: Stretch, counted: dict[str, Any]) -> bool:
        media = counted.get("media")
        if lies_beside_source(one) and not (media and "snapshot" in media):
            return False
        if media is not None and one.target["media"] not in media:
            return False
        return not counted.get("off_site") or one.target["site"] != self.workload["site"]

    def midnight(self, day: int) -> int:
        first = datetime.fromisoformat(self.design["starts"])
        return calendar.instant(datetime.combine((first + timedelta(days=day)).date(), time()), self.zone)

    def back(self, instant: int, duration: str) -> int:
        months, days, seconds = calendar.parts(duration)
        local = calendar.local(instant, self.zone).replace(tzinfo=None)
        month = local.year * 12 + local.month - 1 - months
        day = calendar.clipped(month // 12, month % 12 + 1, local.day)
        moved = datetime.combine(day, local.time()) - timedelta(days=days)
        return calendar.instant(moved, self.zone) - seconds

    def plus(self, instant: int, duration: str) -> int:
        return calendar.plus(instant, duration, self.zone)

    def reached(self, instant: int) -> list[tuple[int, int]]:
        """From each point that is there the moments that it reaches: its own, and to the last of its unbroken logs."""
        found = chains([one for one in self.found if one.there(instant)])
        return [(point.taken, max([point.taken, *(log.taken for log in logs)])) for point, logs in found]

    def days(self, count: int) -> Iterator[tuple[int, bool, Any]]:
        """Each day with whether the ask holds, and its value."""
        begins = self.midnight(0)
        if "from" in self.workload:
            first = datetime.fromisoformat(self.workload["from"])
            begins = calendar.instant(first, self.zone)
        since = begins if "gone_after" in self.ask else self.plus(begins, "P7D")
        for day in range(count):
            end = self.midnight(day + 1)
            if end <= since or ("until" in self.workload and self.date(day) > self.workload["until"]):
                continue
            yield day, *self.judge(day, max(self.midnight(day), since), end)

    def date(self, day: int) -> str:
        return (datetime.fromisoformat(self.design["starts"]) + timedelta(days=day)).date().isoformat()

    def judge(self, day: int, begin: int, end: int) -> tuple[bool, Any]:
        if "rpo" in self.ask:
            return self.age(begin, end)
        if "history" in self.ask:
            return self.history(end)
        if "copies" in self.ask:
            return self.copies(end)
        return self.gone(self.midnight(day), end)

    def age(self, begin: int, end: int) -> tuple[bool, Any]:
        changes = {edge for one in self.found for edge in (one.came, one.went) if begin <= edge < end}
        worst, holds = 0, True
        for instant in sorted({begin, end, *changes}):
            newest = max((reach for _, reach in self.reached(instant)), default=None)
            if newest is None:
                return False, "nothing"
            worst = max(worst, instant - newest)
            holds = holds and self.plus(newest, self.ask["rpo"]) >= instant
        return holds, worst

    def history(self, end: int) -> tuple[bool, Any]:
        ever = [one for one in self.found if one.came < end and one.came < one.went]
        if not ever:
            return False, "nothing"
        begin = max(self.back(end, self.ask["history"]), min(one.taken for one in self.found if one.came < one.went))
        every = self.ask["every"]
        if every.startswith("P"):
            gap = self.gap(begin, end, every)
            return gap == 0, gap
        empty = self.empty(begin, end, every)
        return empty == 0, empty

    def gap(self, begin: int, end: int, every: str) -> int:
        spans = [(taken, max(self.plus(taken, every), reach)) for taken, reach in self.reached(end)]
        edges = sorted({begin, end, *(edge for span in spans for edge in span if begin <= edge <= end)})
        longest, run = 0, 0
        for one, other in pairwise(edges):
            middle = (one + other) / 2
            run = 0 if any(first <= middle <= last for first, last in spans) else run + other - one
            longest = max(longest, run)
        return longest

    def empty(self, begin: int, end: int, every: str) -> int:
        """Periods that lie whole between two instants and hold no moment, by walking from hour to hour of the wall clock."""
        week = self.design.get("week_starts", "MO")
        held = set()
        for one in self.found:
            if one.there(end) and (not one.is_log or self.is_reached(one, end)):
                held.add(calendar.period(calendar.local(one.taken, self.zone), every, week))
        periods: dict[tuple[int, ...], None] = {}
        hour = calendar.local(begin, self.zone).replace(tzinfo=None)
        last = calendar.local(end, self.zone).replace(tzinfo=None)
        inside = hour
        while inside < last:
            periods[calendar.period(inside, every, week)] = None
            inside += timedelta(hours=1)
        before = calendar.period(hour - timedelta(seconds=1), every, week)
        after = calendar.period(last, every, week)
        whole = [one for one in periods if one not in (before, after)]
        return sum(one not in held for one in whole)

    def is_reached(self, log: Stretch, end: int) -> bool:
        mine = [one for one in self.found if one.copy is log.copy and one.lying.stage == log.lying.stage]
        alone = SlowDuty(self.design, mine, self.workload, self.ask)
        return any(taken <= log.taken <= reach for taken, reach in alone.reached(end))

    def copies(self, end: int) -> tuple[bool, Any]:
        targets = {}
        for one in self.found:
            if one.there(end) and not one.is_log and not lies_beside_source(one):
                targets.setdefault(one.target["id"], []).append(one)
        fresh = self.ask.get("fresh")
        counted = [
            found[0].target
            for found in targets.values()
            if fresh is None or self.plus(max(one.taken for one in found), fresh) >= end
        ]
        media = {"disk", *(target["media"] for target in counted)}
        value = (1 + len(counted), len(media), sum(target["site"] != self.workload["site"] for target in counted))
        asked = (self.ask["copies"], self.ask.get("media", 0), self.ask.get("off_site", 0))
        return all(mine >= wanted for mine, wanted in zip(value, asked, strict=True)), value

    def gone(self, begin: int, end: int) -> tuple[bool, Any]:
        late = [
            end - self.plus(one.taken, self.ask["gone_after"])
            for one in self.all
            if one.lying.came < end <= one.copy.went.get(id(one.lying), FOREVER)
            and self.plus(one.taken, self.ask["gone_after"]) < begin
        ]
        return not late, max(late, default=0)


def workloads_of(design: dict[str, Any], selection: dict[str, Any]) -> list[dict[str, Any]]:
    """The workloads that a selection names."""
    return [one for one in design["workloads"] if chosen(one, selection)]
