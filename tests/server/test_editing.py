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
from shelf_server.designs.rows.load import load_design
from tests.designs import DEMO
from tests.server.conftest import Caller, member

ON = "2027-06-30"


def ladder(keep: Any) -> dict[str, Any]:
    return {"id": "rule", "recent": [{"keep": keep}]}


def put(caller: Caller, row: Design, keep: Any, seen: int | None, on: str = ON) -> tuple[int, Any]:
    return caller("put", f"/designs/{row.pk}/ladders/rule", {"seen": seen, "on": on, "value": ladder(keep)})


def test_edit_is_saved_and_answers_with_the_core_s_numbers(owner: Caller, row: Design) -> None:
    status, answer = put(owner, row, {"points": 30}, 1)
    assert (status, answer["version"]) == (200, 2)
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
    assert (status, problem["who"], problem["version"]) == (409, "nils", 2)
    assert problem["seen"]["recent"] == [{"keep": {"points": 14}}]
    assert problem["now"]["recent"][0]["keep"] == "P9D"
    assert load_design(row).ladders[0].recent[0].keep == "P9D"
    assert put(owner, row, {"points": 3}, 2)[0] == 200


def test_creating_over_an_entry_and_editing_a_gone_one_are_stale(owner: Caller, row: Design) -> None:
    assert put(owner, row, "P9D", None)[0] == 409
    other = {"id": "second", "recent": []}
    path = f"/designs/{row.pk}/ladders/second"
    assert owner("put", path, {"seen": None, "on": ON, "value": other})[0] == 200
    assert owner("post", f"{path}/removal", {"seen": 1, "on": ON})[0] == 200
    assert owner("put", path, {"seen": 1, "on": ON, "value": other})[0] == 409
    status, answer = owner("put", path, {"seen": None, "on": ON, "value": other})
    assert (status, answer["version"]) == (200, 3)


def test_what_is_in_use_cannot_be_removed(owner: Caller, row: Design) -> None:
    status, problem = owner("post", f"/designs/{row.pk}/ladders/rule/removal", {"seen": 1, "on": ON})
    assert status == 422
    assert problem["faults"][0]["path"] == "routes[0].copies[0].ladder"
    assert len(load_design(row).ladders) == 1


@pytest.mark.parametrize(
    ("body", "path"),
    [
        ({"seen": 1, "on": ON, "value": ladder("14 days")}, "value.recent[0].keep"),
        ({"seen": 1, "on": ON, "value": {**ladder("P1D"), "colour": 1}}, "value.colour"),
        ({"seen": 1, "on": ON, "value": {**ladder("P1D"), "name": "a\u0000b"}}, "value.name"),
        ({"seen": 1, "on": ON, "value": {**ladder("P1D"), "id": "else"}}, "value.id"),
        (
            {"seen": 1, "on": ON, "value": {"id": "rule", "recent": [{"keep": {"superseded": {"extra": -1}}}]}},
            "value.recent[0].keep.superseded.extra",
        ),
        ({"seen": True, "on": ON, "value": ladder("P1D")}, "seen"),
        ({"seen": -1, "on": ON, "value": ladder("P1D")}, "seen"),
    ],
)
def test_bad_edit_names_the_place_and_changes_nothing(owner: Caller, row: Design, body: Any, path: str) -> None:
    before = load_design(row)
    status, problem = owner("put", f"/designs/{row.pk}/ladders/rule", body)
    assert status == 422
    assert path in [fault["path"] for fault in problem["faults"]]
    row.refresh_from_db()
    assert (row.revision, load_design(row)) == (1, before)


def test_wrong_day_is_refused_before_anything_is_saved(owner: Caller, row: Design) -> None:
    assert put(owner, row, "P9D", 1, on="2040-01-01")[0] == 422
    assert load_design(row).ladders[0].recent[0].keep.points == 14  # type: ignore[union-attr]


def test_history_tells_who_changed_what(owner: Caller, row: Design) -> None:
    put(owner, row, "P9D", 1)
    change = Change.objects.get(design=row)
    assert (str(change.who), change.list_name, change.key, change.revision) == ("olaf", "ladders", "rule", 2)
    assert (change.before["recent"], change.after["recent"]) == ([{"keep": {"points": 14}}], [{"keep": "P9D"}])


def test_undo_is_putting_back_what_was(owner: Caller, row: Design) -> None:
    before = load_design(row).canonical()
    answer = put(owner, row, "P9D", 1)[1]
    body = {"seen": answer["version"], "on": ON, "value": answer["before"]}
    assert owner("put", f"/designs/{row.pk}/ladders/rule", body)[0] == 200
    assert load_design(row).canonical() == before


def test_reference_is_what_changes_are_measured_from(owner: Caller, row: Design) -> None:
    put(owner, row, {"points": 30}, 1)
    status, answer = owner("post", f"/designs/{row.pk}/reference?on={ON}")
    assert (status, answer["targets"][0]["change"]["points"]) == (200, 0)
    assert owner("get", f"/designs/{row.pk}")[1]["reference_revision"] == 2


def test_trial_runs_the_whole_engine_and_saves_nothing(owner: Caller, row: Design) -> None:
    status, answer = owner("post", f"/designs/{row.pk}/trial", {"on": ON, "ladder": ladder({"points": 30})})
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
    path = f"/designs/{row.pk}/{list_name}/{value['id']}"
    assert owner("put", path, {"seen": None, "on": ON, "value": value})[0] == 200
    assert getattr(load_design(row), list_name)[-1].id == value["id"]
    assert owner("post", f"{path}/removal", {"seen": 1, "on": ON})[0] == 200
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
