"""Cartridges of a tape target through the months: in use, free, to buy, at the store that they return from."""

from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes, Counts
from shelf_core.cost.months import Months
from shelf_core.engine.hardware.tape import Cartridges
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.volume.ledger import WRITE, ticks


@dataclass(frozen=True, eq=False)
class CartridgeDays:
    """One element per day: the most in use on it, free ones among those that were bought, bought by then, and away.

    `owned_at_start` are those that opening stock lies on. `lacking_slots` says how many lie outside of the library for want
    of slots, None where the number of slots is not said. `stranded_bytes` are those of gone points that cannot be used again.
    """

    in_use: Counts
    free: Counts
    bought: Counts
    away: Counts
    lacking_slots: Counts | None
    stranded_bytes: Bytes
    owned_at_start: int


def cartridge_days(used: Cartridges, frame: Frame) -> CartridgeDays:
    """What is to be known of them day by day. A cartridge that is given back is free and is used before another is bought."""
    at_start = int(used.in_use_through_time.sums_at(ticks(np.array([frame.begin]), WRITE), frame)[0])
    most = _whole(used.in_use.peak)
    owned = np.maximum.accumulate(np.maximum(most, at_start))
    slots = None if used.slots is None else np.maximum(_whole(used.in_library.peak) - used.slots, 0)
    at_end = _whole(used.in_use.at_end)
    stranded = np.maximum(used.stranded_bytes.at_end, 0.0)
    return CartridgeDays(most, owned - at_end, owned - at_start, _whole(used.away.at_end), slots, stranded, at_start)


def bought_per_month(days: CartridgeDays, months: Months, frame: Frame) -> Bytes:
    """How many cartridges are bought in each month."""
    new = np.diff(np.r_[0, days.bought])
    return np.bincount(months.of(frame.midnights[:-1]), new, len(months.names)).astype(float)


def cartridge_months(used: Cartridges, months: Months, frame: Frame) -> Bytes:
    """Cartridges in use, integrated over each month."""
    return used.in_use_through_time.integral(months.edges, frame) / months.seconds


def _whole(amounts: Bytes) -> Counts:
    return np.rint(amounts).astype(np.int64)
