"""Editing: versions, what is refused and why, history, undo by putting back, and the reference."""

import json
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.management import call_command

from shelf_core.design.reading import read_design
from shelf_core.forecast.consequences import consequences
from shelf_core.forecast.forecast import forecast
from shelf_server.designs.models import Change, Design
from shelf_server.designs.rows.reading import load_design
from tests.designs import DEMO
from tests.server.conftest import Caller, member

ON = "2027-06-30"


def ladder(keep: Any) -> dict[str, Any]:
    return {"id": "rule", "recent": [{"keep": keep}]}


def change(part: str, key: str, value: Any, seen: int | None, **more: Any) -> dict[str, Any]:
    return {"part": part, "key": key, "value": value, "seen": seen, **more}


def edit(caller: Caller, row: Design, *changes: dict[str, Any], on: str = ON) -> tuple[int, Any]:
    return caller("post", f"/designs/{row.pk}/edits", {"changes": list(changes), "on": on, "what": "tested"})


def put(caller: Caller, row: Design, keep: Any, seen: int | None, on: str = ON) -> tuple[int, Any]:
    return edit(caller, row, change("ladders", "rule", ladder(keep), seen), on=on)


def test_edit_is_saved_and_answers_with_the_core_s_numbers(owner: Caller, row: Design) -> None:
    status, answer = put(owner, row, {"points": 30}, 1)
    assert (status, answer["made"][0]["version"]) == (200, 2)
    expected = consequences(forecast(load_design(row)), ON)[0]
    now = answer["consequences"]["targets"][0]["now"]
    assert (now["points"], now["stored_bytes"], now["full_on"]) == (expected.points, expected.stored_bytes, expected.full_on)
    change = answer["consequences"]["targets"][0]["change"]
    assert change["points"] == expected.points - 19
    assert load_design(row).ladders[0].recent[0].keep.points == 30  # type: ignore[union-attr]


def test_stale_edit_is_refused_with_what_changed(owner: Caller, row: Design) -> None:
    other = member(row, "nils", "editor")
    assert put(other, row, "P9D", 1)[0] == 200
    status, problem = put(owner, row, {"points": 3}, 1)
    (entry,) = problem["entries"]
    assert (status, entry["part"], entry["key"], entry["who"], entry["version"]) == (409, "ladders", "rule", "nils", 2)
    assert entry["seen"]["recent"] == [{"keep": {"points": 14}}]
    assert entry["now"]["recent"][0]["keep"] == "P9D"
    assert load_design(row).ladders[0].recent[0].keep == "P9D"
    assert put(owner, row, {"points": 3}, 2)[0] == 200


def test_creating_over_an_entry_and_editing_a_gone_one_are_stale(owner: Caller, row: Design) -> None:
    assert put(owner, row, "P9D", None)[0] == 409
    other = {"id": "second", "recent": []}
    assert edit(owner, row, change("ladders", "second", other, None))[0] == 200
    assert edit(owner, row, change("ladders", "second", None, 1))[0] == 200
    assert edit(owner, row, change("ladders", "second", other, 1))[0] == 409
    status, answer = edit(owner, row, change("ladders", "second", other, None))
    assert (status, answer["made"][0]["version"]) == (200, 3)


def test_what_is_in_use_cannot_be_removed(owner: Caller, row: Design) -> None:
    status, problem = edit(owner, row, change("ladders", "rule", None, 1))
    assert status == 422
    assert problem["faults"][0]["path"] == "routes[0].copies[0].ladder"
    assert len(load_design(row).ladders) == 1


@pytest.mark.parametrize(
    ("one", "path"),
    [
        (change("ladders", "rule", ladder("14 days"), 1), "changes[0].value.recent[0].keep"),
        (change("ladders", "rule", {**ladder("P1D"), "colour": 1}, 1), "changes[0].value.colour"),
        (change("ladders", "rule", {**ladder("P1D"), "name": "a\u0000b"}, 1), "changes[0].value.name"),
        (change("ladders", "rule", {**ladder("P1D"), "id": "else"}, 1), "changes[0].key"),
        (
            change("ladders", "rule", {"id": "rule", "recent": [{"keep": {"superseded": {"extra": -1}}}]}, 1),
            "changes[0].value.recent[0].keep.superseded.extra",
        ),
        (change("ladders", "rule", ladder("P1D"), True), "changes[0].seen"),
        (change("ladders", "rule", ladder("P1D"), -1), "changes[0].seen"),
        (change("ladders", "rule", ladder("P1D"), 1, place=-1), "changes[0].place"),
        (change("settings", "else", {"name": "n", "timezone": "UTC", "starts": "2027-01-01", "years": 1}, 1), "changes[0].key"),
        (change("settings", "design", None, 1), "changes[0].value"),
        (change("walls", "rule", ladder("P1D"), 1), "changes[0].part"),
    ],
)
def test_bad_edit_names_the_place_and_changes_nothing(owner: Caller, row: Design, one: Any, path: str) -> None:
    before = load_design(row)
    status, problem = edit(owner, row, one)
    assert status == 422
    assert path in [fault["path"] for fault in problem["faults"]]
    row.refresh_from_db()
    assert (row.revision, load_design(row)) == (1, before)


