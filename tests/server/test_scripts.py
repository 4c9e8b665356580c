"""Scripts over the API: tokens, repeated requests, revisions named in headers, how often one may ask, documents, calendars."""

import base64
import io
import json
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from types import SimpleNamespace
from typing import Any

import icalendar
import jsonschema
import openpyxl
import pytest
from django.contrib.auth import get_user_model
from django.db import close_old_connections, connection
from django.test import Client
from django.utils import timezone

from shelf_core.calendar.zones import local_text
from shelf_core.design.differences import differences
from shelf_core.design.reading import read_design
from shelf_core.engine.schedule.runs import runs_of
from shelf_core.forecast.forecast import forecast
from shelf_core.formats.digest import digest
from shelf_core.formats.documents import document_text, read_document
from shelf_server.api import rates
from shelf_server.api.headers import etag_of
from shelf_server.designs.models import Change, Design, Membership, Token
from shelf_server.designs.rows.reading import load_design
from shelf_server.designs.tokens import MOST_TOKENS, digest_of
from tests.designs import DEMO
from tests.server.conftest import Caller, member, signed_in

ON = "2027-06-01"


def token_of(caller: Caller, role: str = "editor", days: int = 30) -> str:
    status, answer = caller("post", "/tokens", {"name": "nightly check", "role": role, "days": days})
    assert status == 201, answer
    text: str = answer["token"]
    return text


def by_token(text: str) -> Caller:
    return Caller(Client(headers={"Authorization": f"Bearer {text}"}, enforce_csrf_checks=True))


def plain(row: Design) -> Any:
    return json.loads(json.dumps(load_design(row).canonical()))


def test_a_token_speaks_for_its_person_and_is_stored_as_a_digest(owner: Caller, row: Design) -> None:
    text = token_of(owner)
    stored = Token.objects.get()
    assert stored.digest == digest_of(text)
    assert text not in json.dumps(list(Token.objects.values()), default=str)
    script = by_token(text)
    assert script("get", "/designs")[1] == owner("get", "/designs")[1]
    assert script("get", f"/designs/{row.pk}")[1]["role"] == "editor"
    stored.refresh_from_db()
    assert stored.last_used is not None
    listed = owner("get", "/tokens")[1]
    assert [one["name"] for one in listed] == ["nightly check"]
    assert "token" not in listed[0]


@pytest.mark.parametrize(("role", "reads", "edits", "drops"), [("calendar", 401, 401, 401), ("viewer", 200, 403, 403), ("editor", 200, 200, 403), ("owner", 200, 200, 204)])  # fmt: skip
def test_a_token_goes_as_far_as_its_role(owner: Caller, row: Design, role: str, reads: int, edits: int, drops: int) -> None:
    script = by_token(token_of(owner, role))
    assert script("get", f"/designs/{row.pk}/overview?on={ON}")[0] == reads
    value = {"name": "Other", "timezone": "UTC", "starts": "2027-01-01", "years": 1}
    change = {"part": "settings", "key": "design", "value": value, "seen": 1}
    status, answer = script("post", f"/designs/{row.pk}/edits", {"changes": [change], "what": "a name", "on": ON})
    assert status == edits, answer
    if status == 403:
        assert answer["detail"] == f"This needs the role editor; this token has the role {role}."
    made = script("post", "/designs", plain(row))[0]
    assert made == {200: 201}.get(edits, edits)
    done = script.client.post(f"/api/designs/{row.pk}/drop")
    assert done.status_code == drops


def test_a_token_never_exceeds_the_person(row: Design) -> None:
    script = by_token(token_of(member(row, "vera", "viewer"), "owner"))
    assert script("get", f"/designs/{row.pk}")[1]["role"] == "viewer"
    assert script("put", f"/designs/{row.pk}/document", plain(row), **{"If-Match": etag_of(row)})[0] == 403
    stranger = by_token(token_of(signed_in("sten"), "owner"))
    assert stranger("get", f"/designs/{row.pk}")[0] == 404


