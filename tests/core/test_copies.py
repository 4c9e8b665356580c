"""Copies of copies, locks and reclaims on designs small enough to work out by hand."""

import json
from typing import Any

import numpy as np
import pytest

from shelf_core.design.faults import DesignError
from shelf_core.design.reading import read_design
from shelf_core.engine.volume.shared import neighbour_spans, oldest_spans, spans_in_any_order
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.points import points_on
from tests.designs import NEWEST_14, WEEKLY_FULL, design, run


def result(document: dict[str, Any]) -> Forecast:
    return forecast(read_design(json.dumps(document)))


def with_copy(document: dict[str, Any], **copy: Any) -> dict[str, Any]:
    """The design with a second target and a second copy there, from the first."""
    document["targets"].append({"id": "away", "media": "object", "site": "here", "lock": "final"})
    document["routes"][0]["copies"].append({"id": "second", "target": "away", "from": "first", "ladder": "rule", **copy})
    return document


def away(document: dict[str, Any], day: str) -> list[tuple[str, str, str]]:
    return [(row.taken, row.kind, row.state) for row in points_on(result(document), day) if row.copy == "second"]


def test_following_copy_arrives_after_its_delay() -> None:
    """A copy runs after the backup it copies has ended (common practice, no source): here two hours, across midnight."""
    document = with_copy(design([run("full", "FREQ=DAILY", "23:00")], NEWEST_14), delay="PT2H")
    assert away(document, "2027-01-01") == []
    assert away(document, "2027-01-02") == [("2027-01-01T23:00", "full", "kept")]


def test_point_that_is_gone_before_the_delay_never_arrives() -> None:
    document = with_copy(design([run("full", "FREQ=DAILY")], {"recent": [{"keep": {"points": 2}}]}), delay="P3D")
    assert result(document).targets[1].totals.points.max() == 0


def test_what_is_taken_without_its_parent_becomes_a_full() -> None:
    document = with_copy(design(WEEKLY_FULL, NEWEST_14), take={"kinds": ["incremental"]})
    kinds = [kind for _, kind, _ in away(document, "2027-01-12")]
    # Friday 1 January is a full for want of a parent on the first copy; the incremental after each full has none here.
    assert kinds == [
        "full",
        "incremental",
        "incremental",
        "incremental",
        "incremental",
        "incremental",
        "full",
        "incremental",
        "incremental",
    ]


def test_copy_with_its_own_cadence_reads_the_newest_point_once() -> None:
    document = design([run("full", "FREQ=WEEKLY;BYDAY=SA")], NEWEST_14)
    document["cadences"].append({"id": "often", "runs": [run("full", "FREQ=DAILY", "18:00")]})
    found = away(with_copy(document, cadence="often"), "2027-01-20")
    assert [taken for taken, _, _ in found] == ["2027-01-02T12:00", "2027-01-09T12:00", "2027-01-16T12:00"]


def test_lock_outlasts_the_rule_and_runs_from_the_writing() -> None:
    """Two points are kept; each is locked ten days from its arrival, which is a day after it was taken."""
    ladder = {"recent": [{"keep": {"points": 2}}]}
    document = with_copy(design([run("full", "FREQ=DAILY")], ladder), delay="P1D", lock={"for": "P10D"})
    document["ladders"].append({"id": "long", "recent": [{"keep": "P5D"}]})
    document["routes"][0]["copies"][0]["ladder"] = "long"
    found = away(document, "2027-02-01")
    states = [state for _, _, state in found]
    # Arrivals at noon: of those from 23 January on the lock still runs at the midnight that ends 1 February.
    assert (states.count("kept"), states.count("locked")) == (2, 8)
    assert found[0][0] == "2027-01-22T12:00"


def test_lock_reaches_back_to_what_it_needs() -> None:
    """Incrementals alone are locked; the full they need is locked as long."""
    document = design(WEEKLY_FULL, {"recent": [{"keep": {"points": 1}}]})
    document["routes"][0]["copies"][0]["lock"] = {"for": "P9D", "kinds": ["incremental"]}
    rows = [row for row in points_on(result(document), "2027-03-10") if row.kind == "full"]
    assert [(row.taken, row.state) for row in rows] == [("2027-02-27T22:00", "locked"), ("2027-03-06T22:00", "locked")]
    assert rows[0].locked_until == "2027-03-14T22:00"


