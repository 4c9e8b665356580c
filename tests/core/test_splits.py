"""Splits, what nobody can free, moved bytes and restores: they add up, and are what small sums say."""

import json
from typing import Any

import numpy as np
import pytest
from scipy.stats import binom

from shelf_core.design.reading import read_design
from shelf_core.engine.volume.moved import moved_per_day
from shelf_core.engine.watching import Stopped
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.moves import moved_of
from shelf_core.forecast.points import points_on
from shelf_core.forecast.restores import chance_whole, read_before, restore_chain
from shelf_core.forecast.splits import By, split
from shelf_core.forecast.transfers import requests, run_seconds, transfer_seconds
from shelf_core.forecast.unfree import cannot_be_freed, least_each_day
from tests.core.test_against_reference import REGRESSIONS
from tests.designs import DEMO, NEWEST_14, ROOT, WEEKLY_FULL, design, run

WAYS: tuple[By, ...] = ("route", "copy", "workload", "kind", "rung", "state")
DESIGNS = [*sorted((ROOT / "tests" / "examples").glob("*.json")), DEMO]


def result(document: dict[str, Any]) -> Forecast:
    return forecast(read_design(json.dumps(document)))


def adds_up(found: Forecast, by: By) -> None:
    for one in found.targets:
        parts = split(found, one.target.id, by)
        stored = np.sum([part.stored_bytes for part in parts.values()], axis=0)
        points = np.sum([part.points for part in parts.values()], axis=0)
        assert np.allclose(stored, one.totals.stored_bytes, rtol=1e-9, atol=10), one.target.id
        assert np.array_equal(points + np.zeros(found.frame.days), one.totals.points), one.target.id


@pytest.mark.parametrize("by", WAYS)
@pytest.mark.parametrize("path", DESIGNS, ids=lambda path: path.stem)
def test_parts_add_up_to_the_target(path: Any, by: By) -> None:
    adds_up(forecast(read_design(path.read_bytes())), by)


@pytest.mark.parametrize("by", WAYS)
@pytest.mark.parametrize("path", REGRESSIONS, ids=lambda path: path.stem)
def test_parts_of_strange_designs_add_up(path: Any, by: By) -> None:
    adds_up(result(json.loads(path.read_text())["design"]), by)


@pytest.mark.parametrize("path", DESIGNS, ids=lambda path: path.stem)
def test_states_and_sizes_are_those_of_the_list(path: Any) -> None:
    """Two ways to the same: the series by state, and the rows of the list of points on a day."""
    found = forecast(read_design(path.read_bytes()))
    place = found.frame.days // 2
    rows = list(points_on(found, found.day(place)))
    for one in found.targets:
        parts = split(found, one.target.id, "state")
        here = [row for row in rows if row.target == one.target.id]
        for state, part in parts.items():
            mine = [row for row in here if row.state == state]
            if state != "waiting for a reclaim":
                assert part.points[place] == sum(row.count for row in mine if row.kind != "log")
                stored = sum(row.count * row.stored_bytes for row in mine)
                assert part.stored_bytes[place] == pytest.approx(stored, rel=1e-9, abs=10)


def test_rung_of_a_point_is_the_one_that_claims_it_longest() -> None:
    ladder = {"recent": [{"keep": "P10D"}], "rungs": [{"name": "monthly", "every": "month", "keep": "P1Y"}]}
    parts = split(result(design([run("full", "FREQ=DAILY")], ladder)), "disk", "rung")
    assert {name: int(part.points[40]) for name, part in parts.items()} == {"monthly": 2, "recent": 9}


def test_what_locks_hold_if_every_rule_is_cut() -> None:
    """Daily fulls of 10 TB, locked 5 days, the newest 14 kept: cut on a day, 5 stay, then one less each day."""
    document = design([run("full", "FREQ=DAILY", "12:00")], NEWEST_14)
    document["routes"][0]["copies"][0]["lock"] = {"for": "P5D"}
    stays = cannot_be_freed(result(document), "disk", "2027-03-01")
    assert (stays[:7] / 1e12).tolist() == [50, 40, 30, 20, 10, 0, 0]


def test_what_a_lock_holds_is_told_apart_from_what_is_only_billed() -> None:
    """Daily fulls of 10 TB, locked two days, billed at least five: three of the five that are there could be deleted."""
    document = design([run("full", "FREQ=DAILY", "12:00")], NEWEST_14)
    document["routes"][0]["copies"][0]["lock"] = {"for": "P2D"}
    document["targets"][0]["minimum_days"] = 5
    found = result(document)
    held, locked = (cannot_be_freed(found, "disk", "2027-03-01", by_locks_alone=alone) for alone in (False, True))
    assert ((held[:3] / 1e12).tolist(), (locked[:3] / 1e12).tolist()) == ([50, 40, 30], [20, 10, 0])
    each_day = least_each_day(found, "disk"), least_each_day(found, "disk", by_locks_alone=True)
    assert [one[100] / 1e12 for one in each_day] == [50, 20]


