"""Bytes of the reference, straight from the formulas."""

from datetime import datetime
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


def midnight(day: str, design: dict[str, Any]) -> int:
    return calendar.instant(datetime.fromisoformat(day), design["timezone"])
