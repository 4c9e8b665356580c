"""Findings: each slip is named where it is, and a sound design has none."""

import json
from collections.abc import Callable
from typing import Any

import pytest

from shelf_core.design.reading import read_design
from shelf_core.forecast.finding import Finding
from shelf_core.forecast.findings import findings
from shelf_core.forecast.forecast import forecast
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design, run

Document = dict[str, Any]


def found(document: Document) -> list[Finding]:
    return findings(forecast(read_design(json.dumps(document))))


def sound() -> Document:
    """Weekly fulls, nightly changes, a copy on another site."""
    document = design(WEEKLY_FULL, NEWEST_14)
    document["sites"].append({"id": "there"})
    document["targets"].append({"id": "away", "media": "object", "site": "there", "lock": "final"})
    document["routes"][0]["copies"].append({"id": "second", "target": "away", "from": "first", "ladder": "rule"})
    return document


def test_sound_design_has_none() -> None:
    assert found(sound()) == []


def rung_after_the_last_full(document: Document) -> None:
    """No Saturday comes after the fifth Sunday of a month."""
    document["ladders"][0]["rungs"] = [{"name": "late", "every": "month", "on": "5SU", "keep": "P1Y"}]


def minimum_stay(document: Document) -> None:
    document["targets"].append({"id": "cold", "media": "object", "site": "there", "lock": "final", "minimum_days": 180})
    document["ladders"][0]["rungs"] = [{"name": "weekly", "every": "week", "keep": "P20W"}]
    document["routes"][0]["copies"][0]["step_downs"] = [{"after": "P14D", "target": "cold"}]


def chain(document: Document) -> None:
    document["cadences"][0]["runs"] = [run("incremental", "FREQ=DAILY")]


def lock(document: Document) -> None:
    document["routes"][0]["copies"][1]["lock"] = {"for": "P90D"}


def forever(document: Document) -> None:
    document["ladders"][0]["recent"] = [{"keep": "forever"}]


def cannot_lock(document: Document) -> None:
    document["targets"][1]["lock"] = "none"
    document["routes"][0]["copies"][1]["lock"] = {"for": "P14D"}


def only_liftable(document: Document) -> None:
    document["targets"][1]["lock"] = "liftable"
    document["routes"][0]["copies"][1]["lock"] = {"for": "P14D", "mode": "final"}


def on_tape(document: Document, kind: str, at: str, **keeping: Any) -> None:
    """A second copy on tape that reads the first at its own runs."""
    document["targets"][1] |= {"media": "tape", "cartridge": "18 TB", "slots": 40}
    document["cadences"].append({"id": "to-tape", "runs": [run(kind, "FREQ=WEEKLY;BYDAY=SU", at)]})
    document["routes"][0]["copies"][1] = {"id": "second", "target": "away", "from": "first", "cadence": "to-tape", **keeping}


def in_turn(document: Document) -> None:
    on_tape(document, "full", "12:00", rotation={"scheme": "fifo", "sets": 3}, lock={"for": "P30D"})


def few_slots(document: Document) -> None:
    on_tape(document, "full", "12:00", ladder="rule")
    document["targets"][1] |= {"slots": 3, "batch_closes": "run"}


def synthetics(document: Document) -> None:
    on_tape(document, "synthetic", "12:00", ladder="rule")


def at_once(document: Document) -> None:
    """The first copy runs at 22:00 every day."""
    on_tape(document, "full", "22:20", ladder="rule")


def ended(document: Document) -> None:
    document["workloads"][0]["until"] = "2027-06-30"


def nowhere(document: Document) -> None:
    document["workloads"].append({"id": "lost", "name": "Lost files", "site": "here", "size": "1 TB"})


def one_site(document: Document) -> None:
    document["targets"][1]["site"] = "here"


def beside(document: Document) -> None:
    document["targets"] = [{"id": "disk", "media": "snapshot", "site": "here", "lock": "final"}]
    document["cadences"][0]["runs"] = [run("snapshot", "FREQ=DAILY")]
    del document["routes"][0]["copies"][1]


def skipped(document: Document) -> None:
    document["timezone"] = "Europe/Oslo"
    document["cadences"][0]["runs"][0]["at"] = ["02:30"]
    document["cadences"][0]["runs"][0]["rrule"] = "FREQ=WEEKLY;BYDAY=SU"


def late(document: Document) -> None:
    """Of chains of a week the newest 14 points are kept: after 20 days each chain has gone, and the copy comes after 20."""
    document["routes"][0]["copies"][1]["delay"] = "P20D"


def mostly_unlocked(document: Document) -> None:
    document["routes"][0]["copies"][1]["lock"] = {"for": "P1D", "kinds": ["full"]}


def cold_index(document: Document) -> None:
    document["workloads"][0] |= {"name": "Mail index", "members": [{"id": "m"}]}
    document["targets"][1]["minimum_days"] = 90