def test_wrong_day_is_refused_before_anything_is_saved(owner: Caller, row: Design) -> None:
    assert put(owner, row, "P9D", 1, on="2040-01-01")[0] == 422
    assert load_design(row).ladders[0].recent[0].keep.points == 14  # type: ignore[union-attr]


def test_history_tells_who_changed_what(owner: Caller, row: Design) -> None:
    put(owner, row, "P9D", 1)
    noted = Change.objects.get(design=row)
    assert (str(noted.who), noted.list_name, noted.key, noted.revision) == ("olaf", "ladders", "rule", 2)
    assert (noted.before["recent"], noted.after["recent"]) == ([{"keep": {"points": 14}}], [{"keep": "P9D"}])


def test_undo_is_putting_back_what_was(owner: Caller, row: Design) -> None:
    before = load_design(row).canonical()
    answer = put(owner, row, "P9D", 1)[1]
    (made,) = answer["made"]
    assert edit(owner, row, change("ladders", "rule", made["before"], made["version"]))[0] == 200
    assert load_design(row).canonical() == before


def test_reference_is_what_changes_are_measured_from(owner: Caller, row: Design) -> None:
    put(owner, row, {"points": 30}, 1)
    status, answer = owner("post", f"/designs/{row.pk}/reference?on={ON}")
    assert (status, answer["targets"][0]["change"]["points"]) == (200, 0)
    assert owner("get", f"/designs/{row.pk}")[1]["reference_revision"] == 2


def test_trial_runs_the_whole_engine_and_saves_nothing(owner: Caller, row: Design) -> None:
    status, answer = owner(
        "post", f"/designs/{row.pk}/trial", {"on": ON, "changes": [change("ladders", "rule", ladder({"points": 30}), None)]}
    )
    assert status == 200
    saved = put(owner, row, {"points": 30}, 1)[1]
    tried = answer["consequences"]["targets"]
    assert [one["now"] for one in tried] == [one["now"] for one in saved["consequences"]["targets"]]
    assert answer["reading"]["sentence"].startswith("Keeps the newest 30 points")


@pytest.mark.parametrize(
    ("list_name", "value"),
    [
        ("workloads", {"id": "more", "site": "here", "size": "1 TB"}),
        ("cadences", {"id": "slow", "runs": [{"id": "r", "kind": "full", "rrule": "FREQ=YEARLY"}]}),
        ("targets", {"id": "shelf", "media": "object", "site": "here"}),
        ("sites", {"id": "there"}),
    ],
)
def test_entries_of_every_list_are_added_and_removed(owner: Caller, row: Design, list_name: str, value: Any) -> None:
    assert edit(owner, row, change(list_name, value["id"], value, None))[0] == 200
    assert getattr(load_design(row), list_name)[-1].id == value["id"]
    assert edit(owner, row, change(list_name, value["id"], None, 1))[0] == 200
    assert value["id"] not in [one.id for one in getattr(load_design(row), list_name)]


def test_demo_is_loaded_once_and_what_was_made_of_it_stays(db: None) -> None:
    call_command("load_demo")
    row = Design.objects.get()
    assert load_design(row).canonical() == read_design(DEMO.read_bytes()).canonical()
    row.name = "Mine now"
    row.save()
    call_command("load_demo")
    assert Design.objects.get().name == "Mine now"
    assert get_user_model().objects.get().check_password("lindmoor-demo")


def test_create_takes_a_whole_document(owner: Caller) -> None:
    document = json.loads(DEMO.read_text())
    status, answer = owner("post", "/designs", document)
    assert status == 201
    assert owner("get", f"/designs/{answer['id']}/series?most=50")[0] == 200
    document["routes"][0]["copies"][0]["ladder"] = "none"
    assert owner("post", "/designs", document)[0] == 422
    assert len(owner("get", "/designs")[1]) == 1


def test_the_rule_that_is_added_next_is_one_that_can_be_saved(owner: Caller, row: Design) -> None:
    """What the reading of a ladder offers is put into the ladder as it is."""
    ladder = owner("get", f"/designs/{row.pk}/document")[1]["ladders"][0]
    reading = owner("get", f"/designs/{row.pk}/readings?on=2027-06-01")[1]["ladders"][ladder["id"]]
    value = {**ladder, "rungs": [*ladder.get("rungs", []), reading["next_rung"]]}
    value["recent"] = [*ladder.get("recent", []), reading["next_recent"]]
    change = {"part": "ladders", "key": ladder["id"], "value": value, "seen": 1}
    status, answer = owner("post", f"/designs/{row.pk}/edits", {"changes": [change], "what": "more", "on": "2027-06-01"})
    assert status == 200, answer
