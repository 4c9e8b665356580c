"""What workloads come to together on a date, against compound interest of numpy-financial and plain arithmetic."""

import numpy_financial
import pytest

from shelf_core.design.reading import design_of
from shelf_core.sizing.together import together
from tests.core.test_proof_facts import house

TB = 10**12


def test_sizes_grow_machines_count_and_reduction_plays_no_part() -> None:
    """10 TB at 40 % a year, three machines, after two years of 365 days; by `numpy_financial.fv`."""
    plain = house(years=3, starts="2026-01-01", workload={"count": 3, "annual_growth_percent": 40, "reduction": 2})
    plain["workloads"].append({"id": "v", "site": "b", "size": "4 TB", "daily_change_percent": 1, "log_per_day": "60 GB"})
    found = together(design_of(plain), ["w"], "2027-12-31")
    assert (found.workloads, found.machines, found.log_bytes) == (1, 3, 0)
    assert found.source_bytes == pytest.approx(-3 * numpy_financial.fv(0.4, 2, 0, 10 * TB))
    assert found.changed_bytes == pytest.approx(0.02 * found.source_bytes)
    both = together(design_of(plain), ["w", "v", "unknown"], "2027-12-31")
    assert both.workloads == 2
    assert both.source_bytes == pytest.approx(found.source_bytes + 4 * TB)
    assert both.changed_bytes == pytest.approx(found.changed_bytes + 0.01 * 4 * TB)
    assert both.log_bytes == 60e9


def test_what_is_not_there_on_the_date_does_not_count() -> None:
    plain = house(workload={"from": "2027-02-01", "until": "2027-03-31", "count_steps": [{"on": "2027-03-01", "add": 4}]})
    assert [together(design_of(plain), ["w"], day).machines for day in ("2027-01-31", "2027-02-01", "2027-03-01")] == [0, 1, 5]
    assert together(design_of(plain), ["w"], "2027-03-31").workloads == 1
    assert together(design_of(plain), ["w"], "2027-04-01").workloads == 0
    with pytest.raises(ValueError, match="expected a date from 2027-01-01"):
        together(design_of(plain), ["w"], "2031-01-01")
