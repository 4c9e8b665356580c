"""Tables over the API: looked at without being saved, then saved in one edit; sizing; starting points; windows."""

from typing import Any

import pytest

from shelf_server.designs.models import Change, Design
from shelf_server.designs.rows.reading import load_design
from tests.server.conftest import Caller
from tests.server.test_editing import change, edit

TABLE = "name,size,daily change\nAtlas,12 TB,0.4\nRegister,800 GB,2\n"


def look(caller: Caller, row: Design, text: str, **more: Any) -> tuple[int, Any]:
    return caller("post", f"/designs/{row.pk}/workload-rows", {"text": text, **more})


def test_a_table_is_looked_at_without_being_saved(owner: Caller, row: Design) -> None:
    status, answer = look(owner, row, TABLE)
    assert (status, [one["value"]["id"] for one in answer["read"]["rows"]]) == (200, ["atlas", "register"])
    assert "daily_change_percent" in answer["fields"]
    assert len(load_design(row).workloads) == 1
    assert not Change.objects.exists()


def test_what_was_read_is_saved_as_it_was_shown(owner: Caller, row: Design) -> None:
    rows = look(owner, row, TABLE)[1]["read"]["rows"]
    changes = [change("workloads", one["value"]["id"], one["value"], None) for one in rows]
    assert edit(owner, row, *changes)[0] == 200
    assert [(one.id, one.size) for one in load_design(row).workloads[1:]] == [("atlas", "12 TB"), ("register", "800 GB")]
    again = look(owner, row, TABLE)[1]["read"]["rows"]
    assert [one["action"] for one in again] == ["same", "same"]


def test_columns_can_be_said_otherwise(owner: Caller, row: Design) -> None:
    answer = look(owner, row, "a,b,c\nAtlas,x,12 TB", columns=["name", None, "size"])[1]["read"]
    assert (answer["columns"], answer["header"]) == (["name", None, "size"], ["a", "b", "c"])
    assert answer["rows"][0]["value"]["size"] == "12 TB"


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"text": TABLE, "columns": ["colour"]}, "expected columns out of"),
        ({"text": 'a\n"b"c'}, "expected CSV, got a fault on line 2"),
        ({"text": TABLE, "colour": 1}, "unknown field"),
        ({"text": 7}, "expected a text"),
    ],
)
def test_what_is_no_table_is_refused_in_words(owner: Caller, row: Design, body: Any, words: str) -> None:
    status, problem = owner("post", f"/designs/{row.pk}/workload-rows", body)
    assert status == 422
    assert words in problem["detail"]


def test_opening_stock_is_read_against_the_design(owner: Caller, row: Design) -> None:
    text = "route,copy,workload,taken,kind\nway,first,data,2026-12-30T22:00,full\nway,first,none,2026-12-30T22:00,full"
    status, answer = owner("post", f"/designs/{row.pk}/opening-rows", {"text": text})
    assert status == 200
    assert [point["copy"] for point in answer["points"]] == ["first"]
    assert [(fault["line"], fault["field"]) for fault in answer["faults"]] == [(3, "workload")]
    assert edit(owner, row, change("stock", "design", {"opening": answer["points"]}, 1))[0] == 200


def test_sizing_answers_with_the_core_s_numbers(owner: Caller) -> None:
    listing = "path,size,changed\n/a,900,2027-01-01\n/b,100,2027-06-30\n/c.tmp,50,2027-06-30"
    status, answer = owner("post", "/sizing/listing", {"text": listing, "exclude": ["*.tmp"]})
    assert (status, answer["files"], answer["size_bytes"], answer["left_out_bytes"]) == (200, 2, 1000, 50)
    assert answer["daily_change_percent"] == pytest.approx(10 / 7)
    past = "taken,kind,size\n2027-01-01T20:00,full,5 TB"
    assert owner("post", "/sizing/past", {"text": past, "source_size": "10 TB"})[1]["refused"].startswith("There is too little")
    assert owner("post", "/sizing/past", {"text": past, "source_size": "much"})[0] == 422


def test_starting_points_and_windows(owner: Caller) -> None:
    starts = owner("get", "/starting-points")[1]
    assert {one["target"]["media"] for one in starts["targets"]} == {"disk", "snapshot", "object", "tape"}
    assert all(one["fits"].endswith(".") for one in [*starts["targets"], *starts["ladders"]])
    window = {"first": "06:00", "last": "07:00", "minutes": 30}
    assert owner("post", "/window", window)[1] == {"at": ["06:00", "06:30", "07:00"]}
    assert owner("post", "/window", {**window, "last": "05:00"})[0] == 422


def test_routes_in_words_know_who_is_taken_and_what_came_before(owner: Caller, row: Design) -> None:
    edit(owner, row, change("workloads", "lost", {"id": "lost", "site": "here", "size": 5, "tags": ["x"]}, None))
    answer = owner("get", f"/designs/{row.pk}/routes?on=2027-06-30")[1]
    assert (answer["taken_by_none"], answer["tags"], answer["before_start"]) == (["lost"], {"x": 1}, "2026-12-31T23:59")
    reading = answer["routes"]["way"]
    assert reading["workloads"] == ["data"]
    assert reading["copies"]["first"].startswith("Takes its own points by beat; keeps by rule")
    assert reading["protection"][0]["missing"] == ["1 more copy", "a second kind of media", "a copy off site"]


def test_findings_come_with_the_revision_they_are_of(owner: Caller, row: Design) -> None:
    answer = owner("get", f"/designs/{row.pk}/findings")[1]
    assert answer["revision"] == 1
    assert [one["kind"] for one in answer["findings"]] == ["one site only"]
