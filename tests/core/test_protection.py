"""3-2-1 (common practice, no source): three copies with the original, two kinds of media, one off site; from the points there."""

import json
from typing import Any

import pytest

from shelf_core.design.reading import read_design
from shelf_core.forecast.effects import effects
from shelf_core.forecast.forecast import forecast
from shelf_core.forecast.protection import Protection, protection_on
from shelf_core.forecast.route_words import copy_sentence
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design, run

ON = "2027-06-30"


def three_copies() -> dict[str, Any]:
    document = design(WEEKLY_FULL, NEWEST_14)
    document["sites"].append({"id": "there"})
    document["targets"].append({"id": "away", "media": "object", "site": "there", "lock": "final"})
    copy = {"id": "second", "target": "away", "from": "first", "ladder": "rule", "lock": {"for": "P30D"}}
    document["routes"][0]["copies"].append(copy)
    return document


def judged(document: dict[str, Any], on: str = ON) -> Protection:
    (group,) = protection_on(forecast(read_design(json.dumps(document))), on)["way"]
    return group


def test_disk_here_and_object_there_make_three_two_one() -> None:
    group = judged(three_copies())
    assert (group.copies, group.media, group.sites, group.locked) == (3, ("disk", "object"), ("here", "there"), True)
    assert group.missing == ()
    assert (group.oldest_days, group.verdict) == (0, "3-2-1 holds on 30 June 2027, oldest copy 0 days")


def test_what_is_not_there_is_not_judged() -> None:
    """Before a workload begins there is nothing to protect, nor once it has ended and its last point is gone."""
    document = three_copies()
    document["workloads"][0] |= {"from": "2027-03-01", "until": "2027-04-30"}
    document["ladders"][0] = {"id": "rule", "recent": [{"keep": "P14D"}], "floor": 0}
    del document["routes"][0]["copies"][1]["lock"]
    result = forecast(read_design(json.dumps(document)))
    assert protection_on(result, "2027-02-28")["way"] == []
    assert len(protection_on(result, "2027-03-01")["way"]) == 1
    assert len(protection_on(result, "2027-05-03")["way"]) == 1, "its points outlive it"
    assert protection_on(result, "2027-09-01")["way"] == []


def test_verdict_says_how_old_the_oldest_newest_point_is() -> None:
    """A copy away that takes the last point of each month, a day later: on 30 June its newest is that of 31 May."""
    document = three_copies()
    document["ladders"][0]["rungs"] = [{"name": "monthly", "every": "month", "pick": "last", "from": "any", "keep": "P1Y"}]
    document["routes"][0]["copies"][1] |= {"take": {"rungs": ["monthly"]}, "delay": "P1D"}
    group = judged(document)
    assert (group.oldest_days, group.verdict) == (30, "3-2-1 holds on 30 June 2027, oldest copy 30 days")
    document["targets"][1]["site"] = "here"
    assert judged(document).verdict == "3-2-1 lacks a copy off site on 30 June 2027, oldest copy 30 days"


@pytest.mark.parametrize(
    ("change", "missing"),
    [
        ({"media": "disk"}, ("a second kind of media",)),
        ({"site": "here"}, ("a copy off site",)),
    ],
)
def test_what_is_missing_is_named(change: dict[str, Any], missing: tuple[str, ...]) -> None:
    document = three_copies()
    document["targets"][1] |= change
    assert judged(document).missing == missing


def test_snapshots_beside_the_source_are_no_copy_of_it() -> None:
    document = design([run("snapshot", "FREQ=DAILY")], NEWEST_14)
    document["targets"] = [{"id": "disk", "media": "snapshot", "site": "here", "lock": "final"}]
    group = judged(document)
    assert (group.copies, group.missing) == (1, ("2 more copies", "a second kind of media", "a copy off site"))


def test_points_count_and_not_filled_cells() -> None:
    """Before the first run nothing is there, though the cells are filled; where the delay is not over, one copy is missing."""
    document = three_copies()
    document["routes"][0]["copies"][1]["delay"] = "P10D"
    assert judged(document, "2027-01-05").missing == ("1 more copy", "a second kind of media", "a copy off site")
    assert judged(document, "2027-01-20").missing == ()


def test_a_lock_that_has_run_out_is_none() -> None:
    document = three_copies()
    document["workloads"][0]["until"] = "2027-03-01"
    assert judged(document, "2027-03-20").locked
    assert not judged(document, "2027-05-20").locked


