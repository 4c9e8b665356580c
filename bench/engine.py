"""The engine on the demo design: cold, after one change, and beside what numpy needs to sort and add up as many events."""

import json
import time
import tracemalloc
from pathlib import Path
from statistics import median
from typing import Any

import numpy as np

from shelf_core.design.document import Design
from shelf_core.design.reading import design_of
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import Forecast, forecast

DEMO = Path(__file__).resolve().parent.parent / "demo" / "lindmoor.json"
ROUNDS = 7


def demo_forecast() -> dict[str, float]:
    """Milliseconds, and ratios of one run to another in the same process."""
    plain = json.loads(DEMO.read_text())
    design = read_demo()
    forecast(design)  # numpy and the zone are loaded once per process
    cold = _milliseconds(lambda: forecast(design))
    changes = [_with_recent(plain, points) for points in range(15, 15 + ROUNDS)]
    memory = Memory()
    result = forecast(design, memory)
    after_change = median(once(lambda changed=changed: forecast(changed, memory)) for changed in changes)
    floor = _milliseconds(lambda: _sort_and_add(_events(result)))
    tracemalloc.start()
    forecast(design)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return {
        "points of the demo, all holdings": float(sum(len(holding.life) for holding in result.holdings)),
        "demo forecast, cold (ms, median)": cold,
        "demo forecast after one changed ladder (ms, median)": after_change,
        "one changed ladder / cold (ratio)": after_change / cold,
        "cold / numpy sorting and adding as many events once (ratio)": cold / floor,
        "memory of a cold forecast at its peak (MB)": peak / 1e6,
    }


def read_demo() -> Design:
    """The demo design."""
    return design_of(json.loads(DEMO.read_text()))


def _with_recent(plain: dict[str, Any], points: int) -> Design:
    house = {**plain["ladders"][0], "recent": [{"keep": {"points": points}}]}
    return design_of({**plain, "ladders": [house, *plain["ladders"][1:]]})


def _events(result: Forecast) -> int:
    return 2 * sum(len(holding.life) for holding in result.holdings)


def _sort_and_add(count: int) -> None:
    values = np.random.default_rng(1).integers(0, 2**40, count)
    order = np.argsort(values, kind="stable")
    np.cumsum(values[order])


def _milliseconds(work: Any) -> float:
    return median(once(work) for _ in range(ROUNDS))


def once(work: Any) -> float:
    """How many milliseconds it takes to do something once."""
    began = time.perf_counter()
    work()
    return 1000 * (time.perf_counter() - began)
