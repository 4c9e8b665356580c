"""What is moved between targets: bytes and requests of each point, written and read (docs/model.md, Cost)."""

from collections.abc import Iterator
from functools import partial

import numpy as np

from shelf_core.design.targets import Target
from shelf_core.design.values import bytes_of
from shelf_core.engine.frame import Frame
from shelf_core.engine.holdings import Holding
from shelf_core.engine.moved import moved_bytes
from shelf_core.engine.sizes import Bytes

ROUNDING = 1e-6
"""So much of a part is rounding, not a part."""


def moved_of(holding: Holding, came_from: Target | None, target: Target, frame: Frame) -> Bytes:
    """The bytes that each point of a holding moves, summed over its workloads."""
    both_shared = came_from is not None and came_from.packing == "shared" and target.packing == "shared"
    return holding.once(f"moved {both_shared}", partial(moved_bytes, holding, came_from, target, frame))


def requests_of(holding: Holding, came_from: Target | None, target: Target, parts_of: Target, frame: Frame) -> Bytes:
    """How many requests it takes to move each point, in parts of the size that `parts_of` asks for.

    Each workload's point is an object of its own, so the last part of each may be smaller.
    """
    part = bytes_of(parts_of.prices.part_size) if parts_of.prices else 0.0
    if part <= 0:
        return np.zeros(len(holding.life))
    return holding.once(f"requests {part}", partial(_requests, holding, came_from, target, part, frame))


def _requests(holding: Holding, came_from: Target | None, target: Target, part: float, frame: Frame) -> Bytes:
    total = np.zeros(len(holding.life))
    for one, how_many in _each(holding):
        total += how_many * np.ceil(moved_bytes(one, came_from, target, frame) / how_many / part - ROUNDING).clip(0)
    return total


def _each(holding: Holding) -> Iterator[tuple[Holding, int]]:
    for workload in holding.workloads:
        yield holding.of(workload), workload.count