def test_tokens_that_are_over_taken_back_or_made_up_are_nobody_s(owner: Caller, row: Design) -> None:
    text = token_of(owner)
    script = by_token(text)
    assert script("get", "/designs")[0] == 200
    Token.objects.update(expires=timezone.now() - timedelta(seconds=1))
    assert script("get", "/designs")[0] == 401
    assert owner("get", "/tokens")[1][0]["id"] == Token.objects.get().pk
    again = token_of(owner)
    key = Token.objects.latest("pk").pk
    assert signed_in("sten").client.delete(f"/api/tokens/{key}").status_code == 404
    assert owner.client.delete(f"/api/tokens/{key}").status_code == 204
    assert by_token(again)("get", "/designs")[0] == 401
    for wrong in ("shelf_nonsense", "", "x" * 5000, "shelf_\u00e9"):
        assert by_token(wrong)("post", "/designs", plain(row))[0] == 401
    left = token_of(owner)
    get_user_model().objects.filter(username="olaf").update(is_active=False)
    assert by_token(left)("get", "/designs")[0] == 401


def test_no_token_makes_or_sees_tokens(owner: Caller) -> None:
    script = by_token(token_of(owner, "owner"))
    assert script("get", "/tokens")[0] in (401, 403)
    assert script("post", "/tokens", {"name": "more", "role": "owner", "days": 1})[0] in (401, 403)
    assert Token.objects.count() == 1


@pytest.mark.parametrize(
    ("body", "path"),
    [
        ({"name": "", "role": "viewer", "days": 1}, "name"),
        ({"name": "x", "role": "king", "days": 1}, "role"),
        ({"name": "x", "role": "viewer", "days": 0}, "days"),
        ({"name": "x", "role": "viewer", "days": 400}, "days"),
        ({"name": "x", "role": "viewer", "days": True}, "days"),
        ({"name": "a\0b", "role": "viewer", "days": 1}, "name"),
    ],
)
def test_bad_tokens_are_refused_by_field(owner: Caller, body: dict[str, Any], path: str) -> None:
    status, answer = owner("post", "/tokens", body)
    assert (status, [one["path"] for one in answer["faults"]]) == (422, [path])


def test_there_are_not_endlessly_many_tokens(owner: Caller) -> None:
    for _ in range(MOST_TOKENS):
        token_of(owner)
    assert owner("post", "/tokens", {"name": "x", "role": "viewer", "days": 1})[0] == 422


def test_a_request_that_is_sent_again_makes_nothing_twice(owner: Caller, row: Design) -> None:
    headers = {"Idempotency-Key": "order-17"}
    first = owner("post", "/designs", plain(row), **headers)
    assert first[0] == 201
    assert owner("post", "/designs", plain(row), **headers) == first
    assert Design.objects.count() == 2
    other = {**plain(row), "name": "Another"}
    status, answer = owner("post", "/designs", other, **headers)
    assert (status, answer["type"]) == (422, "urn:rested-shelf:problem:key")
    assert owner("post", "/designs", other, **{"Idempotency-Key": "order-18"})[0] == 201
    assert member(row, "vera", "viewer")("post", "/designs", other, **headers)[0] == 201
    branch = owner("post", f"/designs/{row.pk}/variants", {"name": "Cheaper"}, **{"Idempotency-Key": "b"})
    assert owner("post", f"/designs/{row.pk}/variants", {"name": "Cheaper"}, **{"Idempotency-Key": "b"}) == branch
    assert owner("post", "/designs", other, **{"Idempotency-Key": "a b"})[0] == 422


def test_a_key_of_a_refused_request_is_free_again(owner: Caller, row: Design) -> None:
    headers = {"Idempotency-Key": "k"}
    broken = {**plain(row), "routes": [{"id": "r", "workloads": {"ids": ["nobody"]}, "copies": []}]}
    assert owner("post", "/designs", broken, **headers)[0] == 422
    assert owner("post", "/designs", plain(row), **headers)[0] == 201


