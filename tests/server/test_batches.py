"""Several changes at once: all or none, in any order, with what refers to what kept whole; replacements; effects."""

import json
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from django.db import close_old_connections, connection

from shelf_core.forecast.forecast import forecast
from shelf_server.designs.models import Change, Design
from shelf_server.designs.rows.reading import load_design
from tests.designs import NEWEST_14, WEEKLY_FULL, design
from tests.server.conftest import Caller, member, signed_in
from tests.server.test_editing import ON, change, edit, ladder


def workload(key: str, **more: Any) -> dict[str, Any]:
    return {"id": key, "site": "here", "size": "1 TB", **more}


def removal(caller: Caller, row: Design, part: str, key: str, instead: str | None = None) -> tuple[int, Any]:
    seen = caller("get", f"/designs/{row.pk}")[1]["versions"]
    body = {"command": {"do": "take-out", "part": part, "key": key, "instead": instead}, "on": ON, "what": "out", "seen": seen}
    return caller("post", f"/designs/{row.pk}/commands", body)


def test_changes_are_made_at_once_or_not_at_all(owner: Caller, row: Design) -> None:
    good = change("workloads", "more", workload("more"), None)
    assert edit(owner, row, good, change("ladders", "rule", ladder("P9D"), 7))[0] == 409
    assert edit(owner, row, good, change("ladders", "rule", None, 1))[0] == 422
    assert edit(owner, row, good, good)[0] == 422
    row.refresh_from_db()
    assert (row.revision, [one.id for one in load_design(row).workloads]) == (1, ["data"])
    status, answer = edit(owner, row, good, change("ladders", "rule", ladder("P9D"), 1))
    assert (status, answer["revision"], len(answer["made"])) == (200, 2, 2)
    assert Change.objects.filter(design=row, revision=2).count() == 2


def test_what_is_new_can_be_referred_to_at_once_and_the_old_taken_out(owner: Caller, row: Design) -> None:
    route = load_design(row).routes[0].whole()
    route["copies"][0]["ladder"] = "next"
    changes = [
        change("ladders", "rule", None, 1),
        change("routes", route["id"], route, 1),
        change("ladders", "next", {"id": "next", "recent": [{"keep": "P3D"}]}, None),
    ]
    assert edit(owner, row, *changes)[0] == 200
    now = load_design(row)
    assert [one.id for one in now.ladders] == ["next"]
    assert now.routes[0].copies[0].ladder == "next"


def test_an_entry_comes_back_to_its_place(owner: Caller, row: Design) -> None:
    for key in ("two", "three"):
        assert edit(owner, row, change("workloads", key, workload(key), None))[0] == 200
    (made,) = edit(owner, row, change("workloads", "two", None, 1))[1]["made"]
    assert made["place_before"] == 1
    assert edit(owner, row, change("workloads", "two", made["before"], None, place=made["place_before"]))[0] == 200
    assert [one.id for one in load_design(row).workloads] == ["data", "two", "three"]


def test_bulk_edits_keep_what_is_listed_within_workloads(owner: Caller, row: Design) -> None:
    rows = [
        workload(
            f"w{at}",
            tags=["a", f"t{at}"],
            steps=[{"on": "2028-01-01", "add": "1 TB"}],
            members=[{"id": "m", "closed_from": "2029-01-01"}],
        )
        for at in range(60)
    ]
    assert edit(owner, row, *[change("workloads", one["id"], one, None) for one in rows])[0] == 200
    assert edit(owner, row, *[change("workloads", one["id"], {**one, "count": 3}, 1) for one in rows[:40]])[0] == 200
    now = {one.id: one for one in load_design(row).workloads}
    assert [now[f"w{at}"].count for at in (0, 39, 40)] == [3, 3, 1]
    assert all(
        now[one["id"]].tags == one["tags"] and len(now[one["id"]].steps) == len(now[one["id"]].members) == 1 for one in rows
    )


