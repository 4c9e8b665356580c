"""Changes of a design, as the pages make them: in place, at a place, all checked together; replacements."""

import json
from typing import Any

import pytest

from shelf_core.design import starting_points
from shelf_core.design.document import Design
from shelf_core.design.editing import WHOLE, Change, entry_of, mentions_of, with_changes
from shelf_core.design.edits.replacing import replacing
from shelf_core.design.faults import DesignError
from shelf_core.design.ladders import Ladder
from shelf_core.design.patterns import Window, window_of, window_times
from shelf_core.design.reading import read_design
from shelf_core.design.targets import Site
from tests.designs import NEWEST_14, WEEKLY_FULL, design


def small(**more: Any) -> Design:
    return read_design(json.dumps(design(WEEKLY_FULL, NEWEST_14, **more)))


def test_entries_are_replaced_in_place_added_and_taken_out() -> None:
    sites = [{"id": name} for name in ("here", "a", "b")]
    changes = [
        Change("sites", "a", Site(id="a", name="A")),
        Change("sites", "b", None),
        Change("sites", "c", Site(id="c"), place=0),
        Change("sites", "d", Site(id="d")),
    ]
    changed = with_changes(small(sites=sites), changes)
    assert [(site.id, site.name) for site in changed.sites] == [("c", ""), ("here", ""), ("a", "A"), ("d", "")]


def test_unsound_results_and_contradictions_are_refused_whole() -> None:
    rule = Change("ladders", "rule", None)
    for changes, place in [
        ([rule], "routes[0].copies[0].ladder"),
        ([rule, rule], "changes[1].key"),
        ([Change("ladders", "rule", Ladder(id="other"))], "changes[0].key"),
        ([Change("settings", "else", None)], "changes[0].key"),
    ]:
        with pytest.raises(DesignError) as refused:
            with_changes(small(), changes)
        assert refused.value.faults[0].place == place


def test_settings_and_stock_are_entries() -> None:
    settings = entry_of(small(), "settings", WHOLE)
    assert settings is not None
    assert with_changes(small(), [Change("settings", WHOLE, settings.model_copy(update={"years": 3}))]).years == 3
    assert entry_of(small(), "stock", "other") is None
    with pytest.raises(KeyError):
        entry_of(small(), "walls", "rule")


def test_what_is_in_use_is_said_in_words() -> None:
    words = {part: [one.words for one in mentions_of(small(), part, key)] for part, key in [("sites", "here"), ("targets", "disk"), ("cadences", "beat"), ("ladders", "rule"), ("workloads", "data"), ("routes", "way")]}  # fmt: skip
    assert words == {
        "sites": ["the target disk stands there", "the workload data is there"],
        "targets": ["the copy first of way lies on it"],
        "cadences": ["the copy first of way runs by it"],
        "ladders": ["the copy first of way keeps by it"],
        "workloads": ["the route way names it"],
        "routes": [],
    }


def test_a_replacement_takes_every_place() -> None:
    targets = [{"id": name, "media": "disk", "site": "here"} for name in ("disk", "next", "cold")]
    document = small(targets=targets)
    copy = document.routes[0].copies[0]
    stepping = copy.model_copy(update={"step_downs": [{"after": "P1M", "target": "cold"}]})
    document = read_design(json.dumps({**document.canonical(), "routes": [{**document.routes[0].plain(), "copies": [{**copy.plain(), "step_downs": stepping.step_downs}]}]}))  # fmt: skip
    changed = with_changes(document, replacing(document, "targets", "cold", "next"))
    assert changed.routes[0].copies[0].step_downs[0].target == "next"
    assert [target.id for target in changed.targets] == ["disk", "next"]
    with pytest.raises(DesignError, match="expected another id of targets"):
        replacing(document, "targets", "cold", "cold")
    with pytest.raises(DesignError, match="expected another id"):
        replacing(document, "workloads", "data", "data")


def test_a_workload_leaves_holds_and_stock_behind() -> None:
    hold = {"workloads": {"ids": ["data"]}, "taken_from": "2027-01-01", "taken_to": "2027-02-01", "placed": "2027-02-01"}
    opening = [{"route": "way", "copy": "first", "workload": "data", "taken": "2026-12-31T10:00", "kind": "full"}]
    document = small(holds=[hold], opening=opening)
    assert [one.words for one in mentions_of(document, "workloads", "data")] == [
        "the route way names it",
        "1 of its points are opening stock",
        "a hold names it",
    ]
    changed = with_changes(document, replacing(document, "workloads", "data", None))
    assert (changed.workloads, changed.opening, changed.holds[0].workloads.ids) == ([], [], [])
    gone = with_changes(document, replacing(document, "routes", "way", None))
    assert (gone.routes, gone.opening) == ([], [])


def test_windows_are_times_of_day_evenly_apart() -> None:
    times = window_times(Window(first="08:00", last="20:00", minutes=240))
    assert times == ["08:00", "12:00", "16:00", "20:00"]
    assert window_of(times) == Window(first="08:00", last="20:00", minutes=240)
    assert window_times(Window(first="08:00", last="09:00", minutes=45)) == ["08:00", "08:45"]
    assert [window_of(one) for one in (["08:00", "09:00"], ["08:00", "09:00", "11:00"], ["22:00", "10:00", "11:00"])] == [
        None
    ] * 3
    with pytest.raises(ValueError, match="ends at 08:00 or later"):
        window_times(Window(first="08:00", last="07:00", minutes=5))


def test_starting_points_are_sound_as_they_stand() -> None:
    """Each can be added to a design as it is offered."""
    document = small(sites=[{"id": "here"}, {"id": "site"}])
    for start in starting_points.LADDERS:
        assert with_changes(document, [Change("ladders", start.ladder.id, start.ladder)]).ladders[-1] == start.ladder
    for target in (start.target for start in starting_points.TARGETS):
        assert with_changes(document, [Change("targets", "new", target)]).targets[-1].prices is not None


def test_native_capacities_of_tape_are_those_of_the_format() -> None:
    """Native capacities of the open LTO format by generation (from memory)."""
    sizes = {one.target.generation: one.target.cartridge for one in starting_points.TARGETS if one.target.media == "tape"}
    assert sizes == {"LTO-7": "6 TB", "LTO-8": "12 TB", "LTO-9": "18 TB"}
