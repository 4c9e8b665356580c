"""Rules that were settled after they had been computed otherwise: each with the smallest design that tells the two apart.

The expected values are worked out by hand; common practice, no source, where nothing else is named.
"""

import json
from typing import Any

import numpy as np
import pytest

from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.moves import moved_of
from shelf_core.forecast.points import points_on
from shelf_core.forecast.series import moved_each_day
from shelf_core.forecast.tape import used_cartridges
from tests.designs import design, run

TB = 1e12
STILL = {"daily_change_percent": 0}


def result(document: dict[str, Any]) -> Forecast:
    return forecast(read_design(json.dumps(document)))


def taken(found: Forecast, day: str, target: str = "disk") -> list[str]:
    return [f"{row.workload} {row.taken[:10]}" for row in points_on(found, day) if row.target == target]


def opening(kind: str, at: str, **more: Any) -> dict[str, Any]:
    return {"route": "way", "copy": "first", "workload": "data", "taken": at, "kind": kind, **more}


def test_opening_stock_does_not_raise_the_peak_of_the_last_day() -> None:
    """1 TB, a daily full, the newest 1, beside an opening full of 100 TB: the last day holds two points of 1 TB at most."""
    document = design([run("full", "FREQ=DAILY")], {"recent": [{"keep": {"points": 1}}]}, workload={"size": "1 TB"} | STILL)
    document["targets"][0]["capacity"] = "50 TB"
    document["opening"] = [opening("full", "2026-12-31T22:00", size="100 TB")]
    found = result(document)
    assert found.targets[0].totals.peak_bytes[[0, 1, -1]].tolist() == [101 * TB, 2 * TB, 2 * TB]
    assert found.day(found.targets[0].full_on or 0) == "2027-01-01"
    document["opening"][0]["size"] = "40 TB"
    assert result(document).targets[0].full_on is None


def test_a_peak_is_not_less_than_the_day_ends_with() -> None:
    """On shared packing a sum rises at a sweep where changes are reduced more than fulls: the next point is the full then."""
    growing = {"annual_growth_percent": 10_000, "daily_change_percent": 0, "change_reduction": 1000}
    runs, newest = [run("incremental", "FREQ=DAILY")], {"recent": [{"keep": {"points": 1}}]}
    totals = result(design(runs, newest, packing="shared", workload=growing)).targets[0].totals
    assert np.all(np.diff(totals.stored_bytes) > 0.01 * TB)
    assert totals.peak_bytes.tolist() == totals.stored_bytes.tolist()


def test_a_batch_that_closes_at_midnight_does_not_take_the_run_of_that_midnight() -> None:
    """4 TB daily at 00:00 on cartridges of 18 TB that are closed each day: the second day begins another one."""
    document = design(
        [run("full", "FREQ=DAILY", "00:00")], {"recent": [{"keep": "forever"}]}, workload={"size": "4 TB"} | STILL
    )
    document["targets"][0] |= {"media": "tape", "cartridge": "18 TB", "batch_closes": "day"}
    found = result(document)
    in_use = used_cartridges(found, found.design.targets[0], found.holdings).in_use.at_end
    assert in_use[:4].tolist() == [1, 2, 3, 4]


def rotated(**second: Any) -> dict[str, Any]:
    """Two workloads, v and w, on tapes in turn, daily fulls at noon, two sets."""
    document = design([run("full", "FREQ=DAILY")], {}, workload=STILL)
    document["targets"][0] |= {"media": "tape", "cartridge": "18 TB"}
    document["workloads"] = [{**document["workloads"][0], "id": "v", **second}, {**document["workloads"][0], "id": "w"}]
    copy = {"id": "first", "target": "disk", "cadence": "beat", "rotation": {"scheme": "fifo", "sets": 2}}
    document["routes"][0] |= {"workloads": {"ids": ["v", "w"]}, "copies": [copy]}
    return document


def test_a_session_is_all_that_a_copy_writes_at_one_instant() -> None:
    """v ends on 3 January: its points go when the sets they lie on are written to again, by w alone."""
    found = result(rotated(until="2027-01-03"))
    assert taken(found, "2027-01-04") == ["v 2027-01-03", "w 2027-01-03", "w 2027-01-04"]
    assert taken(found, "2027-01-08") == ["w 2027-01-07", "w 2027-01-08"]
    used = used_cartridges(found, found.design.targets[0], found.holdings)
    assert (used.in_use.at_end[7], used.stranded_bytes.at_end[7]) == (2, 0)


