"""How many statements an answer costs: each is a way to the database and back."""

import json
from collections.abc import Callable
from types import SimpleNamespace
from typing import Any

import pytest
from django.core.management import call_command
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from shelf_core.engine.memory import Memory
from shelf_server.api import rates
from shelf_server.designs import results
from shelf_server.designs.models import Design, Membership

ON = "2028-12-31"
WORDS = ("SELECT", "INSERT", "UPDATE", "DELETE")

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def client(monkeypatch: pytest.MonkeyPatch) -> Client:
    """Signed in as the owner of the demo, at a server that remembers nothing."""
    call_command("load_demo", verbosity=0)
    monkeypatch.setattr(results, "_WHOLE", Memory())
    client = Client()
    client.force_login(Membership.objects.filter(role="owner")[0].user, backend="django.contrib.auth.backends.ModelBackend")
    # The first request of a minute costs three statements more, for the count of it; which it is must not depend on the clock.
    monkeypatch.setattr(rates, "time", SimpleNamespace(time=lambda: 1_800_000_000.0))
    assert client.get("/api/designs").status_code == 200
    return client


def counted(ask: Callable[[], Any]) -> tuple[int, Any]:
    """How many statements read or write, and the answer; beginning and ending a transaction are not counted."""
    with CaptureQueriesContext(connection) as statements:
        answer = ask()
    assert answer.status_code == 200, answer.content
    return sum(one["sql"].startswith(WORDS) for one in statements), answer.json()


def test_a_cold_server_opens_a_design_with_few_statements_and_an_edit_costs_few(client: Client) -> None:
    address = f"/api/designs/{Design.objects.get().pk}"
    opening, design = counted(lambda: client.get(address))
    assert opening <= 15
    assert counted(lambda: client.get(f"{address}/consequences?on={ON}"))[0] <= 5
    ladder = next(one for one in design["document"]["ladders"] if one["id"] == "house")
    ladder["recent"][0]["keep"] = {"points": 17}
    change = {"part": "ladders", "key": "house", "value": ladder, "seen": design["versions"]["ladders"]["house"]}
    body = json.dumps({"on": ON, "what": "more", "changes": [change]})
    editing, answer = counted(lambda: client.post(f"{address}/edits", body, "application/json"))
    assert editing <= 12
    assert answer["made"][0]["after"]["recent"][0]["keep"] == {"points": 17}
