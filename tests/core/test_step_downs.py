"""Step-downs, holds, opening stock and parts of an index on designs small enough to work out by hand."""

import json
from typing import Any

import pytest

from shelf_core.design.faults import DesignError
from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.points import PointRow, points_on
from tests.designs import NEWEST_14, WEEKLY_FULL, design, run


def result(document: dict[str, Any]) -> Forecast:
    return forecast(read_design(json.dumps(document)))


def sinking(document: dict[str, Any], *, cold: dict[str, Any] | None = None, **step: Any) -> dict[str, Any]:
    """The design with a cold store that points of its first copy step down to."""
    document["targets"].append({"id": "cold", "media": "object", "site": "here", **(cold or {})})
    document["routes"][0]["copies"][0]["step_downs"] = [{"target": "cold", **step}]
    return document


def on(document: dict[str, Any], day: str) -> list[PointRow]:
    return list(points_on(result(document), day))


def weekly_for(weeks: int) -> dict[str, Any]:
    return {"recent": [], "rungs": [{"name": "weekly", "every": "week", "keep": f"P{weeks}W"}]}


@pytest.mark.parametrize(("weeks", "moves"), [(30, True), (20, False)])
def test_weekly_points_and_a_store_that_bills_180_days(weeks: int, moves: bool) -> None:
    """The coldest archive classes bill at least 180 days (common practice, no source).

    A weekly point kept 30 weeks (210 days) that moves within 30 days may go there, one kept 20 weeks (140 days) never.
    """
    document = design([run("full", "FREQ=WEEKLY;BYDAY=MO")], weekly_for(weeks), years=2)
    cold = result(sinking(document, cold={"minimum_days": 180}, after="P29D")).targets[1]
    assert bool(cold.totals.points.max()) is moves


def test_move_that_is_one_second_too_late_for_the_minimum_stay() -> None:
    """210 days less 30 are 180: a sweep at the very hour of the 30th day is in time, the midnight sweep after it is not."""
    in_time = design([run("full", "FREQ=DAILY", "12:00")], weekly_for(30), years=2)
    too_late = design([run("full", "FREQ=WEEKLY;BYDAY=MO", "12:00")], weekly_for(30), years=2)
    days = [result(sinking(one, cold={"minimum_days": 180}, after="P30D")).targets[1] for one in (in_time, too_late)]
    assert [bool(one.totals.points.max()) for one in days] == [True, False]


@pytest.mark.parametrize(("weeks", "below"), [(40, 36), (27, 0)])
def test_release_is_foreseen_past_the_end_of_the_design(weeks: int, below: int) -> None:
    """Claims of the newest 40 or 27 weeks end with writes of the year after, which the design does not cover.

    With 27 a point has at most 158 days to go when it is 30 days old, the last of the year too. With 40 those of the 13th to
    the 48th Monday lie below at the year's end: the newest 40 but for the four that are too young.
    """
    ladder = {"recent": [], "rungs": [{"name": "weekly", "every": "week", "keep": {"periods": weeks}}]}
    document = design([run("full", "FREQ=WEEKLY;BYDAY=MO", "12:00")], ladder)
    cold = result(sinking(document, cold={"minimum_days": 180}, after="P30D")).targets[1]
    assert cold.totals.points[-1] == below


def test_chain_moves_as_a_whole_once_its_youngest_claimed_point_may() -> None:
    """Weekly fulls on Saturdays, daily incrementals, 20 days kept.

    The chain of 2 January moves when that of the 8th is 9 days old: on the 17th at 22:00, full and six incrementals together.
    """
    document = design(WEEKLY_FULL, {"recent": [{"keep": "P20D"}]})
    sinking(document, after="P9D", which="all", **{"as": "chain"})
    before, after = on(document, "2027-01-16"), on(document, "2027-01-17")
    assert [row.taken[:10] for row in before if row.target == "cold"] == ["2027-01-01"]
    moved = [(row.taken[8:10], row.kind) for row in after if row.target == "cold"]
    assert moved == [("01", "full"), ("02", "full"), *((f"{day:02}", "incremental") for day in range(3, 9))]
    assert result(document).targets[1].totals.stored_bytes[16] == pytest.approx(10e12 + 10e12 + 6 * 0.2e12)


def test_step_down_as_fulls_leaves_what_newer_points_need() -> None:
    """Each incremental becomes a full below; the chain above stays as long as the newest of it is claimed and on no stage."""
    document = design(WEEKLY_FULL, {"recent": [{"keep": "P20D"}]})
    rows = on(sinking(document, after="P9D", which="all"), "2027-01-15")
    below = [row for row in rows if row.target == "cold"]
    assert {round(row.stored_bytes) for row in below} == {10_000_000_000_000}
    assert [(row.taken[8:10], row.state) for row in rows if row.target == "disk"][:3] == [
        ("02", "needed"),
        ("03", "needed"),
        ("04", "needed"),
    ]
    first = next(row for row in rows if row.target == "disk")
    assert (first.claims, first.needed_by, first.lock) == (("recent",), "2027-01-03T22:00", "")


def test_hold_keeps_what_is_there_when_it_is_placed() -> None:
    document = design([run("full", "FREQ=DAILY")], {"recent": [{"keep": "P5D"}]})
    hold = {"workloads": {"ids": ["data"]}, "taken_from": "2027-01-01", "taken_to": "2027-01-08", "placed": "2027-01-10"}
    document["holds"] = [{**hold, "released": "2027-02-01"}]
    held = [row.taken[8:10] for row in on(document, "2027-01-31") if "hold" in row.claims]
    # At the midnight that begins the 10th those taken up to noon of the 4th are gone.
    assert held == ["05", "06", "07", "08"]
    assert [row for row in on(document, "2027-02-01") if row.taken < "2027-01-09"] == []