def test_what_is_written_over_is_not_in_the_peak_of_that_instant_and_no_hold_keeps_it() -> None:
    document = rotated()
    document["holds"] = [
        {"workloads": {"ids": ["w"]}, "taken_from": "2027-01-01", "taken_to": "2027-12-31", "placed": "2027-01-01"}
    ]
    found = result(document)
    assert found.targets[0].totals.peak_bytes[5:9].tolist() == [40 * TB] * 4
    assert taken(found, "2027-01-08") == ["v 2027-01-07", "v 2027-01-08", "w 2027-01-07", "w 2027-01-08"]


def test_a_copy_of_a_rotation_does_not_find_what_is_written_over_at_that_instant() -> None:
    """fifo with one set: at each noon the tape of the day before is written over, also for what follows a day later."""
    document = rotated()
    document["routes"][0]["copies"][0]["rotation"]["sets"] = 1
    document["ladders"] = [{"id": "rule", "recent": [{"keep": "forever"}]}]
    document["targets"].append({"id": "away", "media": "object", "site": "here"})
    document["routes"][0]["copies"].append(
        {"id": "second", "target": "away", "from": "first", "delay": "P1D", "ladder": "rule"}
    )
    assert taken(result(document), "2027-02-01", "away") == []


def test_a_hold_does_not_bring_back_a_log_that_had_gone() -> None:
    """Logs are kept as long as the point before them. The full of the 1st is locked, so a hold of the 5th finds it; its logs
    were let go on the 3rd, and do not come back on the stage that the chain steps down to."""
    document = design(
        [run("full", "FREQ=WEEKLY;BYDAY=FR"), run("log", "FREQ=DAILY;COUNT=1", "18:00")],
        {"recent": [{"keep": "P1D"}], "floor": 0},
        workload={"log_per_day": "40 GB"},
    )
    document["targets"].append({"id": "cold", "media": "object", "site": "here"})
    document["routes"][0]["copies"][0] |= {
        "lock": {"for": "P20D", "kinds": ["full"]},
        "step_downs": [{"after": "P6D", "target": "cold", "which": "all", "as": "chain"}],
    }
    document["holds"] = [
        {"workloads": {"ids": ["data"]}, "taken_from": "2027-01-01", "taken_to": "2027-01-01", "placed": "2027-01-05"}
    ]
    found = result(document)
    assert [(row.taken[5:], row.kind) for row in points_on(found, "2027-01-09") if row.target == "cold"] == [
        ("01-01T12:00", "full")
    ]


def test_a_log_goes_with_the_newest_point_that_was_there_when_it_was_written() -> None:
    """The incremental of 1 January is gone at midnight, so the log of the 2nd goes with the full, which is kept three days."""
    document = design(
        [
            run("full", "FREQ=DAILY;COUNT=1", "06:00"),
            run("incremental", "FREQ=DAILY;COUNT=1", "09:00"),
            {"id": "log", "kind": "log", "once": ["2027-01-02T08:00"]},
        ],
        {"recent": [{"keep": "P3D", "kinds": ["full"]}, {"keep": "PT1H", "kinds": ["incremental"]}], "floor": 0},
        packing="shared",
        workload={"log_per_day": "40 GB"},
    )
    log = next(row for row in points_on(result(document), "2027-01-03") if row.kind == "log")
    assert (log.taken, log.claims, log.state, log.claimed_until) == (
        "2027-01-02T08:00",
        ("log",),
        "kept",
        "2027-01-04T06:00",
    )


