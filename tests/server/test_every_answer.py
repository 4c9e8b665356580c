"""What holds for every answer: problems where there is none, methods that all addresses know, what may be kept, who may still ask.

Status codes and methods: RFC 9110 (9.3.2 HEAD, 9.3.7 OPTIONS, 15.5.6 405 with Allow); problem details: RFC 9457.
"""

import json
import stat
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from shelf_server import settings as project
from shelf_server.api import designs
from shelf_server.designs.models import Change, Design
from tests.server.conftest import PASSWORD, Caller
from tests.server.test_scripts import by_token, token_of

HIDDEN = {"a NUL": "a\0b", "a line break": "a\nb", "a direction mark": "a\u202eb", "an isolate": "a\u2067b"}


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [("get", "/api/nothing-here", 404), ("get", "/api/designs/999999", 404), ("put", "/api/session", 405), ("patch", "/api/designs", 405)],
)  # fmt: skip
def test_what_is_not_there_is_a_problem_in_words(owner: Caller, method: str, path: str, status: int) -> None:
    answer = getattr(owner.client, method)(path)
    assert (answer.status_code, answer["Content-Type"]) == (status, "application/problem+json")
    assert json.loads(answer.content)["status"] == status
    assert (status == 405) == answer.has_header("Allow")


def test_failure_of_our_own_is_a_problem_too(owner: Caller, monkeypatch: pytest.MonkeyPatch) -> None:
    def broken(*_: Any, **__: Any) -> None:
        raise RuntimeError("something of ours, with a secret in it")

    monkeypatch.setattr(designs, "designs_of", broken)
    owner.client.raise_request_exception = False
    answer = owner.client.get("/api/designs")
    assert (answer.status_code, answer["Content-Type"]) == (500, "application/problem+json")
    assert b"secret" not in answer.content


def test_head_says_what_get_says_without_its_body(owner: Caller, row: Design) -> None:
    path = f"/api/designs/{row.pk}"
    whole, head = owner.client.get(path), owner.client.head(path)
    assert (head.status_code, head.content) == (200, b"")
    assert int(head["Content-Length"]) == len(whole.content)
    assert head["ETag"] == whole["ETag"]


def test_options_names_the_methods_of_an_address(owner: Caller, row: Design) -> None:
    answer = owner.client.options(f"/api/designs/{row.pk}/document")
    assert answer.status_code == 204
    assert {"GET", "HEAD", "OPTIONS", "PUT"} == set(answer["Allow"].split(", "))
    assert owner.client.options("/api/nothing-here").status_code == 404


def test_private_answers_are_not_kept_between(owner: Caller, row: Design) -> None:
    for path in (f"/api/designs/{row.pk}", "/api/designs", "/api/session", "/api/nothing-here"):
        assert "no-store" in owner.client.get(path)["Cache-Control"], path


@pytest.mark.parametrize("path", ["/api/designs", "/api/session", "/api/typed"])
def test_form_is_no_body(owner: Caller, path: str) -> None:
    answer = owner.client.post(path, {"file": SimpleUploadedFile("a.json", b"{}")})
    assert (answer.status_code, answer["Content-Type"]) == (400, "application/problem+json")


@pytest.mark.parametrize("path", ["/", "/designs/1", "/index.html"])
def test_page_has_its_policy_at_every_address(db: None, client: Client, path: str, settings: Any, tmp_path: Path) -> None:
    settings.WEB_BUILD = tmp_path
    (tmp_path / "index.html").write_text("<!doctype html>")
    answer = client.get(path)
    assert "frame-ancestors 'none'" in answer["Content-Security-Policy"]
    assert answer["X-Frame-Options"] == "DENY"
    assert not answer.has_header("Access-Control-Allow-Origin")
    answer.close()


@pytest.mark.parametrize("text", HIDDEN.values(), ids=list(HIDDEN))
def test_hidden_characters_are_refused_wherever_a_line_is_asked_for(owner: Caller, row: Design, text: str) -> None:
    value = {"name": "Other", "timezone": "UTC", "starts": "2027-01-01", "years": 1}

    def edit(what: str, key: str, name: str) -> int:
        change = {"part": "settings", "key": key, "value": {**value, "name": name}, "seen": 1}
        return owner("post", f"/designs/{row.pk}/edits", {"changes": [change], "what": what, "on": "2027-06-01"})[0]

    assert owner("post", f"/designs/{row.pk}/variants", {"name": text})[0] == 422
    assert owner("post", "/tokens", {"name": text, "role": "viewer", "days": 3})[0] == 422
    assert [edit(text, "design", "Other"), edit("a name", text, "Other"), edit("a name", "design", text)] == [422] * 3
    assert edit("a name", "design", "Other") == 200
    assert Change.objects.filter(design=row).count() == 1


def test_token_ends_with_a_new_password_and_not_before(owner: Caller, row: Design) -> None:
    person = get_user_model().objects.get(username="olaf")
    person.set_password(PASSWORD)
    person.save()
    owner.client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")
    script = by_token(token_of(owner))
    assert script("get", f"/designs/{row.pk}")[0] == 200
    person.first_name = "Olaf"
    person.save()
    assert script("get", f"/designs/{row.pk}")[0] == 200
    person.set_password("another-long-and-dull-password")
    person.save()
    assert script("get", f"/designs/{row.pk}")[0] == 401


def test_secret_key_is_made_once_by_whoever_is_first(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(project, "STATE", tmp_path)
    with ThreadPoolExecutor(8) as pool:
        keys = set(pool.map(lambda _: project._secret_key(), range(40)))
    assert len(keys) == 1
    assert [path.name for path in tmp_path.iterdir()] == ["secret-key"]
    assert stat.S_IMODE((tmp_path / "secret-key").stat().st_mode) == 0o600