def test_settings_and_stock_are_entries_too(owner: Caller, row: Design) -> None:
    settings = {"name": "Renamed", "timezone": "Europe/Oslo", "starts": "2027-01-01", "years": 3, "currency": "NOK"}
    assert edit(owner, row, change("settings", "design", settings, 1))[0] == 200
    row.refresh_from_db()
    now = load_design(row)
    assert (now.name, now.years, now.currency) == ("Renamed", 3, "NOK")
    assert edit(owner, row, change("settings", "design", settings, 1))[0] == 409
    route = now.routes[0]
    point = {"route": route.id, "copy": route.copies[0].id, "workload": "data", "taken": "2026-12-31T22:00", "kind": "full"}
    assert edit(owner, row, change("stock", "design", {"opening": [point]}, 1))[0] == 200
    assert edit(owner, row, change("routes", route.id, {**route.whole(), "name": "Rewritten"}, 1))[0] == 200
    now = load_design(row)
    assert [one.taken for one in now.opening] == ["2026-12-31T22:00"]
    assert owner("get", f"/designs/{row.pk}")[1]["versions"]["stock"] == {"design": 2}


def test_a_shorter_design_answers_for_its_last_day(owner: Caller, row: Design) -> None:
    settings = load_design(row).model_dump(include={"name", "timezone", "starts"})
    status, answer = edit(owner, row, change("settings", "design", {**settings, "years": 1}, 1), on="2027-12-31")
    assert (status, answer["consequences"]["on"]) == (200, "2027-12-31")
    status, answer = edit(
        owner, row, change("settings", "design", {**settings, "starts": "2029-01-01", "years": 1}, 2), on="2027-12-31"
    )
    assert (status, answer["consequences"]["on"]) == (200, "2029-01-01")


def test_mentions_say_where_an_entry_is_used(owner: Caller, row: Design) -> None:
    edit(owner, row, change("ladders", "other", {"id": "other", "recent": []}, None))
    answer = owner("get", f"/designs/{row.pk}/mentions?part=ladders&key=rule")[1]
    assert [one["part"] for one in answer["mentions"]] == ["routes"]
    assert answer["mentions"][0]["words"].endswith("keeps by it")
    assert answer["instead"] == ["other"]
    assert owner("get", f"/designs/{row.pk}/mentions?part=walls&key=rule")[0] == 422


def test_another_stands_in_for_what_is_taken_out(owner: Caller, row: Design) -> None:
    assert removal(owner, row, "ladders", "rule")[0] == 422
    edit(owner, row, change("ladders", "other", {"id": "other", "recent": []}, None))
    assert removal(owner, row, "ladders", "rule", "none-such")[0] == 422
    status, answer = removal(owner, row, "ladders", "rule", "other")
    assert (status, [one["part"] for one in answer["made"]]) == (200, ["routes", "ladders"])
    now = load_design(row)
    assert ([one.id for one in now.ladders], now.routes[0].copies[0].ladder) == (["other"], "other")


def test_sites_and_targets_are_replaced_everywhere(owner: Caller, row: Design) -> None:
    target = {**load_design(row).targets[0].whole(), "id": "second", "site": "there"}
    edit(owner, row, change("sites", "there", {"id": "there"}, None), change("targets", "second", target, None))
    old = load_design(row).targets[0].id
    assert removal(owner, row, "targets", old, "second")[0] == 200
    assert removal(owner, row, "sites", "here", "there")[0] == 200
    now = load_design(row)
    assert (now.workloads[0].site, now.routes[0].copies[0].target, [one.id for one in now.sites]) == (
        "there",
        "second",
        ["there"],
    )


def test_a_workload_leaves_its_routes_and_its_opening_stock(owner: Caller, row: Design) -> None:
    route = load_design(row).routes[0].whole()
    route["workloads"] = {"ids": ["data", "two"]}
    point = {"route": route["id"], "copy": route["copies"][0]["id"], "taken": "2026-12-31T22:00", "kind": "full"}
    opening = [{**point, "workload": "data"}, {**point, "workload": "two"}]
    changes = [change("workloads", "two", workload("two"), None), change("routes", route["id"], route, 1)]
    assert edit(owner, row, *changes, change("stock", "design", {"opening": opening}, 1))[0] == 200
    assert removal(owner, row, "workloads", "two")[0] == 200
    now = load_design(row)
    assert (now.routes[0].workloads.ids, [one.workload for one in now.opening]) == (["data"], ["data"])