@pytest.mark.django_db(transaction=True)
def test_two_requests_at_once_with_one_key_make_one_design() -> None:
    owner = signed_in("olaf")
    text, document = token_of(owner), json.loads(DEMO.read_text())

    def ask(_number: int) -> int:
        close_old_connections()
        try:
            status, answer = by_token(text)("post", "/designs", document, **{"Idempotency-Key": "same"})
            assert status == 201, answer
            return int(answer["id"])
        finally:
            connection.close()

    with ThreadPoolExecutor(4) as pool:
        made = set(pool.map(ask, range(4)))
    assert len(made) == 1
    assert Design.objects.count() == 1


def test_a_document_is_replaced_only_as_it_was_seen(owner: Caller, row: Design) -> None:
    answer = owner.client.get(f"/api/designs/{row.pk}/document")
    etag = answer["ETag"]
    document = json.loads(answer.content)
    assert document == plain(row)
    assert owner.client.get(f"/api/designs/{row.pk}/document", headers={"If-None-Match": etag}).status_code == 304
    document["workloads"].insert(0, {"id": "first", "site": document["sites"][0]["id"], "size": "1 TB"})
    document["ladders"][0]["recent"] = [{"keep": {"points": 3}}]
    document["name"] = "Replaced"
    assert owner("put", f"/designs/{row.pk}/document", document)[0] == 428
    assert owner("put", f"/designs/{row.pk}/document", document, **{"If-Match": f'"9-9-{"0" * 32}"'})[0] == 412
    assert owner("put", f"/designs/{row.pk}/document", document, **{"If-Match": "*"})[0] == 412
    status, said = owner("put", f"/designs/{row.pk}/document", document, **{"If-Match": f"W/{etag}"})
    assert (status, said["name"]) == (200, "Replaced")
    row.refresh_from_db()
    assert plain(row) == json.loads(document_text(read_design(json.dumps(document))))
    assert plain(row)["workloads"][0]["id"] == "first"
    assert owner("put", f"/designs/{row.pk}/document", document, **{"If-Match": etag})[0] == 412
    assert set(Change.objects.filter(design=row).values_list("list_name", "key")) >= {
        ("workloads", "first"),
        ("settings", "design"),
    }
    again = owner.client.get(f"/api/designs/{row.pk}/document")["ETag"]
    assert again != etag
    assert owner("put", f"/designs/{row.pk}/document", document, **{"If-Match": again})[0] == 200
    row.refresh_from_db()
    assert row.revision == 2, "the same document again changes nothing"


def test_a_document_that_is_unsound_replaces_nothing(owner: Caller, row: Design) -> None:
    before = plain(row)
    broken = {**before, "targets": []}
    status, answer = owner("put", f"/designs/{row.pk}/document", broken, **{"If-Match": etag_of(row)})
    assert status == 422
    assert answer["faults"]
    assert plain(row) == before


def test_a_design_becomes_another_whole_and_back(owner: Caller, row: Design) -> None:
    """Everything differs: targets, ladders, routes, stock. Both ways lead through the same rows."""
    before, demo = plain(row), json.loads(document_text(read_design(DEMO.read_bytes())))
    for document in (demo, before, demo):
        row.refresh_from_db()
        status, said = owner("put", f"/designs/{row.pk}/document", document, **{"If-Match": etag_of(row)})
        assert status == 200, said
        assert plain(Design.objects.get(pk=row.pk)) == document


def test_any_answer_that_has_not_changed_is_not_sent_again(owner: Caller, row: Design) -> None:
    path = f"/api/designs/{row.pk}/series"
    first = owner.client.get(path)
    assert owner.client.get(path, headers={"If-None-Match": first["ETag"]}).status_code == 304


