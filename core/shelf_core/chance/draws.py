"""Draws of change, growth and reduction for every workload (docs/model.md, What is not known).

Each is lognormal in two pieces (growth as 1 + g): its median is what is expected, a tenth of the draws lie below low and a
tenth above high. Workloads move together by a Gaussian copula with one common factor for each of the three.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.design.document import Design, selected
from shelf_core.design.faults import DesignError, fault
from shelf_core.design.unknowns import Range, Unknown
from shelf_core.design.workloads import Workload

Quantity = Literal["annual_growth_percent", "daily_change_percent", "reduction"]
QUANTITIES: tuple[Quantity, ...] = ("annual_growth_percent", "daily_change_percent", "reduction")
NINTH_DECILE = 1.2815515655446004
"""The standard normal quantile of 0.9."""


@dataclass(frozen=True, eq=False)
class Draws:
    """What each workload of a design does in each draw: arrays of shape (workloads, draws), in the design's order.

    `growth` is 1 + the yearly growth, `change` the daily share that changes, `reduction` the factor that a workload's
    reductions are multiplied by. What is known is the same in all draws.
    """

    growth: Bytes
    change: Bytes
    reduction: Bytes

    @property
    def count(self) -> int:
        """How many draws."""
        return self.growth.shape[1]

    def only(self, chosen: slice) -> "Draws":
        """Some of the draws."""
        return Draws(self.growth[:, chosen], self.change[:, chosen], self.reduction[:, chosen])


class Spread(NamedTuple):
    """What is not known of one quantity of one workload: its logarithm's median, and how far it spreads down and up."""

    median: float
    down: float
    up: float

    def at(self, normal: Bytes) -> Bytes:
        """The values at standard normal deviates."""
        return np.exp(self.median + normal * np.where(normal < 0, self.down, self.up))


def drawn(design: Design, count: int, seed: int) -> Draws:
    """So many draws of all that is not known, always the same ones for a seed.

    Raises DesignError, naming the place, where what a workload is expected to do lies outside of its low and high.
    """
    source = np.random.default_rng(seed)
    workloads = design.workloads
    spreads = spreads_of(design)
    values = {name: np.tile([[_expected(one, name)] for one in workloads], (1, count)) for name in QUANTITIES}
    for name in QUANTITIES:
        common = source.standard_normal(count)
        for at, workload in enumerate(workloads):
            own = source.standard_normal(count)
            if (workload.id, name) in spreads:
                normal = np.sqrt(design.correlation) * common + np.sqrt(1 - design.correlation) * own
                values[name][at] = spreads[workload.id, name].at(normal)
    hot = np.array([[one.hot_percent / 100 if one.change_pattern == "scattered" else 1.0] for one in workloads])
    reduction = np.array([[one.reduction] for one in workloads]).reshape(len(workloads), 1)
    change = np.minimum(values["daily_change_percent"], hot.reshape(len(workloads), 1))
    return Draws(values["annual_growth_percent"], change, values["reduction"] / reduction)


def spreads_of(design: Design) -> dict[tuple[str, Quantity], Spread]:
    """What is not known, by workload and quantity. The first unknown that names both counts."""
    found: dict[tuple[str, Quantity], Spread] = {}
    for place, unknown in enumerate(design.unknowns):
        for workload in selected(unknown.workloads, design.workloads):
            for name, asked in ranges_of(unknown):
                if (workload.id, name) not in found:
                    found[workload.id, name] = _spread(place, workload, name, asked)
    return found


def ranges_of(unknown: Unknown) -> Iterator[tuple[Quantity, Range]]:
    """The quantities of an unknown with their ranges."""
    for name in QUANTITIES:
        found = getattr(unknown, name)
        if found is not None:
            yield name, found


def _spread(place: int, workload: Workload, name: Quantity, asked: Range) -> Spread:
    own = getattr(workload, name)
    low, high = asked.around(own)
    if not low <= own <= high or (name == "daily_change_percent" and own == 0):
        message = f"expected a range that holds the {own:g} of {workload.id}, got {low:g} to {high:g}"
        raise DesignError([fault("unknowns", place, name, message=message)])
    bottom, middle, top = (np.log(_plain(value, name)) for value in (low, own, high))
    return Spread(float(middle), float(middle - bottom) / NINTH_DECILE, float(top - middle) / NINTH_DECILE)


def _plain(value: float, name: Quantity) -> float:
    """As it is drawn: growth as a factor a year, change as a share a day."""
    if name == "reduction":
        return value
    return 1 + value / 100 if name == "annual_growth_percent" else value / 100


def _expected(workload: Workload, name: Quantity) -> float:
    return _plain(getattr(workload, name), name)