def test_lock_reaches_back_only_once_what_is_locked_has_been_written() -> None:
    """Found by a random design: on 8 April the differential of 10 April cannot have locked its full yet."""
    document = design(
        [run("full", "FREQ=DAILY;COUNT=1", "02:30"), run("differential", "FREQ=WEEKLY;BYDAY=SA", "00:00")], {"floor": 0}
    )
    document["cadences"][0]["runs"][0]["from"] = "2027-03-28"
    document["cadences"][0]["runs"][1]["from"] = "2027-04-01"
    document["routes"][0]["copies"][0] |= {"lock": {"for": "P5D"}, "sweep": "with-runs"}
    found = [(row.kind, row.state) for row in points_on(result(document), "2027-04-08")]
    assert found == [("full", "needed"), ("differential", "due")]
    found = [(row.kind, row.state) for row in points_on(result(document), "2027-04-10")]
    assert found == [("full", "locked"), ("differential", "locked")]


def test_lock_for_as_long_as_kept_needs_ends_that_are_known() -> None:
    document = design(WEEKLY_FULL, {"recent": [{"keep": "P9D"}]})
    document["routes"][0]["copies"][0]["lock"] = {"for": "kept", "mode": "final"}
    life = result(document).holdings[0].life
    assert np.array_equal(
        life.locked[life.parent == -1] >= life.claims["recent"][life.parent == -1], np.ones(np.sum(life.parent == -1), bool)
    )
    document["ladders"][0]["recent"] = [{"keep": {"points": 9}}]
    with pytest.raises(DesignError, match=r"lock\[0\].for: expected a ladder whose claims are durations"):
        result(document)


def test_space_comes_back_at_the_reclaim() -> None:
    """The newest 1 of daily fulls: without reclaim 10 TB each evening, with a weekly one the week's fulls add up."""
    document = design([run("full", "FREQ=DAILY")], {"recent": [{"keep": {"points": 1}}]})
    document["targets"][0]["reclaim"] = {"rrule": "FREQ=WEEKLY;BYDAY=MO", "at": ["06:00"]}
    totals = result(document).targets[0].totals
    # 4 January is a Monday: at 06:00 the space of the three fulls that went since Friday comes back; at noon one more goes.
    assert (totals.stored_bytes[:5] / 1e12).tolist() == pytest.approx([10, 20, 30, 20, 30])
    assert set(totals.points[:5]) == {1}


def test_delay_that_turns_the_order_brings_the_later_point_first() -> None:
    """29 January 23:00 and 31 January 22:00 plus a month: both arrive on 28 February, the later point an hour earlier.

    So the newest 1 is the point of the 31st throughout: the one of the 29th comes too late to be the newest at any time.
    """
    runs = [run("full", "FREQ=MONTHLY;BYMONTHDAY=29", "23:00"), run("full", "FREQ=MONTHLY;BYMONTHDAY=31", "22:00")]
    document = with_copy(design(runs, NEWEST_14), delay="P1M", ladder="one")
    document["ladders"].append({"id": "one", "recent": [{"keep": {"points": 1}}]})
    assert away(document, "2027-02-28") == [("2027-01-31T22:00", "full", "kept")]
    assert result(document).targets[1].totals.peak_bytes[58] == 20e12


def test_what_rungs_picked_is_taken_at_once_or_when_the_period_is_over() -> None:
    """Weekly fulls on Saturdays; weeks begin on Monday, 2027-01-02 is a Saturday. Each arrives as a full."""
    first = {"rungs": [{"name": "weekly", "every": "week", "from": "any", "keep": {"periods": 3}}]}
    last = {"rungs": [{"name": "weekly", "every": "week", "from": "any", "pick": "last", "keep": {"periods": 3}}]}
    taken_first = away(with_copy(design(WEEKLY_FULL, first), take={"rungs": ["weekly"]}), "2027-01-10")
    taken_last = away(with_copy(design(WEEKLY_FULL, last), take={"rungs": ["weekly"]}), "2027-01-11")
    # Of the second week Monday 4 January is known at once; its Sunday at the midnight that ends it.
    assert taken_first == [("2027-01-01T22:00", "full", "kept"), ("2027-01-04T22:00", "full", "kept")]
    assert taken_last == [("2027-01-03T22:00", "full", "kept"), ("2027-01-10T22:00", "full", "kept")]


@pytest.mark.parametrize("seed", range(20))
def test_spans_of_both_ways_are_the_same(seed: int) -> None:
    """Where points were written in the order they were taken in, the quick way and the one that goes through all agree."""
    random = np.random.default_rng(seed)
    written = np.cumsum(random.integers(1, 5, 40)) * 4
    removed = written + 4 * random.integers(0, 60, 40) + 2
    pairs, oldest, _ = spans_in_any_order(written, removed)
    for mine, other in ((neighbour_spans(written, removed), pairs), (oldest_spans(written, removed), oldest)):
        assert sorted(zip(*map(np.ndarray.tolist, mine), strict=True)) == sorted(
            zip(*map(np.ndarray.tolist, other), strict=True)
        )
