"""`bench`: what reading and forecasting one design takes on this machine."""

import tracemalloc
from argparse import ArgumentParser, Namespace
from collections.abc import Callable
from time import perf_counter
from typing import TypeVar

from shelf_core.commands.common import design_argument, json_argument, read, write_json
from shelf_core.digits import grouped
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import forecast

T = TypeVar("T")


def arguments(parser: ArgumentParser) -> None:
    """A design, and how often."""
    design_argument(parser)
    parser.add_argument("--rounds", type=int, default=5, metavar="N", help="take the median of so many (5)")
    json_argument(parser)


def run(chosen: Namespace) -> int:
    """Print seconds, megabytes and how much there was to compute."""
    if not 1 <= chosen.rounds <= 1000:
        raise ValueError(f"expected 1 to {grouped(1000)} rounds, got {grouped(chosen.rounds)}")
    began = perf_counter()
    design = read(chosen.design)
    reading = perf_counter() - began
    rounds = range(chosen.rounds)
    cold = _median([_timed(lambda: forecast(design))[0] for _ in rounds])
    memory = Memory()
    forecast(design, memory)
    again = _median([_timed(lambda: forecast(design, memory))[0] for _ in rounds])
    tracemalloc.start()
    result = forecast(design)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    figures = {
        "workloads": len(design.workloads),
        "days": result.frame.days,
        "points_of_distinct_rules": sum(len(one.life) for one in result.holdings),
        "reading_seconds": reading,
        "forecast_seconds": cold,
        "forecast_again_seconds": again,
        "again_to_first_ratio": again / cold,
        "memory_at_its_peak_megabytes": peak / 1e6,
    }
    if chosen.json:
        write_json(figures)
    else:
        for name, value in figures.items():
            print(
                f"{name.replace('_', ' '):<32}{value:>14,.4g}"
                if isinstance(value, float)
                else f"{name.replace('_', ' '):<32}{value:>14,}"
            )
    return 0


def _timed(do: Callable[[], T]) -> tuple[float, T]:
    began = perf_counter()
    result = do()
    return perf_counter() - began, result


def _median(values: list[float]) -> float:
    return sorted(values)[len(values) // 2]
