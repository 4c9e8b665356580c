"""Many distinct rules over many workloads: what the engine costs per rule, and what workloads add."""

import gc
import json
import sys
import time
import tracemalloc
from collections.abc import Callable
from functools import partial
from typing import Any

from shelf_core.design.document import Design
from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import Forecast, forecast

RULES = 200
WORKLOADS = (200, 10_000, 100_000)


def many_rules() -> dict[str, float]:
    """Seconds, points per rule and memory for 200 rules of three copies over ten years, by the number of workloads."""
    figures: dict[str, float] = {}
    first = None
    for count in WORKLOADS:
        design = design_of(rules_design(count))
        seconds, result = _timed(design)
        if first is None:
            first = seconds
            figures |= _points(result)
        figures[f"{RULES} rules, {count:,} workloads: forecast (s)"] = seconds
        if count != WORKLOADS[0]:
            figures[f"{RULES} rules, {count:,} workloads / {WORKLOADS[0]} workloads (ratio)"] = seconds / first
        del result
        gc.collect()
    for count in WORKLOADS:
        work = partial(forecast, design_of(rules_design(count)))
        figures[f"{RULES} rules, {count:,} workloads: memory at its peak (MB)"] = peak_megabytes(work)
    return figures


def rules_design(workloads: int, rules: int = RULES, years: int = 10) -> dict[str, Any]:
    """Rules that differ in cadence, ladder, lock and step-down; half follow, a quarter step down."""
    targets = [
        {"id": "near", "media": "disk", "site": "hall", "capacity": "90 PB", "packing": "separate"},
        {"id": "pool", "media": "disk", "site": "hall", "capacity": "90 PB", "packing": "shared"},
        {"id": "away", "media": "object", "site": "store", "packing": "separate"},
        {"id": "cold", "media": "object", "site": "store", "packing": "separate", "minimum_days": 180},
    ]
    return {
        "format": "rested-shelf-design",
        "version": 1,
        "name": f"{rules} rules",
        "timezone": "Europe/Oslo",
        "starts": "2027-01-01",
        "years": years,
        "sites": [{"id": "hall"}, {"id": "store"}],
        "targets": targets,
        "workloads": [_workload(place, rules) for place in range(workloads)],
        "cadences": [_cadence(place) for place in range(rules)],
        "ladders": [_ladder(place) for place in range(rules)],
        "routes": [_route(place) for place in range(rules)],
    }


def _workload(place: int, rules: int) -> dict[str, Any]:
    return {
        "id": f"w{place}",
        "site": "hall",
        "size": f"{50 + place % 400} GB",
        "daily_change_percent": 1 + (place // rules) % 4,
        "annual_growth_percent": 10 * (place // rules % 3),
        "reduction": 1.5,
        "tags": [f"rule{place % rules}"],
    }


def _cadence(place: int) -> dict[str, Any]:
    clock = f"{18 + place % 6:02}:{place // 6 % 60:02}"
    day = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")[place % 7]
    return {
        "id": f"c{place}",
        "runs": [
            {"id": "full", "kind": "full", "rrule": f"FREQ=WEEKLY;BYDAY={day}", "at": [clock]},
            {"id": "night", "kind": "incremental", "rrule": "FREQ=DAILY", "at": [clock]},
        ],
    }


def _ladder(place: int) -> dict[str, Any]:
    return {
        "id": f"l{place}",
        "recent": [{"keep": {"points": 7 + place % 30}} if place % 2 else {"keep": f"P{14 + place % 40}D"}],
        "rungs": [
            {"name": "weekly", "every": "week", "keep": {"periods": 4 + place % 9}},
            {"name": "monthly", "every": "month", "pick": "last" if place % 3 == 0 else "first", "keep": {"periods": 12}},
            {"name": "yearly", "every": "year", "keep": f"P{3 + place % 5}Y"},
        ],
    }


def _route(place: int) -> dict[str, Any]:
    rule = {"ladder": f"l{place}"}
    lock = {"lock": {"for": f"P{7 + place % 23}D"}}
    first = {"id": "near", "target": "near", "cadence": f"c{place}", **rule}
    if place % 4 == 0:
        first["step_downs"] = [{"after": f"P{40 + place % 20}D", "target": "cold"}]
    second: dict[str, Any] = {"id": "away", "target": "away", "from": "near", **rule, **lock}
    third: dict[str, Any] = {"id": "pool", "target": "pool", "from": "near", **rule}
    if place % 2:
        return _with_route(place, [first, {**second, "delay": "PT4H"}, {**third, "delay": "PT6H"}])
    return _with_route(place, [first, {**second, "cadence": f"c{place}"}, {**third, "cadence": f"c{place}"}])


def _with_route(place: int, copies: list[dict[str, Any]]) -> dict[str, Any]:
    return {"id": f"r{place}", "workloads": {"tags": [f"rule{place}"]}, "copies": copies}


def _points(result: Forecast) -> dict[str, float]:
    per_rule: dict[str, int] = {}
    for holding in result.holdings:
        per_rule[holding.route] = per_rule.get(holding.route, 0) + len(holding.life)
    return {
        f"{RULES} rules: points per rule, least": float(min(per_rule.values())),
        f"{RULES} rules: points per rule, most": float(max(per_rule.values())),
        f"{RULES} rules: points in all": float(sum(per_rule.values())),
    }


def _timed(design: Design) -> tuple[float, Forecast]:
    gc.collect()
    began = time.perf_counter()
    result = forecast(design)
    return time.perf_counter() - began, result


def peak_megabytes(work: Callable[[], Any]) -> float:
    """The most memory that work has at a time beside what was there before, by Python's own count."""
    tracemalloc.start()
    work()
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return peak / 1e6


if __name__ == "__main__":
    json.dump(many_rules(), sys.stdout, indent=1)
