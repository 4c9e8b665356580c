"""People, a design of theirs, and clients that speak for them."""

import json
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from shelf_core.design.reading import read_design
from shelf_server.designs.actions import create_design
from shelf_server.designs.models import Design, Membership
from tests.designs import NEWEST_14, WEEKLY_FULL, design

PASSWORD = "a-long-and-dull-password"


class Caller:
    """A client that sends and reads JSON."""

    def __init__(self, client: Client) -> None:
        self.client = client

    def __call__(self, method: str, path: str, body: Any = None, **headers: str) -> tuple[int, Any]:
        data = {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
        answer = getattr(self.client, method)(f"/api{path}", headers=headers, **data)
        return answer.status_code, json.loads(answer.content)


@pytest.fixture(autouse=True)
def quick_passwords(settings: Any) -> None:
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


def signed_in(name: str) -> Caller:
    user, _ = get_user_model().objects.get_or_create(username=name)
    client = Client()
    client.force_login(user, backend="django.contrib.auth.backends.ModelBackend")
    return Caller(client)


@pytest.fixture
def owner(db: None) -> Caller:
    return signed_in("olaf")


@pytest.fixture
def row(owner: Caller) -> Design:
    document = design(WEEKLY_FULL, NEWEST_14)
    document["targets"][0]["capacity"] = "100 TB"
    return create_design(get_user_model().objects.get(username="olaf"), read_design(json.dumps(document)))


def member(row: Design, name: str, role: str) -> Caller:
    caller = signed_in(name)
    Membership.objects.create(design=row, user=get_user_model().objects.get(username=name), role=role)
    return caller


UNKNOWN = {"id": "all", "workloads": {"ids": ["data"]}, "annual_growth_percent": {"low": -5, "high": 10}}


@pytest.fixture
def unknown(owner: Caller, row: Design) -> Design:
    """The design with something that is not known."""
    value = {"holds": [], "opening": [], "unknowns": [UNKNOWN]}
    change = {"part": "stock", "key": "design", "value": value, "seen": 1}
    status, answer = owner("post", f"/designs/{row.pk}/edits", {"changes": [change], "what": "unknowns", "on": "2027-06-01"})
    assert status == 200, answer
    row.refresh_from_db()
    return row