def test_copies_of_all_routes_count_for_a_workload() -> None:
    document = three_copies()
    second = document["routes"][0]["copies"].pop()
    del second["from"]
    document["routes"].append({"id": "other", "workloads": {"ids": ["data"]}, "copies": [{**second, "cadence": "beat"}]})
    assert judged(document).missing == ()


def test_effects_leave_out_what_stays_as_it_was() -> None:
    before = three_copies()
    after = three_copies()
    after["ladders"].append({"id": "short", "recent": [{"keep": {"points": 3}}]})
    after["routes"][0]["copies"][1] |= {"ladder": "short", "lock": []}
    old, new = (forecast(read_design(json.dumps(one))) for one in (before, after))
    (effect,) = effects(old, new, ON)
    place = old.place_of(ON)
    assert (effect.route, effect.copy, effect.target) == ("way", "second", "away")
    assert effect.points_before == old.targets[1].totals.points[place]
    assert effect.points_after == new.targets[1].totals.points[place] < effect.points_before
    assert effect.peak_after == pytest.approx(new.targets[1].totals.peak_bytes.max())


def test_effects_see_targets_that_come_and_go() -> None:
    before, after = design(WEEKLY_FULL, NEWEST_14), three_copies()
    there, back = (forecast(read_design(json.dumps(one))) for one in (before, after))
    assert [(one.target, one.points_before) for one in effects(there, back, ON)] == [("away", 0)]
    assert [(one.target, one.points_after) for one in effects(back, there, ON)] == [("away", 0)]


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({}, "Takes its own points by Beat; keeps by rule."),
        (
            {"from": "zero", "cadence": None, "delay": "P2D", "take": {"kinds": ["full", "log"]}},
            "Follows zero 2 days after it, taking fulls and logs; keeps by rule.",
        ),
        ({"from": "zero", "take": {"rungs": ["m"]}, "cadence": None}, "Follows zero, taking what m picked; keeps by rule."),
        ({"from": "zero"}, "Reads the newest point of zero by Beat; keeps by rule."),
        (
            {"lock": [{"for": "kept", "mode": "final"}, {"for": "P30D", "kinds": ["full"]}]},
            "Takes its own points by Beat; keeps by rule. Locked as long as it is kept (nobody can lift it) and for 30 days for full (liftable by special rights).",
        ),
        (
            {"step_downs": [{"after": "P6M", "target": "cold"}, {"after": "P1Y", "target": "frozen", "which": ["m", "w"], "keep_source": True}]},
            "Takes its own points by Beat; keeps by rule. After 6 months what a rung keeps steps down to Cold. After 1 year what m and w keep is also put on frozen.",
        ),
        ({"ladder": None, "rotation": {"scheme": "fifo", "sets": 3}, "sweep": "with-runs", "target": "tape", "cadence": "fulls"}, "keeps by rotating tapes in turn, 3 sets. Old points go only when a run comes."),
    ],
)  # fmt: skip
def test_copy_in_words(change: dict[str, Any], words: str) -> None:
    document = design(WEEKLY_FULL, {"rungs": [{"name": name, "every": "month", "keep": "P2Y"} for name in ("m", "w")]})
    document["cadences"][0]["name"] = "Beat"
    document["targets"].append({"id": "cold", "name": "Cold", "media": "object", "site": "here", "lock": "final"})
    document["targets"] += [
        {"id": "frozen", "media": "object", "site": "here", "lock": "final"},
        {"id": "tape", "media": "tape", "site": "here", "lock": "final"},
    ]
    document["cadences"].append({"id": "fulls", "runs": WEEKLY_FULL[:1]})
    (copy,) = document["routes"][0]["copies"]
    plain = {name: value for name, value in {**copy, **change}.items() if value is not None}
    document["routes"][0]["copies"] = [{**copy, "id": "zero"}, plain]
    read = read_design(json.dumps(document))
    assert copy_sentence(read.routes[0].copies[1], read.routes[0], read).endswith(words)


def test_every_workload_of_the_demo_is_judged_once_a_route() -> None:
    result = forecast(read_design(DEMO.read_bytes()))
    for route, groups in protection_on(result, "2029-12-31").items():
        ids = [name for group in groups for name in group.workloads]
        assert len(ids) == len(set(ids)), route
