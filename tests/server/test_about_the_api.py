"""What holds for the whole API: a version in the path, what may be asked, a page to read, meanings of parameters, removal."""

import json
import re

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from shelf_core.design.meanings import meaning_of
from shelf_core.design.schema import design_schema
from shelf_server.api.fields import MEANINGS
from shelf_server.api.headers import etag_of
from shelf_server.designs.actions import branch
from shelf_server.designs.models import Change, Design, Family
from tests.designs import ROOT
from tests.server.conftest import Caller, member, signed_in

SCHEMA = json.loads((ROOT / "web" / "openapi.json").read_text())


def client_of(name: str) -> Client:
    client = Client()
    client.force_login(get_user_model().objects.get(username=name), backend="django.contrib.auth.backends.ModelBackend")
    return client


def test_the_version_stands_in_the_path_and_without_it_all_is_as_before(row: Design) -> None:
    client = client_of("olaf")
    old, new = (client.get(f"{start}/designs/{row.pk}") for start in ("/api", "/api/v1"))
    assert (old.status_code, new.status_code) == (200, 200)
    assert old.json() == new.json()
    made = client.post(f"/api/v1/designs/{row.pk}/variants", json.dumps({"name": "other"}), content_type="application/json")
    assert made.status_code == 201
    assert made["Location"] == f"/api/v1/designs/{made.json()['id']}"
    assert client.get(made["Location"]).status_code == 200
    assert client.get("/api/v2/designs").status_code == 404


def test_an_answer_says_what_there_is_room_for(row: Design, settings: object) -> None:
    settings.SHELF_RATES = {"page": 3, "script": 3, "nobody": 3}  # type: ignore[attr-defined]
    client = client_of("olaf")
    answers = [client.get(f"/api/designs/{row.pk}/revision") for _ in range(5)]
    left = [re.fullmatch(r'"minute";r=(\d+);t=(\d+)', one["RateLimit"]) for one in answers]
    assert [int(one[1]) for one in left if one] == [2, 1, 0, 0, 0]
    assert all(0 < int(one[2]) <= 60 for one in left if one)
    assert {one["RateLimit-Policy"] for one in answers} == {'"minute";q=3;w=60'}
    assert [one.status_code for one in answers] == [200, 200, 200, 429, 429]
    assert "Retry-After" in answers[-1]


@pytest.mark.django_db
def test_the_api_is_read_without_network_or_scripts() -> None:
    page = Client().get("/api/docs")
    text = page.content.decode()
    assert (page.status_code, page["Content-Type"]) == (200, "text/html; charset=utf-8")
    assert "script" not in page["Content-Security-Policy"]
    assert not re.search(r"<script|https?://(?!127)[^\s\"<]*\.(js|css)", text)
    for path, operations in SCHEMA["paths"].items():
        for method in operations:
            anchor = re.sub(r"[^a-z0-9]+", "-", f"{method} {path}".lower()).strip("-")
            assert f'href="#{anchor}"' in text
            assert f'id="{anchor}"' in text


def test_every_parameter_is_described_and_dates_say_their_form() -> None:
    parameters = [
        one for path in SCHEMA["paths"].values() for operation in path.values() for one in operation.get("parameters", [])
    ]
    assert len(parameters) > 100
    assert [one["name"] for one in parameters if not one.get("description")] == []
    assert all("ISO 8601" in one["description"] for one in parameters if one["name"] in ("on", "month", "until", "taken_to"))


def test_a_design_is_removed_with_its_variants_by_who_owns_all_and_has_seen_it(owner: Caller, row: Design) -> None:
    other = branch(get_user_model().objects.get(username="olaf"), row.pk, "as it might be")
    editor = member(row, "edna", "editor")
    client, address, seen = client_of("olaf"), f"/api/designs/{row.pk}", etag_of(row)
    assert editor("delete", f"/designs/{row.pk}", **{"If-Match": seen})[0] == 403
    assert signed_in("nobody")("delete", f"/designs/{row.pk}", **{"If-Match": seen})[0] == 404
    assert client.delete(address).status_code == 428
    assert (
        client.delete(address, headers={"If-Match": etag_of(other).replace(f'"{other.pk}-', f'"{row.pk}-')}).status_code == 412
    )
    assert Design.objects.count() == 2
    assert client.delete(address, headers={"If-Match": seen}).status_code == 204
    assert (Design.objects.count(), Family.objects.count(), Change.objects.count()) == (0, 0, 0)
    assert client.get(address).status_code == 404


def test_every_field_of_requests_and_answers_says_what_it_means() -> None:
    """None is without a meaning, and no meaning is without a field."""
    schemas = SCHEMA["components"]["schemas"]
    said = {(name, field): value for name, one in schemas.items() for field, value in one.get("properties", {}).items()}
    assert [place for place, value in said.items() if not value.get("description")] == []
    parts = {"Design", *design_schema()["$defs"]}
    own = {f"{name}.{field}" for name, field in said if name not in parts}
    by_name = {field for name, field in said if name not in parts and f"{name}.{field}" not in MEANINGS}
    assert set(MEANINGS) - own - by_name == set()


def test_fields_of_the_document_mean_the_same_in_its_schema_and_in_the_api() -> None:
    """Both say what the core says."""
    of_document = design_schema()
    of_api = SCHEMA["components"]["schemas"]
    for part, field in (("Rung", "pick"), ("Target", "thaw"), ("Ask", "rpo")):
        meaning = of_document["$defs"][part]["properties"][field]["description"]
        assert meaning == meaning_of(part, field)
        assert of_api[part]["properties"][field]["description"] == meaning
