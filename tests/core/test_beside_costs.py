"""What costs beside storage, against sums by hand."""

import io
from typing import Any

import pytest

from shelf_core.cost.cost import cost_of
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from shelf_core.report.asked import Asked
from shelf_core.report.tables import table, write_csv
from tests.core.test_proof_facts import house


def per_month(*costs: dict[str, Any], **more: Any) -> list[list[float]]:
    plain = house(costs=[{"id": f"c{place}", **one} for place, one in enumerate(costs)], **more)
    return [one.per_month.tolist() for one in cost_of(forecast(design_of(plain))).beside]


def test_a_year_is_twelve_months_and_a_month_that_is_cut_has_its_days() -> None:
    """From 16 January on: 16 of 31 days of the first month; until 14 February 2027: 14 of 28."""
    (found,) = per_month({"amount": 1200, "every": "year", "from": "2027-01-16", "until": "2027-02-14"})
    assert found[:3] == pytest.approx([100 * 16 / 31, 50, 0])


def test_it_is_paid_for_each_machine_workload_or_terabyte() -> None:
    """Three machines of 10 TB from March on: 1 workload, 3 machines, 30 TB in a month without growth."""
    plain = {"workload": {"count": 3, "from": "2027-03-01", "reduction": 2}}
    asked = [{"amount": 2, "for": name} for name in ("design", "workload", "machine", "tb")]
    found = per_month(*asked, **plain)
    assert [one[1] for one in found] == pytest.approx([2, 0, 0, 0])
    assert [one[2] for one in found] == pytest.approx([2, 2, 6, 60])


def test_source_that_grows_is_paid_day_by_day() -> None:
    """10 TB and 3.65 TB a year: each day a hundredth of a TB more, on average 10.15 TB in January."""
    (found,) = per_month({"amount": 1, "for": "tb"}, workload={"annual_growth": "3.65 TB"})
    assert found[0] == pytest.approx(10.15)


def test_it_is_part_of_the_bill() -> None:
    plain = house(costs=[{"id": "rent", "name": "Rent", "amount": 90}])
    result = forecast(design_of(plain))
    cost = cost_of(result)
    assert cost.per_month().tolist() == pytest.approx([90.0] * 12)
    out = io.StringIO()
    write_csv(table(Asked(result, cost, "2027-03-01", "2026-11-27"), "cost"), out)
    assert out.getvalue().splitlines()[1] == "2027-01,,Rent,90.0,EUR"


def test_it_names_workloads_that_there_are() -> None:
    with pytest.raises(DesignError, match=r"costs\[0\]\.workloads\.ids"):
        design_of(house(costs=[{"id": "c", "amount": 1, "for": "machine", "workloads": ["x"]}]))
