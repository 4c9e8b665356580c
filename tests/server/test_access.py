"""Who gets in and who may do what; the schema that is published."""

import json
import sys
from dataclasses import is_dataclass

import pytest
from django.contrib.auth import get_user_model
from django.test import Client
from openapi_spec_validator import validate
from pydantic import BaseModel

from shelf_server.api.management.commands.write_schema import SCHEMA_FILE, VOCABULARY_FILE, schema_text, vocabulary_text
from shelf_server.designs.models import Design
from tests.server.conftest import PASSWORD, Caller, member, signed_in

ON = "2027-06-30"
CHANGE = {"part": "ladders", "key": "rule", "seen": 1, "value": {"id": "rule", "recent": []}}
EDIT = {"changes": [CHANGE], "on": ON, "what": "tested"}
COMMAND = {
    "command": {"do": "take-out", "part": "ladders", "key": "rule"},
    "on": ON,
    "what": "tested",
    "seen": {"ladders": {"rule": 1}},
}


@pytest.fixture
def person(db: None) -> None:
    get_user_model().objects.create_user("tuva", password=PASSWORD)


def sign_in(client: Client, password: str, *, with_token: bool = True) -> int:
    client.get("/api/session")
    headers = {"X-CSRFToken": client.cookies["csrftoken"].value} if with_token else {}
    body = json.dumps({"username": "tuva", "password": password})
    return client.post("/api/session", body, content_type="application/json", headers=headers).status_code


def test_sign_in_and_out(person: None) -> None:
    client = Client(enforce_csrf_checks=True)
    assert client.get("/api/session").json() == {"username": None, "style": None}
    assert sign_in(client, PASSWORD) == 200
    assert client.get("/api/session").json() == {"username": "tuva", "style": {"digits": "space", "dates": "words"}}
    headers = {"X-CSRFToken": client.cookies["csrftoken"].value}
    assert client.delete("/api/session", headers=headers).status_code == 200
    assert client.get("/api/designs").status_code == 401


def test_sign_in_without_the_token_is_refused(person: None) -> None:
    assert sign_in(Client(enforce_csrf_checks=True), PASSWORD, with_token=False) == 403


def test_wrong_passwords_lock_out(person: None) -> None:
    client = Client(enforce_csrf_checks=True)
    answers = [sign_in(client, "wrong") for _ in range(9)]
    assert answers[:7] == [401] * 7
    assert answers[-1] == 429
    assert sign_in(client, PASSWORD) == 429


def test_change_without_the_token_is_refused(person: None) -> None:
    client = Client(enforce_csrf_checks=True)
    sign_in(client, PASSWORD)
    assert client.post("/api/rules", "{}", content_type="application/json").status_code == 403


PATHS = [
    "",
    "/days",
    f"/consequences?on={ON}",
    "/series",
    f"/shelves?on={ON}",
    f"/readings?on={ON}",
    "/cadences/beat/month?month=2027-03",
    "/revision",
    "/document",
    "/findings",
    "/history",
    "/split?target=disk&by=route",
    f"/unfree?target=disk&on={ON}",
    f"/points?on={ON}",
    "/mentions?part=ladders&key=rule",
    f"/routes?on={ON}",
]


@pytest.mark.parametrize("path", PATHS)
def test_nobody_reads_what_is_not_theirs(owner: Caller, row: Design, path: str) -> None:
    assert owner("get", f"/designs/{row.pk}{path}")[0] == 200
    assert signed_in("stranger")("get", f"/designs/{row.pk}{path}")[0] == 404
    assert Caller(Client())("get", f"/designs/{row.pk}{path}")[0] == 401


@pytest.mark.parametrize(("role", "status"), [("viewer", 403), ("editor", 200)])
def test_roles_decide_who_edits(row: Design, role: str, status: int) -> None:
    caller = member(row, "vera", role)
    assert caller("get", f"/designs/{row.pk}")[1]["role"] == role
    assert caller("post", f"/designs/{row.pk}/edits", EDIT)[0] == status
    assert caller("post", f"/designs/{row.pk}/reference?on={ON}")[0] == 200


def test_strangers_cannot_edit(row: Design) -> None:
    stranger = signed_in("stranger")
    trial = {"changes": [CHANGE], "on": ON}
    paths = {"edits": EDIT, "commands": COMMAND, "trial": trial, "trial/shelves": trial, "effects": trial}
    paths |= {"variants": {"name": "mine"}, "current": None, "workload-rows": {"text": "name"}, "opening-rows": {"text": ""}}
    for path, body in paths.items():
        assert stranger("post", f"/designs/{row.pk}/{path}", body)[0] == 404, path
    assert stranger("put", f"/designs/{row.pk}/variant", {"name": "mine"})[0] == 404
    assert stranger("post", f"/designs/{row.pk}/drop")[0] == 404


def test_viewers_change_nothing(row: Design) -> None:
    viewer = member(row, "vera", "viewer")
    for path, body in {"edits": EDIT, "commands": COMMAND, "variants": {"name": "mine"}, "current": None}.items():
        assert viewer("post", f"/designs/{row.pk}/{path}", body)[0] == 403, path
    assert viewer("put", f"/designs/{row.pk}/variant", {"name": "mine"})[0] == 403
    assert viewer("post", f"/designs/{row.pk}/drop")[0] == 403


@pytest.mark.parametrize("path", ["/designs/0", "/designs/99999999999999999999", "/designs/1/series?most=-1"])
def test_numbers_out_of_range_are_answered_plainly(owner: Caller, path: str) -> None:
    status, problem = owner("get", path)
    assert status in (404, 422)
    assert problem["status"] == status


def test_page_keeps_to_itself(client: Client) -> None:
    answer = client.get("/rules/ladders")
    assert answer.status_code == 200
    assert "default-src 'self'" in answer["Content-Security-Policy"]
    assert "csrftoken" in answer.cookies
    assert b"http://" not in answer.content
    assert b"https://" not in answer.content


def test_schema_is_the_one_that_is_committed() -> None:
    """When this fails on purpose: ./shelf schema-types writes web/openapi.json and the types made from it."""
    assert SCHEMA_FILE.read_text() == schema_text()


def test_words_of_the_page_are_the_core_s() -> None:
    """When this fails on purpose: ./shelf schema-types writes them."""
    assert VOCABULARY_FILE.read_text() == vocabulary_text()


def test_schema_is_openapi_3_1() -> None:
    schema = json.loads(SCHEMA_FILE.read_text())
    assert schema["openapi"].startswith("3.1")
    validate(schema)


def test_no_two_things_of_the_schema_share_a_name() -> None:
    """The framework would let one stand for both without a word."""
    modules = [module for name, module in sys.modules.items() if name.startswith(("shelf_core.", "shelf_server.api"))]
    models = {
        one
        for module in modules
        for one in vars(module).values()
        if isinstance(one, type) and (issubclass(one, BaseModel) or is_dataclass(one))
    }
    in_schema = set(json.loads(SCHEMA_FILE.read_text())["components"]["schemas"])
    names = [one.__name__ for one in models if one.__name__ in in_schema]
    assert sorted(name for name in set(names) if names.count(name) > 1) == []