def test_effects_are_those_of_the_copies_that_change(owner: Caller, row: Design) -> None:
    tried = {"on": ON, "changes": [change("ladders", "rule", ladder({"points": 30}), None)]}
    status, answer = owner("post", f"/designs/{row.pk}/effects", tried)
    (effect,) = answer["effects"]
    before = forecast(load_design(row))
    place = before.place_of(ON)
    edit(owner, row, change("ladders", "rule", ladder({"points": 30}), 1))
    after = forecast(load_design(row))
    assert status == 200
    assert effect["points_before"] == before.targets[0].totals.points[place]
    assert effect["points_after"] == after.targets[0].totals.points[place]
    assert effect["stored_after"] == after.targets[0].totals.stored_bytes[place]
    assert effect["peak_after"] == after.targets[0].totals.peak_bytes.max()


def test_variants_part_from_what_they_branched_from(owner: Caller, row: Design) -> None:
    status, line = owner("post", f"/designs/{row.pk}/variants", {"name": "Shorter"})
    assert (status, line["variant"], line["current"], line["role"]) == (201, "Shorter", False, "owner")
    assert owner("post", f"/designs/{row.pk}/variants", {"name": "Shorter"})[0] == 422
    status, said = owner("post", f"/designs/{row.pk}/variants", {"name": row.variant})
    assert (status, said["detail"]) == (422, f'expected a name that no variant has, got "{row.variant}"')
    assert owner("put", f"/designs/{row.pk}/variant", {"name": row.variant})[0] == 200, "its own name is still its own"
    other = Design.objects.get(pk=line["id"])
    assert load_design(other) == load_design(row)
    answer = edit(owner, other, change("ladders", "rule", ladder("P2D"), 1))[1]
    assert answer["consequences"]["targets"][0]["change"]["points"] < 0
    assert load_design(row).ladders[0].recent[0].keep.points == 14  # type: ignore[union-attr]
    assert owner("post", f"/designs/{row.pk}/drop")[0] == 422
    assert owner("post", f"/designs/{other.pk}/current")[1]["current"] is True
    assert owner("put", f"/designs/{other.pk}/variant", {"name": "As it stands"})[0] == 422
    assert owner("put", f"/designs/{other.pk}/variant", {"name": "Chosen"})[1]["variant"] == "Chosen"
    owner.client.post(f"/api/designs/{row.pk}/drop")
    assert [one["variant"] for one in owner("get", "/designs")[1]] == ["Chosen"]


def test_history_names_people_steps_and_fields(owner: Caller, row: Design) -> None:
    edit(owner, row, change("ladders", "rule", ladder({"points": 30}), 1))
    nils = member(row, "nils", "editor")
    many = [change("workloads", f"w{at}", workload(f"w{at}"), None) for at in range(20)]
    edit(nils, row, *many)
    first = owner("get", f"/designs/{row.pk}/history?most=1")[1]
    (step,) = first["steps"]
    assert (step["who"], step["what"], len(step["entries"]), step["more"]) == ("nils", "tested", 12, 8)
    assert step["entries"][0]["how"] == "added"
    (step,) = owner("get", f"/designs/{row.pk}/history?before={first['before']}")[1]["steps"]
    assert step["who"] == "olaf"
    assert step["entries"][0]["fields"] == [{"field": "recent, 1, keep, points", "before": "14", "after": "30"}]
    assert owner("get", f"/designs/{row.pk}/revision")[1] == {"revision": 3, "who": "nils", "what": "tested"}


def test_document_is_the_design_as_a_file(owner: Caller, row: Design) -> None:
    document = owner("get", f"/designs/{row.pk}/document")[1]
    assert document == json.loads(json.dumps(load_design(row).canonical()))
    assert owner("post", "/designs", document)[0] == 201


@pytest.mark.django_db(transaction=True)
def test_variants_that_are_made_at_once_do_not_share_a_name() -> None:
    owner = signed_in("olaf")
    first = owner("post", "/designs", design(WEEKLY_FULL, NEWEST_14))[1]["id"]
    second = owner("post", f"/designs/{first}/variants", {"name": "Second"})[1]["id"]

    def ask(number: int) -> int:
        close_old_connections()
        try:
            caller = signed_in("olaf")
            if number % 3 == 2:
                return caller("post", f"/designs/{(first, second)[number % 2]}/current")[0]
            return caller("post", f"/designs/{(first, second)[number % 2]}/variants", {"name": "Same"})[0]
        finally:
            connection.close()

    with ThreadPoolExecutor(6) as pool:
        statuses = list(pool.map(ask, range(6)))
    assert sorted(statuses) == [200, 200, 201, 422, 422, 422]
    assert Design.objects.filter(current=True).count() == 1
