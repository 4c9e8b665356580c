"""The examples of the API are what it answers, every operation has one, and docs/api.md shows them."""

import base64
import io
import json
from datetime import UTC, date, datetime
from typing import Any

import openpyxl
import pytest
from django.core.management import call_command
from django.db import transaction
from django.test import Client
from django.utils import timezone

from shelf_core.engine.memory import Memory
from shelf_server.api.examples import EXAMPLES_FILE, WORKBOOK, Example, examples
from shelf_server.api.guide import guide_text, pretty
from shelf_server.api.headers import etag_of
from shelf_server.designs import results
from shelf_server.designs.models import Design, Membership, Token
from shelf_server.jobs.models import Job
from tests.designs import ROOT

SHORT = 2
"""So many entries of a list are shown; of a list within a list, one."""
LONGEST_TEXT = 400
FEW_LINES = 6
THEN = "2027-03-01T08:00:00Z"
TIMES = ("created", "expires", "last_used", "when")
IDS = ("id", "family")
JOB_ID = "7d1f0c52-e6b9-4c0f-8a1b-5f1d2f3c4e5a"
ETAG = '"1-1-1f4810d28d7f4f9ab0eb07e402f1d3bd"'
OPERATIONS = {
    f"{method.upper()} {path}"
    for path, operations in json.loads((ROOT / "web" / "openapi.json").read_text())["paths"].items()
    for method in operations
}


def short(value: Any, within: bool = False) -> Any:
    """An answer as an example shows it."""
    if isinstance(value, list):
        plain = value and all(isinstance(one, (int, float, str)) for one in value)
        return [short(one, True) for one in value[: 1 if within and not plain else SHORT]]
    if isinstance(value, dict):
        return {name: steady(name, short(one, within)) for name, one in value.items()}
    if isinstance(value, str) and len(value) > LONGEST_TEXT:
        return f"{value[:LONGEST_TEXT]}..."
    return value


def steady(name: str, value: Any) -> Any:
    """What differs from one asking to the next is always the same in an example."""
    if name in IDS and isinstance(value, int):
        return 1
    if name == "id" and isinstance(value, str) and len(value) == len(JOB_ID):
        return JOB_ID
    if name in TIMES and value is not None:
        return THEN
    if name == "etag" and value is not None:
        return ETAG
    if name == "done" and isinstance(value, int):
        return 0
    if name == "of" and isinstance(value, int):
        return 1
    return "shelf_..." if name == "token" else value


def first_lines(text: str) -> str:
    lines = text.replace("\r\n", "\n").split("\n")
    return "\n".join(line[:160] for line in lines[:FEW_LINES])


def same(one: Any, other: Any) -> bool:
    """Equal but for the last digits of numbers."""
    if isinstance(one, dict) and isinstance(other, dict):
        return one.keys() == other.keys() and all(same(one[name], other[name]) for name in one)
    if isinstance(one, list) and isinstance(other, list):
        return len(one) == len(other) and all(map(same, one, other))
    if isinstance(one, (int, float)) and isinstance(other, (int, float)) and not isinstance(one, bool):
        return bool(one == pytest.approx(other, rel=1e-9))
    return bool(one == other)


def workbook() -> str:
    book = openpyxl.Workbook()
    assert book.active is not None
    for line in (["Name", "Size (GB)"], ["Moss atlas", 1500]):
        book.active.append(line)
    out = io.BytesIO()
    book.save(out)
    return base64.b64encode(out.getvalue()).decode()


class Asker:
    """Asks the examples of the demo, each as if it were the only one."""

    def __init__(self, monkeypatch: pytest.MonkeyPatch) -> None:
        self._patch = monkeypatch
        self.row = Design.objects.get()
        self.user: Any = Membership.objects.get(design=self.row, role="owner").user

    def __call__(self, example: Example) -> Any:
        self._patch.setattr(results, "_WHOLE", Memory())
        with transaction.atomic():
            answer = self._ask(example)
            transaction.set_rollback(True)
        return answer

    def _ask(self, example: Example) -> Any:
        client = Client()
        if not example.call.endswith(" /api/session") or example.call.startswith("DELETE"):
            client.force_login(self.user, backend="django.contrib.auth.backends.ModelBackend")
        method, path = example.call.split(" ")
        for name, value in {**example.path, **self._made(example)}.items():
            path = path.replace("{" + name + "}", value)
        headers = {name: etag_of(self.row) if name == "If-Match" else value for name, value in example.headers.items()}
        body = example.body if example.body != {"content": WORKBOOK} else {"content": workbook()}
        answer = client.generic(
            method,
            path,
            b"" if body is None else json.dumps(body),
            "application/json",
            headers=headers,
            query_params=example.query | ({"other": self.row.pk} if "other" in example.query else {}),  # type: ignore[arg-type]
        )
        assert answer.status_code == example.status, (example.call, answer.content[:500])
        if not answer.content:
            return None
        if answer["Content-Type"].startswith("application/json"):
            return short(json.loads(answer.content))
        return first_lines(answer.content.decode())

    def _made(self, example: Example) -> dict[str, str]:
        """What a path names, and what must be there for it."""
        if "/tokens" in example.call:
            then = datetime(2099, 1, 1, tzinfo=UTC)
            token = Token.objects.create(user=self.user, name="weekly report", role="viewer", digest="0" * 64, expires=then)
            return {"id": str(token.pk)}
        if "/jobs/{key}" in example.call:
            asked = {"kind": "file", "asked": {"on": "2028-12-31", "file": "report.html"}}
            ended: dict[str, Any] = (
                {"state": "done", "result": b"<!doctype html>"} if "/file" in example.call else {"state": "stopped"}
            )
            common = {"design_state": self.row.state, "revision": 1, "document": b"", "asked_by": self.user}
            return {"key": str(Job.objects.create(design=self.row, **common, **asked, **ended).pk)}
        return {"id": str(self.row.pk)}


@pytest.fixture
def ask(db: None, settings: Any, monkeypatch: pytest.MonkeyPatch) -> Asker:
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    monkeypatch.setattr(timezone, "localdate", lambda: date(2027, 3, 1))
    call_command("load_demo", verbosity=0)
    return Asker(monkeypatch)


def test_every_operation_has_an_example() -> None:
    assert {one.call for one in examples()} == OPERATIONS
    assert len(examples()) == len(OPERATIONS)


def test_examples_are_what_the_api_answers(ask: Asker, request: pytest.FixtureRequest) -> None:
    """When this fails on purpose: --write-examples writes them anew, then ./shelf schema-types the schema and docs/api.md."""
    found = [(one, ask(one)) for one in examples()]
    if request.config.getoption("--write-examples"):
        plain = [one.model_copy(update={"answer": answer}).model_dump(exclude_defaults=True) for one, answer in found]
        EXAMPLES_FILE.write_text(pretty(plain) + "\n")
        examples.cache_clear()
        return
    for one, answer in found:
        assert same(answer, one.answer), (one.call, answer, one.answer)


def test_the_guide_is_made_from_the_schema() -> None:
    """When this fails on purpose: ./shelf schema-types writes docs/api.md."""
    schema = json.loads((ROOT / "web" / "openapi.json").read_text())
    text = guide_text(schema)
    assert (ROOT / "docs" / "api.md").read_text() == text
    for call in OPERATIONS:
        assert f"### `{call}`" in text
