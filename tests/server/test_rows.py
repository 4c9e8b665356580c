"""Rows of a design: nothing is lost on the way to PostgreSQL and back, and the database holds its own rules."""

import json
from typing import Any

import pytest
from django.db import IntegrityError, transaction
from django.db.models import RestrictedError
from hypothesis import HealthCheck, given, settings

from shelf_core.design.reading import design_of, read_design
from shelf_server.designs import models
from shelf_server.designs.rows.load import load_design
from shelf_server.designs.rows.store import settings_columns, store_design
from tests.core.strategies import designs
from tests.designs import DEMO, ROOT

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


def test_every_field_comes_back() -> None:
    plain = json.loads((ROOT / "tests" / "examples" / "three-copies.json").read_text())
    plain["targets"][0] |= {
        "reclaim": {"rrule": "FREQ=WEEKLY;BYDAY=SU", "at": ["06:00", "18:00"]},
        "devices": [{"name": "one", "capacity": "10 TiB"}, {"name": "two", "capacity": 5_000}],
        "fill_order": "even",
        "used_otherwise": {"size": "1.5 TB", "annual_growth_percent": 3},
    }
    plain["targets"][2] |= {"cartridge": "18 TB", "slots": 40, "drives": 2, "batch_closes": "week", "returns_after": "P2W"}
    plain["workloads"][0] |= {
        "members": [
            {"id": "m", "offline": [["2027-01-01", "2027-02-01"]], "closed_from": "2028-01-01", "keep_closed": True},
            {"id": "n", "keep_closed": "2029-01-01"},
            {"id": "o", "keep_closed": False},
        ],
        "alike": {"group": "g", "percent": 0},
        "from": "2026-10-01",
        "until": "2028-01-01",
        "priority": 3,
        "log_per_day": 12.5,
    }
    plain["cadences"][0]["runs"].append(
        {
            "id": "x",
            "kind": "full",
            "once": ["2027-03-01T10:00", "2027-03-01T10:00:30"],
            "timezone": "UTC",
            "from": "2027-01-01",
            "until": "2028-01-01",
            "except": ["2027-02-02"],
        }
    )
    plain["ladders"][0]["recent"] += [
        {"keep": {"superseded": {"extra": 2}}},
        {"keep": "forever", "kinds": ["full"], "runs": ["sat"]},
    ]
    plain["ladders"][0]["rungs"][0] |= {"on": 15, "every": "month", "from": "any"}
    copies = plain["routes"][0]["copies"]
    plain["ladders"].append(
        {"id": "sure", "recent": [{"keep": "P9D"}], "rungs": [{"name": "weekly", "every": "week", "keep": "P8W"}]}
    )
    copies[1] |= {
        "ladder": "sure",
        "take": {"rungs": ["weekly"]},
        "sweep": "with-runs",
        "lock": [{"for": "kept"}, {"for": "P9D", "rungs": ["weekly"]}],
    }
    copies[2].pop("ladder")
    copies[2] |= {"rotation": {"scheme": "gfs", "weekly_on": "FR", "years": 3}}
    copies[0]["step_downs"] = [
        {
            "after": "P30D",
            "target": "bucket",
            "which": ["monthly"],
            "keep_source": True,
            "lock": {"for": "P1Y", "mode": "final"},
        },
        {"after": "P60D", "target": "tape", "which": "all", "as": "chain", "skip_if_short": False},
    ]
    plain["holds"] = [
        {
            "workloads": {"ids": ["db"], "tags": ["records"]},
            "taken_from": "2027-01-01",
            "taken_to": "2027-02-01",
            "placed": "2027-03-01",
        }
    ]
    plain["opening"] = [
        {"route": "records", "copy": "house", "workload": "db", "taken": "2026-08-30T22:00", "kind": "full", "size": "3 TB"}
    ]
    there_and_back(plain)


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