@pytest.mark.parametrize(
    ("slip", "kind", "words"),
    [
        (rung_after_the_last_full, "rung without candidates", "The rung late claims nothing on way: first"),
        (
            minimum_stay,
            "minimum stay never met",
            "What weekly keeps of way: first never steps down to cold, which bills at least 180 days",
        ),
        (chain, "chain never closes", "way: first takes one full and then changes alone, so nothing ever goes"),
        (
            lock,
            "lock outlasts its ladder",
            "The lock of way: second on away outlasts what its ladder keeps, for half of the points by 7",
        ),
        (forever, "ladder never lets go", "way: first keeps points for good"),
        (ended, "stock of an ended workload", "data ends on 30 June 2027, and"),
        (nowhere, "workload no route takes", "No route takes Lost files."),
        (one_site, "one site only", "All points of data lie on the site of the source."),
        (beside, "on its source's storage only", "All points of data lie beside their source, on its own storage."),
        (
            skipped,
            "skipped by a clock change",
            "full2200 runs at a local time that a clock change skips, first on Sunday 28 March 2027, 02:30",
        ),
        (late, "source gone before the copy", "345 of the 345 points that way: second should take are gone from first"),
        (mostly_unlocked, "most of it unlocked", "The lock of way: second on away covers 0 of the 14 points that are there"),
        (
            cannot_lock,
            "lock that its target cannot keep",
            "The lock of way: second on away holds nothing there: it cannot lock",
        ),
        (only_liftable, "lock that its target cannot keep", "The lock of way: second on away is no more than liftable there"),
        (in_turn, "lock on tapes in turn", "The lock of way: second holds nothing: its tapes are written over in turn"),
        (few_slots, "more cartridges than slots", "away has 3 slots; from "),
        (synthetics, "synthetic on tape", "way: second puts synthetic fulls together on away"),
        (at_once, "starts with its source", "way: second starts 20 minutes after first does"),
        (cold_index, "index on cold storage", "Mail index, an index of what is stored, lies on away, a cold store"),
    ],
)
def test_slip_is_named(slip: Callable[[Document], None], kind: str, words: str) -> None:
    document = sound()
    slip(document)
    named = [one for one in found(document) if one.kind == kind]
    assert named
    assert named[0].sentence.startswith(words)
    assert named[0].way_out.endswith(".")


def test_demo_has_the_slips_it_was_made_with() -> None:
    """A lock longer than its ladder, a route with all its copies on one site, a chain that never closes, an ended workload."""
    kinds = {one.kind for one in findings(forecast(read_design(DEMO.read_bytes())))}
    assert kinds >= {"lock outlasts its ladder", "one site only", "chain never closes", "stock of an ended workload"}
    assert "minimum stay never met" in kinds


def kept_lock(document: Document) -> None:
    """What is kept is locked as long: nothing of it can be deleted."""
    document["ladders"][0] = {"id": "rule", "recent": [{"keep": "P14D"}], "floor": 0}
    document["routes"][0]["copies"][1]["lock"] = {"for": "kept"}


def short_delay(document: Document) -> None:
    document["routes"][0]["copies"][1]["delay"] = "P2D"


def index_at_hand(document: Document) -> None:
    document["workloads"][0]["members"] = [{"id": "m"}]


def other_zone(document: Document) -> None:
    """02:30 is skipped in Oslo, and not in a zone without summer time."""
    document["timezone"] = "Asia/Kolkata"
    document["cadences"][0]["runs"][0]["at"] = ["02:30"]


def hourly(document: Document) -> None:
    """Each hour at half past: the run of 02:30 that Oslo's clocks skip is that of 03:30, which takes place anyway."""
    document["timezone"] = "Europe/Oslo"
    document["cadences"][0]["runs"].append(run("incremental", "FREQ=HOURLY", "00:30"))
    document["ladders"][0] = {"id": "rule", "recent": [{"keep": "P14D"}]}


def enough_slots_since_some_are_away(document: Document) -> None:
    """Cartridges that are closed leave for a store, so that three slots are enough."""
    few_slots(document)
    document["targets"][1] |= {"returns_after": "P3D"}


def ends_empty(document: Document) -> None:
    """A workload that ends and leaves nothing behind."""
    document["workloads"][0]["until"] = "2027-06-30"
    document["ladders"][0] = {"id": "rule", "recent": [{"keep": "P14D"}], "floor": 0}


@pytest.mark.parametrize(
    "change", [kept_lock, short_delay, index_at_hand, other_zone, hourly, enough_slots_since_some_are_away, ends_empty]
)
def test_what_only_looks_like_a_slip_is_none(change: Callable[[Document], None]) -> None:
    document = sound()
    change(document)
    assert found(document) == []


def test_a_plan_that_restores_nothing_first_is_found() -> None:
    """A catalogue is what everything else is found by (common practice, no source)."""
    document = sound()
    name = document["workloads"][0]["id"]
    document["recovery_plans"] = [{"id": "p", "name": "All back", "groups": [{"workloads": [name]}]}]
    (only,) = found(document)
    assert (only.kind, only.sentence[:44]) == ("nothing is needed first", "The plan All back restores nothing before al")
    document["workloads"][0]["needed_first"] = True
    assert found(document) == []
