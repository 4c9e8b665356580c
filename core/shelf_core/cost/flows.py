"""What is moved between targets: requests of each point, written and read (docs/model.md, Cost)."""

from collections.abc import Iterator
from functools import partial

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.design.targets import Target
from shelf_core.design.values import bytes_of
from shelf_core.engine.retention.holding import Holding
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.moves import move_basis, moved_of

ROUNDING = 1e-6
"""So much of a part is rounding, not a part."""


def requests_of(result: Forecast, holding: Holding, parts_of: Target) -> Bytes:
    """How many requests it takes to move each point, in parts of the size that `parts_of` asks for.

    Each workload's point is an object of its own, so the last part of each may be smaller.
    """
    part = bytes_of(parts_of.prices.part_size) if parts_of.prices else 0.0
    if part <= 0:
        return np.zeros(len(holding.life))
    compute = partial(_requests, result, holding, part)
    return holding.once(f"requests {part}", compute, move_basis(result, holding))


def _requests(result: Forecast, holding: Holding, part: float) -> Bytes:
    total = np.zeros(len(holding.life))
    for one, how_many in _each(holding):
        total += how_many * np.ceil(moved_of(result, one) / how_many / part - ROUNDING).clip(0)
    return total


def _each(holding: Holding) -> Iterator[tuple[Holding, int]]:
    for workload in holding.workloads:
        yield holding.of(workload), workload.count