def test_a_point_does_not_step_on_from_a_stage_that_it_has_left() -> None:
    """With its source kept, a point lies on both stages; the lock keeps it on the first alone. A hold that finds it there
    claims it, but what has gone from the second stage cannot go on from it to the third."""
    document = design([run("full", "FREQ=WEEKLY;BYDAY=FR")], {"recent": [{"keep": "P8D"}], "floor": 0})
    for name in ("cold", "coldest"):
        document["targets"].append({"id": name, "media": "object", "site": "here"})
    document["routes"][0]["copies"][0] |= {
        "lock": {"for": "P60D"},
        "step_downs": [
            {"after": "P7D", "target": "cold", "which": "all", "keep_source": True},
            {"after": "P14D", "target": "coldest", "which": "all"},
        ],
    }
    document["holds"] = [
        {"workloads": {"ids": ["data"]}, "taken_from": "2027-01-01", "taken_to": "2027-01-01", "placed": "2027-01-12"}
    ]
    found = result(document)
    assert taken(found, "2027-01-08", "cold") == ["data 2027-01-01"]
    assert "data 2027-01-01" not in taken(found, "2027-01-12", "cold")
    assert "data 2027-01-01" in taken(found, "2027-01-20")
    assert taken(found, "2027-03-01", "coldest") == []


def test_an_opening_synthetic_keeps_its_size_where_it_steps_down_to() -> None:
    document = design([run("full", "FREQ=DAILY")], {"recent": [{"keep": "P30D"}]}, workload=STILL)
    document["targets"].append({"id": "cold", "media": "object", "site": "here"})
    document["routes"][0]["copies"][0]["step_downs"] = [{"after": "P10D", "target": "cold", "which": "all"}]
    document["opening"] = [opening("synthetic", "2026-12-30T12:00", size="7 TB")]
    found = result(document)
    assert [row.stored_bytes for row in points_on(found, "2027-01-09") if row.target == "cold"] == [7 * TB]
    assert moved_each_day(found, "cold")[8] == 7 * TB


def test_moved_between_shared_targets_is_what_the_target_has_not_from_any_copy() -> None:
    """A copy after deduplication moves what is not there of the workload: what another copy brought counts too."""
    document = design([run("full", "FREQ=DAILY")], {"recent": [{"keep": "P5D"}]}, packing="shared")
    document["targets"].append({"id": "away", "media": "object", "site": "here", "packing": "shared"})
    late = {"target": "away", "from": "first", "ladder": "rule"}
    document["routes"][0]["copies"] += [{"id": "second", "delay": "P1D", **late}, {"id": "third", "delay": "P2D", **late}]
    found = result(document)
    moved = {holding.copy: moved_of(found, holding) / TB for holding in found.holdings}
    assert moved["second"][:3] == pytest.approx([10, 0.2, 0.2])
    assert moved["third"][:3] == pytest.approx([0, 0, 0])


def test_what_went_before_its_child_came_is_needed_by_nobody() -> None:
    """A chain is copied to a second stage at each synthetic. There its links go when their claims end, though the link that
    builds on them comes with the next synthetic, when they are gone."""
    synthetics = {"id": "s", "kind": "synthetic", "once": ["2027-01-05T00:00", "2027-01-12T00:00"]}
    document = design(
        [{**run("incremental", "FREQ=DAILY;INTERVAL=3"), "id": "a"}, synthetics],
        {"recent": [{"keep": "P3D", "runs": ["a"]}], "floor": 0},
    )
    document["targets"].append({"id": "cold", "media": "object", "site": "here"})
    document["routes"][0]["copies"][0]["step_downs"] = [
        {"after": "P0D", "target": "cold", "which": "all", "as": "chain", "keep_source": True}
    ]
    found = result(document)
    assert taken(found, "2027-01-06", "cold") == ["data 2027-01-01", "data 2027-01-04"]
    assert taken(found, "2027-01-08", "cold") == []
    assert taken(found, "2027-01-12", "cold") == ["data 2027-01-07", "data 2027-01-10"]


@pytest.mark.parametrize(("lock", "there"), [("none", 2), ("liftable", 5), ("final", 5)])
def test_a_lock_is_only_as_good_as_its_target(lock: str, there: int) -> None:
    """Daily fulls, the newest 2, locked five days: where the target knows no lock only two are there."""
    document = design([run("full", "FREQ=DAILY")], {"recent": [{"keep": {"points": 2}}]})
    document["targets"][0]["lock"] = lock
    document["routes"][0]["copies"][0]["lock"] = {"for": "P5D", "mode": "final"}
    assert result(document).targets[0].totals.points[20] == there