def test_opening_stock_follows_the_same_rules() -> None:
    """The first incremental builds on it; its own size counts where points lie by themselves; it goes when its time is over."""
    document = design([run("incremental", "FREQ=DAILY", "12:00")], {"recent": [{"keep": "P10D"}]})
    stock = {"route": "way", "copy": "first", "workload": "data", "kind": "full", "size": "7 TB"}
    document["opening"] = [{**stock, "taken": "2026-12-30T12:00"}]
    first = on(document, "2027-01-01")
    assert [(row.run, row.kind, row.stored_bytes / 1e12) for row in first] == [
        ("opening", "full", 7.0),
        ("incremental1200", "incremental", pytest.approx(10 * (1 - 0.98**2))),
    ]
    assert on(document, "2027-01-20")[0].state == "needed"


def test_opening_stock_must_be_older_than_the_design() -> None:
    document = design([run("full", "FREQ=DAILY")], NEWEST_14)
    stock = {"route": "way", "copy": "first", "workload": "data", "kind": "full"}
    document["opening"] = [{**stock, "taken": "2027-01-01T00:00"}]
    with pytest.raises(DesignError, match=r"opening\[0\].taken: expected a time before 2027-01-01"):
        result(document)


def test_backup_of_an_index_stays_while_a_part_of_it_is_offline() -> None:
    """The backup of a multi-part index goes only when every part it holds has been backed up again.

    With parts offline at the next runs, the earlier backup stays (common practice, no source).
    """
    ladder = {"recent": [{"keep": {"superseded": {"extra": 0}}}]}
    members = [{"id": "a"}, {"id": "b", "offline": [["2027-01-05", "2027-01-09"]]}]
    document = design([run("full", "FREQ=DAILY")], ladder, workload={"members": members})
    points = result(document).targets[0].totals.points[:11].tolist()
    assert points == [1, 1, 1, 1, 2, 2, 2, 2, 2, 1, 1]


def test_closed_part_is_let_go_unless_it_is_to_stay() -> None:
    ladder = {"recent": [{"keep": {"superseded": {"extra": 0}}}]}
    counts = []
    for keep in (None, True, "2027-01-20"):
        closed = {"id": "b", "closed_from": "2027-01-10"} | ({} if keep is None else {"keep_closed": keep})
        document = design([run("full", "FREQ=DAILY")], ladder, workload={"members": [{"id": "a"}, closed]})
        counts.append(result(document).targets[0].totals.points[[8, 9, 15, 30]].tolist())
    assert counts == [[1, 1, 1, 1], [1, 2, 2, 2], [1, 2, 2, 1]]


def test_snapshots_beside_the_source_and_what_is_copied_off_them() -> None:
    """Hourly would be the same: snapshots at noon, the newest 3; each holds what was overwritten until the next: 2 % of 10 TB.

    Half a day after the newest one it holds 1 - 0.98^0.5 of it. What is copied off is a full, then incrementals.
    """
    document = design([run("snapshot", "FREQ=DAILY", "12:00")], {"recent": [{"keep": {"points": 3}}]})
    document["targets"] = [
        {"id": "disk", "media": "snapshot", "site": "here"},
        {"id": "away", "media": "disk", "site": "here"},
    ]
    document["ladders"].append({"id": "long", "recent": [{"keep": {"points": 9}}]})
    document["routes"][0]["copies"].append({"id": "off", "target": "away", "from": "first", "ladder": "long"})
    found = result(document)
    beside = found.targets[0].totals
    assert beside.stored_bytes[9] == pytest.approx(2 * 0.2e12 + 10e12 * (1 - 0.98**0.5))
    assert beside.peak_bytes[9] == pytest.approx(3 * 0.2e12)
    assert [row.kind for row in points_on(found, "2027-01-03") if row.copy == "off"] == ["full", "incremental", "incremental"]


@pytest.mark.parametrize(
    ("step", "message"),
    [
        ({"target": "disk"}, "target: expected another target than the stage before"),
        ({"as": "chain"}, 'which: expected "all" for a chain'),
        ({"as": "chain", "which": "all", "target": "pool"}, 'as: expected "full", since a chain lies on separate packing'),
        ({"target": "beside"}, "target: expected another than snapshot space"),
    ],
)
def test_step_down_that_cannot_be_is_refused(step: dict[str, Any], message: str) -> None:
    document = sinking(design([run("full", "FREQ=DAILY")], NEWEST_14), after="P9D")
    document["targets"] += [
        {"id": "pool", "media": "disk", "site": "here", "packing": "shared"},
        {"id": "beside", "media": "snapshot", "site": "here"},
    ]
    document["routes"][0]["copies"][0]["step_downs"][0] |= step
    with pytest.raises(DesignError, match=rf"routes\[0\].copies\[0\].step_downs\[0\].{message}"):
        result(document)


def test_points_of_a_design_are_counted_before_they_are_too_many(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("shelf_core.engine.retention.size_limit.MOST_POINTS", 300)
    with pytest.raises(DesignError, match=r"routes\[0\].copies\[0\]: expected at most 300 points in a design, got 365"):
        result(design([run("full", "FREQ=DAILY")], NEWEST_14))
