"""Bytes of the reference, straight from the formulas."""

from datetime import datetime
from functools import lru_cache
from itertools import pairwise
from typing import Any

from tests.core.reference import calendar

UNITS = {"TB": 10**12, "GB": 10**9, "TiB": 2**40, "GiB": 2**30}


def unit(size: Any) -> float:
    if not isinstance(size, str):
        return float(size)
    number, name = size.split()
    return float(number) * UNITS[name]


def source_bytes(workload: dict[str, Any], design: dict[str, Any], at: int) -> float:
    growth = 1 + workload.get("annual_growth_percent", 0) / 100
    days = (at - midnight(design["starts"], design)) / 86_400
    size = unit(workload["size"]) * growth ** (days / 365)
    for step in workload.get("steps", ()):
        since = at - midnight(step["on"], design)
        if since >= 0:
            size += unit(step["add"]) * growth ** (since / 86_400 / 365)
    size += unit(workload.get("annual_growth", 0)) * days / 365
    return max(size, 0.0)


def share(workload: dict[str, Any], seconds: int) -> float:
    days, daily = seconds / 86_400, workload.get("daily_change_percent", 0) / 100
    if workload.get("change_pattern") == "fresh":
        return min(1.0, daily * days)
    hot = workload.get("hot_percent", 100) / 100
    return hot * (1 - (1 - daily / hot) ** days)


def changed(workload: dict[str, Any], design: dict[str, Any], before: int, after: int) -> float:
    was, became = source_bytes(workload, design, before), source_bytes(workload, design, after)
    if workload.get("change_pattern") == "fresh":
        return max(was * share(workload, after - before), became - was)
    return was * share(workload, after - before) + max(0.0, became - was)


@lru_cache(maxsize=10_000)
def midnight_of(day: str, zone: str) -> int:
    return calendar.instant(datetime.fromisoformat(day), zone)


def midnight(day: str, design: dict[str, Any]) -> int:
    return midnight_of(day, design["timezone"])


def held_on(target: dict[str, Any], design: dict[str, Any], copies: list[Any], now: int) -> float:
    """All that lies on a target at a moment."""
    if target["media"] == "snapshot":
        return sum(snapshots(copy, stage, design, now) for copy, stage in stages_on(target, copies))
    if target.get("packing") != "shared":
        return sum(
            copy.workload.get("count", 1) * size(copy.workload, design, lying)
            for copy, stage in stages_on(target, copies)
            for lying in copy.on(stage)
        )
    return shared(target, design, copies)


def stages_on(target: dict[str, Any], copies: list[Any]) -> list[tuple[Any, int]]:
    return [(copy, stage) for copy in copies for stage, one in enumerate(copy.targets) if one["id"] == target["id"]]


def shared(target: dict[str, Any], design: dict[str, Any], copies: list[Any]) -> float:
    total, common = 0.0, {}
    for workload in design["workloads"]:
        count = workload.get("count", 1)
        lying = [one for copy, stage in stages_on(target, copies) if copy.workload is workload for one in copy.on(stage)]
        total += count * sum(log_size(workload, one.point) for one in lying if one.stored_as == "log")
        times = sorted(one.point.taken for one in lying if one.stored_as != "log")
        if not times:
            continue
        full = source_bytes(workload, design, times[0]) / workload.get("reduction", 1)
        like = workload.get("alike", {"group": None, "percent": 0})
        total += count * (1 - like["percent"] / 100) * full
        common.setdefault(like["group"], []).append(like["percent"] / 100 * full)
        changes = sum(changed(workload, design, a, b) for a, b in pairwise(times))
        total += count * changes / workload.get("change_reduction", workload.get("reduction", 1))
    return total + sum(max(shares) for shares in common.values())


def snapshots(copy: Any, stage: int, design: dict[str, Any], now: int) -> float:
    workload = copy.workload
    times = sorted(lying.point.taken for lying in copy.on(stage))
    is_fresh, replicates = workload.get("change_pattern") == "fresh", copy.replicates()
    until = times if replicates else [*times, now]
    held = 0.0 if is_fresh else sum(source_bytes(workload, design, a) * share(workload, b - a) for a, b in pairwise(until))
    if replicates and times:
        held += source_bytes(workload, design, times[-1])
    return workload.get("count", 1) * held


def log_size(workload: dict[str, Any], point: Any) -> float:
    per_second = unit(workload.get("log_per_day", 0)) / 86_400
    change_reduction = workload.get("change_reduction", workload.get("reduction", 1))
    return per_second * (point.taken - point.parent.taken) / change_reduction


def size(workload: dict[str, Any], design: dict[str, Any], lying: Any, *, by_formula: bool = False) -> float:
    point, reduction = lying.point, workload.get("reduction", 1)
    change_reduction = workload.get("change_reduction", reduction)
    if not by_formula and point.given is not None and (lying.stored_as == point.kind or point.kind in ("full", "synthetic")):
        return point.given
    if lying.stored_as == "log":
        return log_size(workload, point)
    if lying.stored_as in ("differential", "incremental"):
        return changed(workload, design, point.parent.taken, point.taken) / change_reduction
    return source_bytes(workload, design, point.taken) / reduction


def replicated(copy: Any, point: Any, design: dict[str, Any]) -> float:
    """What a replica brings over the way; a snapshot beside its source nothing."""
    if not copy.replicates():
        return 0.0
    there = [one.point.taken for one in copy.on(0) if one.point is not point and one.point.taken < point.taken]
    if there:
        return changed(copy.workload, design, max(there), point.taken)
    return source_bytes(copy.workload, design, point.taken)


def moved(copy: Any, lying: Any, design: dict[str, Any], copies: list[Any]) -> float:
    """What the arrival of a point at a target brings there, for all machines; asked when it has just come."""
    workload, point, target = copy.workload, lying.point, copy.targets[lying.stage]
    if point.run == "opening" and lying.stage == 0:
        return 0.0
    if lying.stored_as == "snapshot":
        return workload.get("count", 1) * replicated(copy, point, design)
    sources = copy.targets[lying.stage - 1 : lying.stage] if lying.stage else copy.source.targets[:1] if copy.source else []
    packings = [(one.get("packing"), one["media"] == "snapshot") for one in (*sources, target)]
    older = []
    if lying.stored_as != "log" and packings == [("shared", False)] * 2:
        there = [one for other, stage in stages_on(target, copies) if other.workload is workload for one in other.on(stage)]
        older = [
            one.point.taken for one in there if one is not lying and one.stored_as != "log" and one.point.taken <= point.taken
        ]
    elif lying.stored_as == "synthetic":
        older = [one.point.taken for one in copy.on(lying.stage) if one.stored_as != "log" and one.point.taken < point.taken]
    if older:
        amount = changed(workload, design, max(older), point.taken)
        amount /= workload.get("change_reduction", workload.get("reduction", 1))
    else:
        by_formula = lying.stage == 0 or target.get("packing") == "shared"
        amount = size(workload, design, lying, by_formula=by_formula)
    return workload.get("count", 1) * amount
