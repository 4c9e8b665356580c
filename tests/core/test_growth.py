"""Growth by a size a year, and machines that come later, against sums by hand."""

from typing import Any

import pytest

from shelf_core.cost.cost import cost_of
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of
from shelf_core.forecast.consequences import consequences
from shelf_core.forecast.forecast import forecast
from shelf_core.formats.digest import digest
from shelf_core.proof.duties import Duties
from shelf_core.report.asked import Asked
from shelf_core.report.page import report
from shelf_core.report.tables import table
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


def test_what_is_taken_along_is_the_document_and_not_what_is_made_of_it() -> None:
    """Machines that come later are no workloads in files that are read back; a state that is computed anew has them once."""
    plain = house(workload={"name": "Shop", "annual_growth": "2 TB", "count_steps": [{"on": "2027-03-01", "add": 2}]})
    given = design_of(plain)
    result = forecast(given)
    assert [one.id for one in result.design.workloads] == ["w", "w@2027-03-01"]
    assert [one.id for one in forecast(result.design).design.workloads] == ["w", "w@2027-03-01"]
    asked = Asked(result, cost_of(result), "2027-06-01", "2026-11-27")
    assert [row[0] for row in table(asked, "workloads").rows] == ["w"]
    page = report(asked)
    assert digest(given) in page
    assert "2 TB, 2 machines more on 1 Mar 2027" in page


def test_duties_look_further_than_the_end_with_the_same_machines() -> None:
    """The design taken further is computed from one that has its later machines already."""
    duty = {"id": "law", "workloads": ["w"], "asks": [{"history": "P2Y", "every": "month"}]}
    ladder = {"rungs": [{"name": "monthly", "every": "month", "keep": "forever"}]}
    plain = house(ladder=ladder, duties=[duty], workload={"count_steps": [{"on": "2027-03-01", "add": 2}]})
    answers = list(Duties(forecast(design_of(plain))).answers())
    found = [(one.workload.id, one.verdict) for one in answers]
    so_far = "holds as far as this design goes"
    assert found == [("w", so_far), ("w@2027-03-01", so_far)]


def test_both_ways_to_grow_are_refused() -> None:
    with pytest.raises(DesignError, match="annual_growth or annual_growth_percent, not both"):
        design_of(house(workload={"annual_growth": "2 TB", "annual_growth_percent": 5}))


def test_an_unknown_share_says_nothing_of_what_grows_by_a_size() -> None:
    plain = house(workload={"annual_growth": "2 TB"})
    plain["unknowns"] = [{"id": "u", "workloads": {"ids": ["w"]}, "annual_growth_percent": {"low": 0, "high": 9}}]
    with pytest.raises(DesignError, match='got "w", which grows by a size a year'):
        design_of(plain)
