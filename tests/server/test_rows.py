"""Rows of a design: nothing is lost on the way to PostgreSQL and back, and the database holds its own rules."""

import json
from typing import Any

import pytest
from django.core.management import call_command
from django.db import IntegrityError, transaction
from django.db.models import RestrictedError
from hypothesis import HealthCheck, given, settings

from shelf_core.design.reading import design_of, read_design
from shelf_server.designs import models
from shelf_server.designs.rows import mapping
from shelf_server.designs.rows.reading import load_design
from shelf_server.designs.rows.tables import LISTS, SETTINGS, STOCK
from shelf_server.designs.rows.writing import settings_columns, store_design
from tests.core.strategies import designs
from tests.designs import DEMO, ROOT
from tests.full_design import fields_at_their_defaults, full_design

pytestmark = pytest.mark.django_db


def stored(document: Any) -> models.Design:
    row = models.Design.objects.create(family=models.Family.objects.create(), **settings_columns(document))
    store_design(document, row)
    return row


def there_and_back(plain: dict[str, Any]) -> None:
    document = design_of(plain)
    assert load_design(stored(document)).canonical() == document.canonical()


@pytest.mark.parametrize("file", [DEMO, *sorted((ROOT / "tests" / "examples").glob("*.json"))], ids=lambda file: file.stem)
def test_whole_designs_come_back(file: Any) -> None:
    """Also what the engine cannot compute yet is kept whole."""
    there_and_back(json.loads(file.read_text()))


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(document=designs())
def test_random_designs_come_back(document: dict[str, Any]) -> None:
    with transaction.atomic():
        there_and_back(document)
        transaction.set_rollback(True)


def test_every_field_of_every_part_is_held_by_its_table() -> None:
    """A field without a line in the mapping is named here before it is lost."""
    tables = [*LISTS.values(), *STOCK.values(), SETTINGS]
    for table in tables:
        tables += [one.table for one in table.lists()]
    for table in (one for one in tables if one.part is not None):
        held = [name for item in table.items for name in item.fields]
        declared = [field.alias or name for name, field in table.part.model_fields.items()]
        assert sorted(held) == sorted(declared), table.part


@pytest.mark.parametrize("most_pairs", [45, 3], ids=["in one piece", "in several pieces"])
def test_every_field_comes_back(monkeypatch: pytest.MonkeyPatch, most_pairs: int) -> None:
    """With values that are not the defaults: what the database holds is what was given, not what a model fills in."""
    monkeypatch.setattr(mapping, "MOST_PAIRS", most_pairs)
    plain = full_design()
    assert fields_at_their_defaults(design_of(plain)) == {"Design.format", "Design.version"}, (
        "give these a value in full_design"
    )
    there_and_back(plain)


def test_no_migration_is_missing() -> None:
    """Limits of the document are constraints of its tables: one that changes needs a migration."""
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)


@pytest.mark.parametrize(
    ("model", "columns"),
    [
        (models.Workload, {"count": 0}),
        (models.Workload, {"daily_change_percent": 101}),
        (models.Workload, {"alike_group": "x"}),
        (models.Target, {"media": "paper"}),
        (models.Rung, {"keep_periods": 3, "keep_for": "P1D"}),
        (models.Run, {"rrule": None}),
        (models.Copy, {"cadence": None}),
        (models.Design, {"years": 151}),
    ],
)
def test_database_refuses_what_the_document_would(model: Any, columns: dict[str, Any]) -> None:
    stored(read_design(DEMO.read_bytes()))
    with pytest.raises(IntegrityError), transaction.atomic():
        model.objects.filter(pk=model.objects.order_by("pk").first().pk).update(**columns)


def test_keys_are_there_once_and_references_hold() -> None:
    row = stored(read_design(DEMO.read_bytes()))
    first, second = models.Workload.objects.filter(design=row)[:2]
    with pytest.raises(IntegrityError), transaction.atomic():
        models.Workload.objects.filter(pk=second.pk).update(key=first.key)
    with pytest.raises(RestrictedError):
        models.Target.objects.filter(design=row, key="fern-disk").delete()
    row.delete()
    assert not models.Copy.objects.exists()
