"""Small slips that a run of deliberate changes of the code once survived: each has a test that tells it now."""

from typing import Any

import numpy as np
import pytest

from shelf_core.design.reading import design_of
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import forecast
from shelf_core.forecast.series import series
from tests.core.test_proof_facts import SUNDAY, house

STEPPING = {"step_downs": [{"after": "P20D", "target": "cold", "which": "all"}]}


def with_a_cold_store(**more: Any) -> dict[str, Any]:
    """Weekly fulls of ten weeks that step down after 20 days, where they stay for seven more weeks."""
    plain = house(runs=[SUNDAY], ladder={"recent": [{"keep": "P10W"}]}, copy=STEPPING)
    plain["targets"].append({"id": "cold", "media": "object", "site": "b", **more})
    return plain


@pytest.mark.parametrize(
    ("target", "matters"),
    [
        ({"minimum_days": 90}, True),
        ({"packing": "shared"}, True),
        ({"reclaim": {"rrule": "FREQ=MONTHLY;BYMONTHDAY=1"}}, True),
        ({"capacity": "5 TB"}, False),
    ],
)
def test_what_is_remembered_is_of_the_same_rules(target: dict[str, Any], matters: bool) -> None:
    """A memory that has met a design says of another one what one says that has met none."""
    memory = Memory()
    before = forecast(design_of(with_a_cold_store()), memory)
    changed = design_of(with_a_cold_store(**target))
    remembered, fresh = forecast(changed, memory), forecast(changed)
    for mine, theirs, was in zip(remembered.targets, fresh.targets, before.targets, strict=True):
        assert np.array_equal(mine.totals.stored_bytes, theirs.totals.stored_bytes)
        assert np.array_equal(mine.totals.points, theirs.totals.points)
        assert mine.full_on == theirs.full_on
        assert was.target.id == mine.target.id
    same = all(
        np.array_equal(one.totals.stored_bytes, other.totals.stored_bytes)
        for one, other in zip(before.targets, remembered.targets, strict=True)
    )
    assert same is not matters


def test_a_series_that_is_thinned_keeps_the_lowest_sum_and_the_highest_peak() -> None:
    """Newest three of weekly fulls and of daily ones in between: the sum goes up and down within every stretch."""
    runs = [SUNDAY, {"id": "i", "kind": "incremental", "rrule": "FREQ=WEEKLY;BYDAY=MO,TU,WE", "at": ["22:00"]}]
    result = forecast(design_of(house(runs=runs, ladder={"recent": [{"keep": {"points": 3}}]})))
    (thin,), totals = series(result, 40), result.targets[0].totals
    whole = totals.stored_bytes[30:]
    shown = [size for place, size in zip(thin.places, thin.stored_bytes, strict=True) if place >= 30]
    assert len(thin.places) <= 40
    assert min(shown) == whole.min()
    assert max(thin.peak_bytes) == totals.peak_bytes.max()
    assert whole.min() < whole.max()


def test_what_others_use_grows_from_the_first_day_on_and_not_a_day_before() -> None:
    """100 TB, of which 20 TB are of others and double in 365 days: 80 TB on the first day, 60 TB on the 366th."""
    used = {"size": "20 TB", "annual_growth_percent": 100}
    result = forecast(design_of(house(years=2, target={"capacity": "100 TB", "used_otherwise": used})))
    room = result.targets[0].room_bytes
    assert room is not None
    assert room[0] == pytest.approx(80e12, rel=1e-12)
    assert room[365] == pytest.approx(60e12, rel=1e-12)
    assert room[364] > room[365]


def test_where_nothing_is_left_nothing_is_stored_to_the_byte() -> None:
    """Thirds of a terabyte leave dust when they are added and taken away again; it is swept."""
    ladder = {"recent": [{"keep": "P3D"}], "floor": 0}
    plain = house(ladder=ladder, workload={"size": "1 TB", "reduction": 3, "until": "2027-02-10"})
    totals = forecast(design_of(plain)).targets[0].totals
    assert totals.points[-1] == 0
    assert set(totals.stored_bytes[60:].tolist()) == {0.0}
    assert set(totals.peak_bytes[60:].tolist()) == {0.0}


def test_nothing_is_asked_of_days_beyond_the_end() -> None:
    """A design of a year has 365 days of everything, however long its points stay."""
    result = forecast(design_of(house(ladder={"recent": [{"keep": "forever"}]})))
    totals = result.targets[0].totals
    assert len(totals.points) == len(totals.stored_bytes) == len(totals.peak_bytes) == result.frame.days == 365
    assert int(totals.points[-1]) == 365
    with pytest.raises(ValueError, match="2027-12-31"):
        result.place_of("2028-01-01")