def test_lock_of_an_incremental_holds_its_chain() -> None:
    document = design(WEEKLY_FULL, NEWEST_14)
    document["routes"][0]["copies"][0]["lock"] = {"for": "P2D", "kinds": ["incremental"]}
    # Wednesday 10 March: those of the 9th and 10th are locked, and all back to the full of Saturday the 6th.
    stays = cannot_be_freed(result(document), "disk", "2027-03-10")
    assert stays[:2] / 1e12 == pytest.approx([10 + 4 * 0.2, 10 + 4 * 0.2])
    assert stays[2] == 0


def test_unknown_target_and_day_are_refused() -> None:
    found = result(design(WEEKLY_FULL, NEWEST_14))
    with pytest.raises(KeyError):
        split(found, "nowhere", "route")
    with pytest.raises(ValueError, match="expected a date from 2027-01-01 to 2027-12-31"):
        cannot_be_freed(found, "disk", "2031-01-01")


@pytest.mark.parametrize(
    ("kind", "moved"), [("full", [10, 10, 10]), ("synthetic", [10, 0.2, 0.2]), ("incremental", [10, 0.2, 0.2])]
)
def test_moved_bytes_by_kind(kind: str, moved: list[float]) -> None:
    """A full moves all; a synthetic is stored like a full and moved like an incremental, the first one like a full."""
    found = result(design([run(kind, "FREQ=DAILY")], NEWEST_14))
    holding = found.holdings[0]
    per_day = moved_per_day(holding, moved_of(found, holding), found.frame)
    assert per_day[:3] / 1e12 == pytest.approx(moved)


def test_copy_between_shared_targets_moves_only_what_the_second_does_not_have() -> None:
    """A copy of a point moves only what changed, after deduplication (common practice, no source)."""
    document = design([run("full", "FREQ=DAILY")], NEWEST_14, packing="shared")
    document["targets"] += [
        {"id": "other", "media": "disk", "site": "here", "packing": "shared"},
        {"id": "plain", "media": "disk", "site": "here"},
    ]
    for name in ("other", "plain"):
        document["routes"][0]["copies"].append({"id": name, "target": name, "from": "first", "ladder": "rule"})
    found = result(document)
    moved = {}
    for holding in found.holdings:
        target = found.design.targets[holding.target]
        moved[target.id] = moved_of(found, holding)[:3] / 1e12
    assert moved["disk"] == pytest.approx([10, 10, 10])
    assert moved["other"] == pytest.approx([10, 0.2, 0.2])
    assert moved["plain"] == pytest.approx([10, 10, 10])


def test_restore_of_a_differential_takes_two_points_of_an_incremental_all_since_the_full() -> None:
    """NIST SP 800-34 Rev. 1, backup methods (from memory), and common practice, no source."""
    runs = [run("full", "FREQ=WEEKLY;BYDAY=FR"), run("differential", "FREQ=DAILY")]
    differential = result(design(runs, NEWEST_14)).holdings[0].life
    incremental = result(design([runs[0], run("incremental", "FREQ=DAILY")], NEWEST_14)).holdings[0].life
    assert [len(restore_chain(read_before(differential), place)) for place in range(8)] == [1, 2, 2, 2, 2, 2, 2, 1]
    assert [len(restore_chain(read_before(incremental), place)) for place in range(8)] == [1, 2, 3, 4, 5, 6, 7, 1]


@pytest.mark.parametrize(("points", "chance"), [(31, 0.969461), (2, 0.998001)])
def test_chance_that_a_chain_is_whole(points: int, chance: float) -> None:
    """Binomial: none of n points bad, by `scipy.stats.binom`."""
    assert chance_whole(points, 0.001) == pytest.approx(binom.pmf(0, points, 0.001), rel=1e-12)
    assert round(chance_whole(points, 0.001), 6) == chance


def test_time_and_requests_of_ten_terabytes() -> None:
    """10 TB at 125 MB/s: 22.22 h; in parts of 1 MiB and of 1 MB 9,536,744 and 10,000,000 requests (plain arithmetic)."""
    assert round(transfer_seconds(10e12, 125e6) / 3600, 2) == 22.22
    assert (requests(10e12, 2**20), requests(10e12, 1e6)) == (9_536_744, 10_000_000)


def test_run_takes_the_slowest_of_its_ways_and_twice_that_when_verified() -> None:
    """Verifying after a run about doubles its time (common practice, no source)."""
    assert run_seconds(1e12, [500e6, 125e6, 300e6]) == 8000
    assert run_seconds(1e12, [500e6, 125e6, 300e6], verified=True) == 16000
    with pytest.raises(ValueError, match="expected a speed above 0, got 0"):
        run_seconds(1e12, [0])


def test_forecast_tells_how_far_it_is_and_stops_when_asked() -> None:
    told: list[tuple[int, int]] = []
    design_of_demo = read_design(DEMO.read_bytes())
    forecast(design_of_demo, watch=lambda done, of: told.append((done, of)))
    parts = len(design_of_demo.routes) + len(design_of_demo.targets)
    assert told == [(done, parts) for done in range(1, parts + 1)]

    def stop(done: int, _of: int) -> None:
        if done == 2:
            raise Stopped

    with pytest.raises(Stopped):
        forecast(design_of_demo, watch=stop)
