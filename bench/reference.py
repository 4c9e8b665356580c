"""The engine beside the event-by-event simulation that it is tested against, on the same small design."""

import json
import time

from bench.rules import peak_megabytes, rules_design
from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from tests.core.reference.simulation import simulate

DAYS = 365
FEW_DAYS = 60
"""The count of memory slows the simulation, which holds little more after a year."""
ROUNDS = 5


def beside_the_simulation() -> dict[str, float]:
    """Seconds of both for a year of two rules with three copies each, and how many times as fast the engine is."""
    document = rules_design(workloads=2, rules=2, years=1)
    began = time.perf_counter()
    simulate(json.loads(json.dumps(document)), DAYS, set())
    slow = time.perf_counter() - began
    design = design_of(document)
    forecast(design)
    began = time.perf_counter()
    for _ in range(ROUNDS):
        forecast(design)
    fast = (time.perf_counter() - began) / ROUNDS
    return {
        "simulation of a small design (s)": slow,
        "engine on the same design (s)": fast,
        "simulation / engine (ratio)": slow / fast,
        "engine on the same design: memory at its peak (MB)": peak_megabytes(lambda: forecast(design)),
        f"simulation of its first {FEW_DAYS} days: memory at its peak (MB)": peak_megabytes(
            lambda: simulate(document, FEW_DAYS, set())
        ),
    }
