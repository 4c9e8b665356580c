"""What the kept history lets a person do: taking back one's own steps after a reload, and going back to a revision."""

from typing import Any

import pytest

from shelf_server.designs import past
from shelf_server.designs.models import Design
from shelf_server.designs.rows.reading import load_design
from tests.server.conftest import Caller, member

ON = "2027-06-01"


def made(caller: Caller, row: Design, what: str, *changes: dict[str, Any], undoes: int | None = None) -> Any:
    body = {"changes": list(changes), "on": ON, "what": what, "undoes": undoes}
    status, answer = caller("post", f"/designs/{row.pk}/edits", body)
    assert status == 200, answer
    return answer


def named(caller: Caller, row: Design, name: str) -> dict[str, Any]:
    """The change that gives the only workload another name."""
    design = caller("get", f"/designs/{row.pk}")[1]
    (workload,) = design["document"]["workloads"]
    seen = design["versions"]["workloads"][workload["id"]]
    return {"part": "workloads", "key": workload["id"], "value": workload | {"name": name}, "seen": seen}


def back(step: dict[str, Any]) -> list[dict[str, Any]]:
    """The changes that take a step back."""
    return [
        {"part": one["part"], "key": one["key"], "value": one["before"], "seen": one["version"], "place": one["place_before"]}
        for one in reversed(step["made"])
    ]


def steps(caller: Caller, row: Design) -> tuple[list[str], list[str]]:
    status, answer = caller("get", f"/designs/{row.pk}/steps")
    assert status == 200, answer
    return [one["what"] for one in answer["done"]], [one["what"] for one in answer["undone"]]


def test_steps_are_taken_back_and_done_again_by_what_the_history_knows(owner: Caller, row: Design) -> None:
    for name in ("one", "two", "three"):
        made(owner, row, name, named(owner, row, name))
    assert steps(owner, row) == (["one", "two", "three"], [])
    for _ in range(2):
        last = owner("get", f"/designs/{row.pk}/steps")[1]["done"][-1]
        made(owner, row, f"Undone: {last['what']}", *back(last), undoes=last["revision"])
    assert steps(owner, row) == (["one"], ["three", "two"])
    assert load_design(row).workloads[0].name == "one"
    again = owner("get", f"/designs/{row.pk}/steps")[1]["undone"][-1]
    made(owner, row, "Redone: two", *back(again), undoes=again["revision"])
    assert steps(owner, row) == (["one", "two"], ["three"])
    assert load_design(row).workloads[0].name == "two"
    made(owner, row, "four", named(owner, row, "four"))
    assert steps(owner, row) == (["one", "two", "four"], [])


def test_steps_of_too_many_entries_are_out_of_reach_with_what_undid_them(
    owner: Caller, row: Design, monkeypatch: pytest.MonkeyPatch
) -> None:
    sites = [{"part": "sites", "key": key, "value": {"id": key}, "seen": None} for key in ("east", "west", "north")]
    made(owner, row, "three sites", *sites)
    made(owner, row, "one", named(owner, row, "one"))
    monkeypatch.setattr(past, "MOST_ENTRIES", 3)
    assert steps(owner, row) == (["one"], [])
    (last,) = owner("get", f"/designs/{row.pk}/steps")[1]["done"]
    made(owner, row, "Undone: one", *back(last), undoes=last["revision"])
    assert steps(owner, row) == ([], ["one"])
    monkeypatch.setattr(past, "MOST_ENTRIES", 1)
    assert steps(owner, row) == ([], [])


def test_nobody_takes_back_what_somebody_else_did(owner: Caller, row: Design) -> None:
    made(owner, row, "mine", named(owner, row, "mine"))
    other = member(row, "nils", "editor")
    made(other, row, "theirs", named(other, row, "theirs"))
    assert steps(owner, row) == (["mine"], [])
    assert steps(other, row) == (["theirs"], [])
    (mine,) = owner("get", f"/designs/{row.pk}/steps")[1]["done"]
    body = {"changes": back(mine), "on": ON, "what": "Undone: mine", "undoes": mine["revision"]}
    status, answer = owner("post", f"/designs/{row.pk}/edits", body)
    assert (status, answer["entries"][0]["fields"]) == (
        409,
        [{"field": "name", "before": "theirs", "after": mine["made"][0]["before"]["name"] or "nothing"}],
    )


def test_a_design_goes_back_to_a_revision_with_what_was_taken_out_in_its_place(owner: Caller, row: Design) -> None:
    before = load_design(row)
    first = row.revision
    sites = [{"part": "sites", "key": key, "value": {"id": key}, "seen": None} for key in ("east", "west", "north")]
    between = made(owner, row, "sites", *sites)["revision"]
    with_sites = load_design(row)
    seen = owner("get", f"/designs/{row.pk}")[1]["versions"]["sites"]["west"]
    made(owner, row, "west goes", {"part": "sites", "key": "west", "value": None, "seen": seen})
    made(owner, row, "named", named(owner, row, "other"))
    status, found = owner("get", f"/designs/{row.pk}/back?revision={between}")
    assert (status, found["more"]) == (200, 0)
    assert {(one["name"], one["how"]) for one in found["entries"]} >= {("west", "added")}
    go(owner, row, found)
    assert load_design(row).canonical() == with_sites.canonical()
    go(owner, row, owner("get", f"/designs/{row.pk}/back?revision={first}")[1])
    assert load_design(row).canonical() == before.canonical()
    assert owner("get", f"/designs/{row.pk}/back?revision={first}")[1]["changes"] == []


def go(caller: Caller, row: Design, found: dict[str, Any]) -> None:
    versions = caller("get", f"/designs/{row.pk}")[1]["versions"]
    changes = [one | {"seen": versions.get(one["part"], {}).get(one["key"])} for one in found["changes"]]
    made(caller, row, "back", *changes)


def test_a_revision_that_was_never_is_refused(owner: Caller, row: Design) -> None:
    for revision in (0, 10_000):
        status, answer = owner("get", f"/designs/{row.pk}/back?revision={revision}")
        assert status == 422
        assert "expected a revision from 1 to" in str(answer)