def test_too_many_requests_in_a_minute_are_refused(owner: Caller, settings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    settings.SHELF_RATES = {"page": 1000, "script": 3, "nobody": 2}
    clock = SimpleNamespace(now=1_800_000_015.0)
    monkeypatch.setattr(rates, "time", SimpleNamespace(time=lambda: clock.now))
    script = by_token(token_of(owner, "viewer"))
    other = by_token(token_of(owner, "viewer"))
    answers = [script.client.get("/api/designs") for _ in range(5)]
    assert [one.status_code for one in answers] == [200, 200, 200, 429, 429]
    refused = answers[-1]
    assert refused["Retry-After"] == "45"
    assert json.loads(refused.content)["type"] == "urn:rested-shelf:problem:rate"
    assert other("get", "/designs")[0] == 200
    assert owner("get", "/designs")[0] == 200
    nobody = Client()
    assert [nobody.get("/api/session").status_code for _ in range(4)] == [200, 200, 429, 429]
    clock.now += 45
    assert script("get", "/designs")[0] == 200, "another minute begins"


def test_a_document_is_shown_before_it_becomes_anything(owner: Caller, row: Design) -> None:
    document = plain(row)
    document["ladders"][0]["recent"] = [{"keep": {"points": 3}}]
    document["workloads"].append({"id": "more", "name": "More", "site": document["sites"][0]["id"], "size": "1 TB"})
    text = document_text(read_design(json.dumps(document)), "yaml")
    status, answer = owner("post", f"/designs/{row.pk}/documents", {"text": text})
    assert status == 200, answer
    read = read_document(text)
    assert answer["digest"] == digest(read)
    assert read_design(json.dumps(answer["document"])) == read
    assert [(one["part"], one["key"], one["how"]) for one in answer["differences"]] == [
        (one.part, one.key, one.how) for one in differences(load_design(row), read)
    ]
    assert {(one["part"], one["key"], one["how"]) for one in answer["differences"]} == {
        ("ladders", document["ladders"][0]["id"], "changed"), ("workloads", "more", "added")
    }  # fmt: skip
    assert answer["counts"]["workloads"] == len(document["workloads"])
    peak = forecast(read).targets[0].totals.peak_bytes.max()
    assert answer["targets"][0]["peak_bytes"] == float(peak)
    row.refresh_from_db()
    assert row.revision == 1
    fresh = owner("post", "/documents", {"text": text})[1]
    assert fresh["differences"] == []
    assert Design.objects.count() == 1


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("{", "expected JSON, got a fault"),
        ("a: &x 1", "anchor or alias"),
        ('{"format": "rested-shelf-design", "version": 99}', "written by a newer program"),
        ("[" * 100_000, "nested too deep"),
        ("\ud800", ""),
        ("a: \x00", "expected YAML"),
    ],
)
def test_a_hostile_document_is_refused(owner: Caller, text: str, words: str) -> None:
    status, answer = owner("post", "/documents", {"text": text})
    assert status == 422
    assert words in answer["detail"]


def test_yaml_and_the_schema_are_served(owner: Caller, row: Design) -> None:
    text = owner.client.get(f"/api/designs/{row.pk}/document.yaml").content
    assert read_document(text) == load_design(row)
    schema = json.loads(Client().get("/api/schemas/design").content)
    jsonschema.Draft202012Validator(schema).validate(plain(row))


def workbook(*rows: list[Any]) -> str:
    book = openpyxl.Workbook()
    assert book.active is not None
    for one in rows:
        book.active.append(one)
    out = io.BytesIO()
    book.save(out)
    return base64.b64encode(out.getvalue()).decode()


