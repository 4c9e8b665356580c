"""The whole API by its own schema (schemathesis): no failure of the server, no answer that is not documented, for anybody."""

import json
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
import schemathesis
from django.core.signals import request_finished, request_started
from django.db import close_old_connections
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_headers_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from shelf_server.designs.models import Change, Design, Membership, Reference, Token
from shelf_server.designs.rows.reading import load_design
from shelf_server.wsgi import application
from tests.server.conftest import member, signed_in

CHECKS = [
    not_a_server_error,
    status_code_conformance,
    content_type_conformance,
    response_headers_conformance,
    response_schema_conformance,
]
OPEN_TO_ALL = {"GET /api/session", "GET /api/health", "GET /api/docs", "GET /api/schemas/design", "POST /api/session"}
ON = "2027-06-01"

schema = schemathesis.openapi.from_wsgi("/api/openapi.json", application)
OPERATIONS = {one.ok().label: one.ok() for one in schema.get_all_operations()}


@pytest.fixture(autouse=True)
def unhurried(settings: Any) -> None:
    """Rates have tests of their own."""
    settings.SHELF_RATES = {"page": 10**9, "script": 10**9, "nobody": 10**9}
    settings.AXES_ENABLED = False


@contextmanager
def on_the_connection_of_the_test() -> Iterator[None]:
    """Requests leave it open, as those of Django's own test client do, which connects these signals again each time."""
    for signal in (request_started, request_finished):
        signal.disconnect(close_old_connections)
    yield
    for signal in (request_started, request_finished):
        signal.connect(close_old_connections)


def state_of(row: Design) -> Any:
    """All of a design that somebody could change."""
    found = Design.objects.filter(pk=row.pk).first()
    if found is None:
        return None
    own = [list(kind.objects.filter(design=found).values()) for kind in (Membership, Change)]
    return load_design(found).canonical(), found.variant, found.current, found.revision, own


def likely(row: Design, token: Token) -> dict[str, list[Any]]:
    """Values with which requests get further than to a refusal."""
    return {
        "id": [row.pk, row.pk, row.pk, token.pk, row.pk + 1],
        "on": [ON],
        "first": ["2027-02-01"],
        "last": ["2027-03-01"],
        "until": [ON],
        "target": ["disk"],
        "ladder": ["rule"],
        "month": ["2027-03"],
        "part": ["ladders", "workloads"],
        "name": ["report.html", "forecast.xlsx", "series.parquet", "targets", "points"],
        "cadence": ["week"],
        "seen": [1],
    }


def closer(case: Any, draw: st.DataObject, known: dict[str, list[Any]]) -> Any:
    """The request with some of its values replaced by likely ones."""
    for values in (case.path_parameters, case.query, case.body):
        for name in values if isinstance(values, dict) else ():
            if name in known and draw.draw(st.integers(0, 3)):
                values[name] = draw.draw(st.sampled_from(known[name]))
    return case


def cookies_of(client: Client) -> tuple[dict[str, str], dict[str, str]]:
    client.get("/api/session")
    cookies = {name: one.value for name, one in client.cookies.items()}
    return cookies, {"X-CSRFToken": cookies["csrftoken"], "Accept-Encoding": "identity"}


@pytest.mark.django_db
@pytest.mark.parametrize("role", ["owner", "viewer", "nobody"])
@pytest.mark.parametrize("label", OPERATIONS)
def test_every_operation_answers_as_its_schema_says(label: str, role: str, row: Design) -> None:
    """Source: OpenAPI 3.1 as schemathesis reads it."""
    caller = {"owner": lambda: signed_in("olaf"), "viewer": lambda: member(row, "vera", "viewer"), "nobody": lambda: None}[
        role
    ]()
    token = Token.objects.create(
        user=row.memberships.get(role="owner").user, name="t", role="viewer", digest="0" * 64, expires="2099-01-01T00:00Z"
    )
    client = caller.client if caller else Client()
    before = state_of(row)
    cookies, headers = cookies_of(client)

    @settings(max_examples=8, phases=[Phase.generate], suppress_health_check=list(HealthCheck), deadline=None)
    @given(case=OPERATIONS[label].as_strategy(), data=st.data())
    def hold(case: Any, data: st.DataObject) -> None:
        asked = closer(case, data, likely(row, token))
        if role == "owner" and not Design.objects.filter(pk=row.pk).exists():
            return  # it has dropped its design, as an owner may
        response = asked.call(cookies=cookies, headers=headers)
        case.validate_response(response, checks=CHECKS)
        if role == "nobody" and label not in OPEN_TO_ALL:
            assert response.status_code in (401, 403, 404, 405, 422), (response.status_code, case.as_curl_command())
        if role != "owner":
            assert response.status_code != 200 or b"olaf" not in response.content or label.endswith(("/history", "/revision"))

    with on_the_connection_of_the_test():
        hold()
    if role != "owner":
        assert state_of(row) == before
        assert Token.objects.filter(pk=token.pk).exists()
        assert Reference.objects.filter(design=row, user=token.user).count() == 1


def test_every_operation_is_documented_with_words() -> None:
    document = json.loads(Client().get("/api/openapi.json").content)
    operations = [(path, method, one) for path, methods in document["paths"].items() for method, one in methods.items()]
    assert len(operations) == len(OPERATIONS)
    for path, method, one in operations:
        assert one.get("summary"), (path, method)
        assert one.get("description"), (path, method)
        assert any(str(status).startswith("2") for status in one["responses"]) or method == "get", (path, method)
