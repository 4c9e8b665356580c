"""Until when what has gone can still be read: stranded on a cartridge, or waiting for a reclaim."""

import numpy as np

from shelf_core.arrays import Instants
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.design.targets import Target
from shelf_core.design.values import duration_of
from shelf_core.engine.schedule.frame import AFTER_ALL
from shelf_core.engine.schedule.sweeps import reclaims_of
from shelf_core.engine.volume.ledger import PHASES
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.cartridges import TapeLayout
from shelf_core.proof.lying import Lying


def remains_until(result: Forecast, lying: Lying, layout: TapeLayout, free_at: list[int]) -> Instants:
    """Until when the bytes of each point of a stage are there, whether or not it is there as a point.

    `free_at` says by cartridge when it can be used again, as `free_again` has it.
    """
    removed = lying.holding.life.removed
    instants = reclaims_of(lying.target.reclaim, result.frame)
    if instants is not None:
        reclaims = np.append(instants, AFTER_ALL)
        return np.maximum(removed, reclaims[np.minimum(np.searchsorted(reclaims, removed), len(reclaims) - 1)])
    if not layout.lies_on:
        return removed
    found = removed.copy()
    for place in range(len(found)):
        for machine in range(lying.workload.count):
            numbers = layout.of(lying.number, lying.workload.id, place, machine)
            found[place] = max([int(found[place]), *(free_at[number] for number in numbers)])
    return found


def free_again(result: Forecast, target: Target, layout: TapeLayout) -> list[int]:
    """When each cartridge can be used again: closed or full, nothing on it there as a point, and `returns_after` over."""
    last = [0] * len(layout.closed_from)
    for (holding, _workload, place, _machine), numbers in layout.lies_on.items():
        removed = int(result.holdings[holding].life.removed[place])
        for number in numbers:
            last[number] = max(last[number], removed)
    closed = [tick if tick >= AFTER_ALL else -(-tick // PHASES) for tick in layout.closed_from]
    free = np.array([max(pair) for pair in zip(last, closed, strict=True)], np.int64)
    if target.returns_after is not None and len(free):
        known = free < AFTER_ALL
        free[known] = add_to_instants(free[known], duration_of(target.returns_after), result.frame.zone)
    found: list[int] = free.tolist()
    return found
