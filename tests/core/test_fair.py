"""Rates against what defines them, against linear programs, and against worked examples.

Max-min fairness: every flow has a full resource on which no flow of its priority is faster, or its own limit (Bertsekas and
Gallager, Data Networks, 2nd ed. 1992, section 6.5.2, from memory). Lexicographic linear programs find the same rates by
raising the least one first (Nace and Pioro, Max-min fairness and its applications, 2008, from memory).
"""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import linprog

from shelf_core.nights.fair import Constraint, Flow, fair_rates


@st.composite
def networks(draw: st.DrawFn, priorities: int = 3) -> tuple[list[Flow], list[float]]:
    """Flows over a few resources, some with limits of their own; each passes at least one resource or has a limit."""
    capacity = [float(draw(st.integers(0, 40)) * 10) for _ in range(draw(st.integers(1, 4)))]
    flows = []
    for _ in range(draw(st.integers(1, 6))):
        used = draw(st.lists(st.integers(0, len(capacity) - 1), unique=True, max_size=len(capacity)))
        constraints = [Constraint(place, draw(st.sampled_from([0.5, 1.0, 2.0]))) for place in used]
        if not used or draw(st.booleans()):
            constraints.insert(0, Constraint(None, float(draw(st.integers(1, 200)))))
        flows.append(Flow(draw(st.integers(1, priorities)), tuple(constraints), draw(st.integers(1, 3))))
    return flows, capacity


def used_of(flows: list[Flow], rates: list[float], place: int, priorities: set[int] | None = None) -> float:
    """What is taken of a resource by flows of some priorities."""
    return sum(
        rate * one.amount * flow.machines
        for flow, rate in zip(flows, rates, strict=True)
        for one in flow.constraints
        if one.resource == place and (priorities is None or flow.priority in priorities)
    )


@given(networks())
def test_every_flow_is_held_by_a_full_resource_or_by_itself(network: tuple[list[Flow], list[float]]) -> None:
    flows, capacity = network
    found = fair_rates(flows, capacity)
    rates = [one.rate for one in found]
    for place, most in enumerate(capacity):
        assert used_of(flows, rates, place) <= most * (1 + 1e-9) + 1e-9
    for flow, one in zip(flows, found, strict=True):
        assert one.held_by is not None
        held = flow.constraints[one.held_by]
        if held.resource is None:
            assert one.rate == pytest.approx(held.amount)
            continue
        not_lower = {other.priority for other in flows if other.priority <= flow.priority}
        assert used_of(flows, rates, held.resource, not_lower) == pytest.approx(capacity[held.resource], abs=1e-6)
        beside = [
            other for other in range(len(flows)) if any(one.resource == held.resource for one in flows[other].constraints)
        ]
        assert all(rates[other] <= one.rate * (1 + 1e-9) + 1e-9 for other in beside if flows[other].priority == flow.priority)
        assert one.by_priority == any(flows[other].priority < flow.priority for other in beside)


def by_linear_programs(flows: list[Flow], capacity: list[float]) -> list[float]:
    """The rates of flows of one priority: the least is raised as far as it goes, then the next, by a program for each."""
    count = len(flows)
    rows, bounds = [], []
    for place, most in enumerate(capacity):
        rows.append([sum(one.amount * flow.machines for one in flow.constraints if one.resource == place) for flow in flows])
        bounds.append(most)
    limits = [min([one.amount for one in flow.constraints if one.resource is None], default=None) for flow in flows]  # type: ignore[type-var]
    fixed: dict[int, float] = {}
    while len(fixed) < count:
        free = [place for place in range(count) if place not in fixed]
        least = _largest_least(rows, bounds, limits, fixed, free)
        # Those are held that cannot be faster while no free one is slower than the least.
        largest = {place: _largest(place, rows, bounds, limits, fixed, least) for place in free}
        held = [place for place in free if largest[place] <= least * (1 + 1e-6) + 1e-5]
        fixed.update(dict.fromkeys(held or [min(free, key=lambda place: largest[place])], least))
    return [fixed[place] for place in range(count)]


def _largest_least(rows, bounds, limits, fixed, free):  # type: ignore[no-untyped-def]
    count = len(limits)
    matrix = [[*row, 0.0] for row in rows] + [
        [*(-1.0 if other == place else 0.0 for other in range(count)), 1.0] for place in free
    ]
    ranges = [(fixed[place], fixed[place]) if place in fixed else (0, limits[place]) for place in range(count)]
    most = linprog(
        [0.0] * count + [-1.0],
        A_ub=matrix,
        b_ub=[*(one + 1e-9 for one in bounds), *[0.0] * len(free)],
        bounds=[*ranges, (0, None)],
    )
    return float(-most.fun)


def _largest(place, rows, bounds, limits, fixed, least):  # type: ignore[no-untyped-def]
    count = len(limits)
    floor = max(0.0, least * (1 - 1e-9) - 1e-9)
    ranges = [(fixed[other], fixed[other]) if other in fixed else (floor, limits[other]) for other in range(count)]
    cost = [-1.0 if other == place else 0.0 for other in range(count)]
    return float(-linprog(cost, A_ub=rows, b_ub=[one + 1e-7 for one in bounds], bounds=ranges).fun)


@settings(max_examples=60)
@given(networks(priorities=1))
def test_rates_are_those_of_linear_programs(network: tuple[list[Flow], list[float]]) -> None:
    flows, capacity = network
    rates = [one.rate for one in fair_rates(flows, capacity)]
    assert rates == pytest.approx(by_linear_programs(flows, capacity), rel=1e-5, abs=1e-4)


def test_a_target_of_900_over_sources_of_100_300_and_800() -> None:
    """Worked by hand: 100 and 300 are what two sources give, the third gets what is left of 900 MB/s."""
    flows = [Flow(5, (Constraint(None, own), Constraint(0, 1.0)), 1) for own in (100.0, 300.0, 800.0)]
    assert [one.rate for one in fair_rates(flows, [900.0])] == pytest.approx([100, 300, 500])


def test_links_of_100_and_150_with_three_transfers() -> None:
    """Worked by hand: two share the link of 100; the one that passes both has 50, so 100 are left of the other link."""
    both, first, second = (Constraint(0, 1.0), Constraint(1, 1.0)), (Constraint(0, 1.0),), (Constraint(1, 1.0),)
    rates = [one.rate for one in fair_rates([Flow(5, both, 1), Flow(5, first, 1), Flow(5, second, 1)], [100.0, 150.0])]
    assert rates == pytest.approx([50, 50, 100])


def test_what_nothing_holds_is_held_by_nothing() -> None:
    rate = fair_rates([Flow(5, (Constraint(0, 1.0),), 1)], [math.inf])[0]
    assert (rate.rate, rate.held_by) == (math.inf, None)
    beside = fair_rates(
        [Flow(5, (Constraint(0, 1.0),), 1), Flow(5, (Constraint(0, 1.0), Constraint(1, 1.0)), 1)], [math.inf, 7.0]
    )
    assert [one.rate for one in beside] == [math.inf, 7.0]
    assert np.isfinite(beside[1].rate)


def test_of_what_is_full_nothing_is_left_to_who_comes_later() -> None:
    """Not even the dust of a sum: three fill it but for a hundred-millionth of a byte, and the next priority moves no byte."""
    line = (Constraint(0, 1.604),)
    rates = fair_rates([Flow(4, line, 3), Flow(5, (Constraint(0, 1.0),), 1)], [90e6])
    assert rates[0].rate == pytest.approx(90e6 / 4.812)
    assert rates[1].rate == 0
