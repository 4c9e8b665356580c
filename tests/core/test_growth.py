"""Growth by a size a year, and machines that come later, against sums by hand."""

from typing import Any

import pytest

from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of
from shelf_core.forecast.consequences import consequences
from shelf_core.forecast.forecast import forecast
from tests.core.test_proof_facts import house


def stored(day: str, **workload: Any) -> float:
    """What the newest full alone takes at the end of a day: taken at noon, so that no part of a day is left to guess."""
    plain = house(
        years=3,
        runs=[{"id": "f", "kind": "full", "rrule": "FREQ=DAILY", "at": ["00:00"]}],
        ladder={"recent": [{"keep": {"points": 1}}]},
        target={"packing": "separate"},
        workload=workload,
    )
    return consequences(forecast(design_of(plain)), day)[0].stored_bytes


@pytest.mark.parametrize(
    ("day", "expected"),
    [
        ("2027-01-01", 10e12),
        # 365 days later: one whole year of growth, and two on the day that ends the second (plain arithmetic).
        ("2028-01-01", 12e12),
        ("2028-12-31", 14e12),
    ],
)
def test_even_growth_adds_the_same_each_year(day: str, expected: float) -> None:
    assert stored(day, annual_growth="2 TB") == pytest.approx(expected, rel=1e-12)


def test_even_growth_and_steps_add_up_and_never_fall_below_nothing() -> None:
    """10 TB and 2 TB a year and a step of 3 TB that does not grow further; less than nothing is nothing."""
    steps = [{"on": "2027-07-01", "add": "3 TB"}]
    assert stored("2028-01-01", annual_growth="2 TB", steps=steps) == pytest.approx(15e12, rel=1e-12)
    assert stored("2028-01-01", annual_growth="-20 TB") == pytest.approx(0, abs=1)


def test_machines_that_come_later_are_a_workload_of_their_own() -> None:
    """Three of 10 TB, and two more from March on: five fulls of the size of that day."""
    more = {"count": 3, "annual_growth": "2 TB", "count_steps": [{"on": "2027-03-01", "add": 2}]}
    assert stored("2027-02-28", **more) == pytest.approx(3 * (10e12 + 2e12 * 58 / 365), rel=1e-12)
    assert stored("2027-03-01", **more) == pytest.approx(5 * (10e12 + 2e12 * 59 / 365), rel=1e-12)


def test_both_ways_to_grow_are_refused() -> None:
    with pytest.raises(DesignError, match="annual_growth or annual_growth_percent, not both"):
        design_of(house(workload={"annual_growth": "2 TB", "annual_growth_percent": 5}))


def test_an_unknown_share_says_nothing_of_what_grows_by_a_size() -> None:
    plain = house(workload={"annual_growth": "2 TB"})
    plain["unknowns"] = [{"id": "u", "workloads": {"ids": ["w"]}, "annual_growth_percent": {"low": 0, "high": 9}}]
    with pytest.raises(DesignError, match='got "w", which grows by a size a year'):
        design_of(plain)
