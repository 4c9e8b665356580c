"""The array engine against the event-by-event simulation, over random designs of what is computed so far."""

import json
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from shelf_core.calendar.zones import day_number
from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.points import points_on
from tests.core.reference.simulation import simulate
from tests.core.strategies import designs


@settings(max_examples=100, deadline=None, suppress_health_check=list(HealthCheck), print_blob=True)
@given(design=designs(), days=st.integers(20, 110))
def test_engine_and_simulation_agree(design: dict[str, Any], days: int) -> None:
    agree(design, days)


def agree(document: dict[str, Any], days: int) -> None:
    listed = {days // 3, days // 2, days - 1}
    slow = simulate(document, days, listed)
    fast = forecast(read_design(json.dumps(document)))
    rows = {(day, target): rest for day, target, *rest in slow.rows}
    for (day, target), (count, stored, peak) in rows.items():
        place = day_number(day) - fast.frame.first_day
        if place >= days:
            continue
        totals = next(one.totals for one in fast.targets if one.target.id == target)
        assert (day, target, int(totals.points[place])) == (day, target, count)
        assert float(totals.stored_bytes[place]) == pytest.approx(stored, rel=1e-9, abs=1), (day, target)
        assert float(totals.peak_bytes[place]) == pytest.approx(peak, rel=1e-9, abs=1), (day, target)
    for place in listed:
        assert listing(fast, place) == slow.points[place]


def listing(fast: Forecast, place: int) -> list[tuple[str, ...]]:
    return sorted(
        (row.workload, row.route, row.copy, row.target, row.taken, row.kind, row.run, "+".join(row.claims), row.state)
        for row in points_on(fast, fast.day(place))
    )
