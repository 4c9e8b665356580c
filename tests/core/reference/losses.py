"""Losses read slowly: what lay where at an instant, one point after another, and what a case would have left of it."""

from collections.abc import Iterator
from typing import Any

from tests.core.reference import calendar
from tests.core.reference.ladder import listed
from tests.core.reference.proof import SlowDuty, Stretch, chains, lies_beside_source


class SlowLoss:
    """What a case leaves of a workload, by what the simulation of the rules says lies where.

    Tapes are read as if each run had cartridges of its own that leave as it ends.
    """

    def __init__(self, design: dict[str, Any], found: list[Stretch], workload: dict[str, Any], case: dict[str, Any]) -> None:
        self.design, self.found, self.workload, self.case = design, found, workload, case
        self.clock = SlowDuty(design, found, workload, {})
        self.by_lying = {id(one.lying): one for one in found}
        lost = case.get("lost", {})
        self.sites = set(lost.get("sites", ()))
        self.targets = set(lost.get("targets", ())) | {one["id"] for one in design["targets"] if one["site"] in self.sites}
        self.source = lost.get("source", True) and (not self.sites or workload["site"] in self.sites)

    def on(self, day: int) -> tuple[int | None, int]:
        """At the end of a day the newest moment that is left, and how many moments are."""
        instant = self.clock.midnight(day + 1)
        asked = self.clock.back(instant, self.case["unnoticed"]) if "unnoticed" in self.case else instant
        newest, moments = [], set()
        for point, logs in chains([one for one in self.found if self.is_left(one, instant)]):
            if point.taken > asked:
                continue
            newest.append(max([point.taken, *(min(log.taken, asked) for log in logs)]))
            moments |= {one.taken for one in (point, *logs) if one.taken <= asked}
        return max(newest, default=None), len(moments)

    def is_left(self, one: Stretch, instant: int) -> bool:
        if not one.there(instant) or (lies_beside_source(one) and self.source):
            return False
        return all(self.is_spared(needed, instant) for needed in self.needed(one))

    def needed(self, one: Stretch) -> Iterator[Stretch]:
        """A point with all that it needs on its target, link by link."""
        yield one
        if one.is_log or not one.copy.shared(one.lying.stage):
            parent = one.lying.parent
            if parent is not None and id(parent) in self.by_lying:
                yield from self.needed(self.by_lying[id(parent)])

    def is_spared(self, one: Stretch, instant: int) -> bool:
        is_away = "returns_after" in one.target
        if is_away and one.target.get("away_site") in self.sites:
            return False
        if one.target["id"] in self.targets:
            return is_away
        intruder = self.case.get("intruder")
        if intruder is None or one.target.get("account") not in intruder["accounts"] or is_away:
            return True
        return any(self.is_locked(other, instant, intruder) for other in self.found if one in self.needed(other))

    def is_locked(self, one: Stretch, instant: int, intruder: dict[str, Any]) -> bool:
        """Whether one of a point's own locks stands against the intruder."""
        document, stage, kept = one.copy.document, one.lying.stage, one.target.get("lock", "none")
        locks = listed(document.get("lock") if stage == 0 else document["step_downs"][stage - 1].get("lock"))
        for lock in locks:
            is_final = lock["mode"] == "final" and kept == "final"
            if kept == "none" or (intruder.get("rights", "account") == "special" and not is_final):
                continue
            point = one.lying.point
            if point.kind not in lock.get("kinds", [point.kind]) or point.run not in lock.get("runs", [point.run]):
                continue
            if one.lying.came < instant <= calendar.plus(one.lying.came, lock["for"], self.design["timezone"]):
                return True
        return False
