"""One design through the engine and through the simulation, side by side."""

import json
from collections import Counter
from typing import Any, NamedTuple

import pytest

from shelf_core.calendar.zones import day_number
from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.points import points_on
from shelf_core.forecast.series import moved_each_day
from tests.core.features import features_of
from tests.core.reference.simulation import Simulation, simulate

seen: Counter[str] = Counter()
"""How many of the random designs had each feature and each state; the summary of the run prints it."""


class Case(NamedTuple):
    """A design with what the simulation found for its first days, and the days of which it listed the points."""

    document: dict[str, Any]
    days: int
    listed: tuple[int, ...]
    slow: Simulation


tried: list[Case] = []
"""The random designs of this run."""


def case_of(document: dict[str, Any], days: int) -> Case:
    listed = (days // 3, days // 2, days - 1)
    return Case(document, days, listed, simulate(document, days, set(listed)))


def agree(case: Case) -> None:
    """Fail where engine and simulation differ."""
    fast = forecast(read_design(json.dumps(case.document)))
    brought = {one.target.id: moved_each_day(fast, one.target.id) for one in fast.targets}
    for day, target, count, stored, peak, moved in case.slow.rows:
        place = day_number(day) - fast.frame.first_day
        if place >= case.days:
            continue
        totals = next(one.totals for one in fast.targets if one.target.id == target)
        assert (day, target, int(totals.points[place])) == (day, target, count)
        assert float(totals.stored_bytes[place]) == pytest.approx(stored, rel=1e-9, abs=1), (day, target)
        assert float(totals.peak_bytes[place]) == pytest.approx(peak, rel=1e-9, abs=1), (day, target)
        assert float(brought[target][place]) == pytest.approx(moved, rel=1e-9, abs=1), (day, target)
    for place in case.listed:
        assert listing(fast, place) == case.slow.points[place]


def features(case: Case) -> set[str]:
    """What a design had in it."""
    return features_of(case.document, [row for place in case.listed for row in case.slow.points[place]])


def listing(fast: Forecast, place: int) -> list[tuple[str, ...]]:
    return sorted(
        (row.workload, row.route, row.copy, row.target, row.taken, row.kind, row.run, "+".join(row.claims), row.state)
        for row in points_on(fast, fast.day(place))
    )
