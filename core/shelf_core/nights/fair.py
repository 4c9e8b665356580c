"""Max-min fair rates in strict priority, by progressive filling.

All rates of a priority are raised together; whoever meets a full resource, or a limit of its own, stops there. What is left
is shared by the next priority. Source: Bertsekas and Gallager, Data Networks, 2nd ed. 1992, section 6.5.2, from memory.
"""

import math
from collections.abc import Sequence
from typing import NamedTuple

ALMOST = 1e-9
"""A resource of which so small a part is left is full: rates are sums of floating-point numbers."""


class Constraint(NamedTuple):
    """What may hold a flow: a resource, of which it takes `amount` times its rate, or (None) an own limit of `amount`."""

    resource: int | None
    amount: float


class Flow(NamedTuple):
    """The flows of so many machines that are alike.

    `constraints` stand in the order in which they are named when several hold it at once.
    """

    priority: int
    constraints: tuple[Constraint, ...]
    machines: int


class Rate(NamedTuple):
    """The rate of each of some alike flows, and the place of the constraint that holds it; None where nothing does.

    `by_priority` says that a flow of higher priority runs on that resource.
    """

    rate: float
    held_by: int | None
    by_priority: bool = False


def fair_rates(flows: Sequence[Flow], capacity: Sequence[float]) -> list[Rate]:
    """The rate of each flow. `capacity` is that of each resource, in the same unit a second; inf for one without.

    >>> line = (Constraint(0, 1.0),)
    >>> [one.rate for one in fair_rates([Flow(5, line, 1), Flow(5, (Constraint(None, 20.0), *line), 1)], [100.0])]
    [80.0, 20.0]
    """
    left = list(capacity)
    found: dict[int, Rate] = {}
    higher: set[int] = set()
    for priority in sorted({flow.priority for flow in flows}):
        places = [place for place, flow in enumerate(flows) if flow.priority == priority and flow.machines > 0]
        _fill(flows, places, left, capacity, higher, found)
        higher.update(one.resource for place in places for one in flows[place].constraints if one.resource is not None)
    return [found.get(place, Rate(0.0, None)) for place in range(len(flows))]


def _fill(
    flows: Sequence[Flow],
    places: list[int],
    left: list[float],
    capacity: Sequence[float],
    higher: set[int],
    found: dict[int, Rate],
) -> None:
    """Raise the rates of these flows together until all are held."""
    level = 0.0
    while places:
        slopes = _slopes(flows, places)
        step = min([max(left[resource], 0.0) / slope for resource, slope in slopes.items()], default=math.inf)
        own = [one.amount for place in places for one in flows[place].constraints if one.resource is None]
        step = min(step, min(own, default=math.inf) - level)
        if math.isinf(step):
            found.update({place: Rate(math.inf, None) for place in places})
            return
        level += step
        for resource, slope in slopes.items():
            left[resource] -= step * slope
        full = {one for one in slopes if left[one] <= ALMOST * capacity[one] and not math.isinf(capacity[one])}
        for one in full:
            # Not even the dust of a sum: who comes later gets nothing of what is full.
            left[one] = 0.0
        going = []
        for place in places:
            held = _held(flows[place].constraints, full, level)
            if held is None:
                going.append(place)
                continue
            found[place] = Rate(level, held, flows[place].constraints[held].resource in higher)
        places = going


def _slopes(flows: Sequence[Flow], places: list[int]) -> dict[int, float]:
    """How fast what is taken of each resource rises with the rate."""
    slopes: dict[int, float] = {}
    for place in places:
        count = flows[place].machines
        for one in flows[place].constraints:
            if one.resource is not None and one.amount > 0:
                slopes[one.resource] = slopes.get(one.resource, 0.0) + count * one.amount
    return {resource: slope for resource, slope in slopes.items() if slope > 0}


def _held(constraints: tuple[Constraint, ...], full: set[int], level: float) -> int | None:
    for place, one in enumerate(constraints):
        if one.resource is None:
            if level >= one.amount * (1 - ALMOST):
                return place
        elif one.resource in full:
            return place
    return None