def test_a_workbook_becomes_workloads(owner: Caller, row: Design) -> None:
    content = workbook(["Name", "Size (GB)", "Change %"], ["Seed bank", 1500, 1.5], ["Maps", 20, None])
    status, answer = owner("post", "/workbooks", {"content": content})
    assert (status, len(answer["sheets"])) == (200, 1)
    rows = owner(
        "post",
        f"/designs/{row.pk}/workload-rows",
        {"text": answer["sheets"][0]["text"], "columns": None, "keys": None, "header": True},
    )
    assert rows[0] == 200, rows
    assert [(one["value"]["name"], one["value"]["size"]) for one in rows[1]["read"]["rows"]] == [
        ("Seed bank", "1500 GB"),
        ("Maps", "20 GB"),
    ]
    assert owner("post", "/workbooks", {"content": "no base64"})[0] == 422
    assert owner("post", "/workbooks", {"content": base64.b64encode(bytes(range(256))).decode()})[0] == 422


def test_a_calendar_is_subscribed_to_with_its_own_kind_of_token(owner: Caller, row: Design) -> None:
    text = token_of(owner, "calendar")
    answer = Client().get(f"/api/designs/{row.pk}/calendar.ics?token={text}")
    assert answer.status_code == 200
    assert answer["Content-Type"].startswith("text/calendar")
    events = icalendar.Calendar.from_ical(answer.content).walk("VEVENT")
    assert events
    assert Client().get(f"/api/designs/{row.pk}/calendar.ics").status_code in (401, 403)
    assert Client().get(f"/api/designs/{row.pk}/calendar.ics?token=shelf_wrong").status_code == 401
    assert Client().get(f"/api/designs?token={text}").status_code in (401, 403)
    stranger = token_of(signed_in("sten"), "calendar")
    assert Client().get(f"/api/designs/{row.pk}/calendar.ics?token={stranger}").status_code == 404
    assert owner.client.get(f"/api/designs/{row.pk}/calendar.ics?cadence=no").status_code == 422
    again = Client().get(f"/api/designs/{row.pk}/calendar.ics?token={text}", headers={"If-None-Match": answer["ETag"]})
    assert again.status_code == 304


def test_a_calendar_becomes_a_cadence_with_the_same_runs(owner: Caller, row: Design) -> None:
    design = load_design(row)
    text = owner.client.get(f"/api/designs/{row.pk}/calendar.ics?cadence={design.cadences[0].id}").content.decode()
    status, answer = owner("post", f"/designs/{row.pk}/calendars", {"text": text, "key": "read"})
    assert status == 200, answer
    document = plain(row)
    document["cadences"].append(answer["cadence"])
    read = read_design(json.dumps(document))
    frame = forecast(read).frame
    was, now = (runs_of(one, frame) for one in (read.cadences[0], read.cadences[-1]))
    assert (was.instants == now.instants).all()
    assert (was.kind == now.kind).all()
    assert sum(one["count"] for one in answer["runs"]) == len(was.instants)
    firsts = sorted(one["first"] for one in answer["runs"])
    assert firsts[0] == local_text(int(frame.zone.local(was.instants[:1])[0]))
    assert [one["sentence"] for one in answer["runs"]] == ["every week on Saturday at 22:00", "every day at 22:00"]
    status, answer = owner("post", f"/designs/{row.pk}/calendars", {"text": text.replace("VEVENT", "VTODO"), "key": "read"})
    assert (status, answer["detail"]) == (422, 'calendar: expected events only, got a component "VTODO"')


def test_nobody_sees_what_is_not_theirs(row: Design) -> None:
    stranger = signed_in("sten")
    for method, path, body in (
        ("get", f"/designs/{row.pk}/document.yaml", None),
        ("get", f"/designs/{row.pk}/calendar.ics", None),
        ("put", f"/designs/{row.pk}/document", plain(row)),
        ("post", f"/designs/{row.pk}/documents", {"text": "{}"}),
        ("post", f"/designs/{row.pk}/calendars", {"text": "", "key": "k"}),
    ):
        assert stranger(method, path, body)[0] in (404, 422), path
    assert Membership.objects.filter(design=row).count() == 1
