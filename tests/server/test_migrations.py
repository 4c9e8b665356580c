"""Designs of an older version come along, step by step: the database goes back once, and forward through what changed data."""

from collections.abc import Iterator
from datetime import date
from typing import Any

import pytest
from django.core.management import call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

FIRST, FAMILIES = [("designs", "0001_initial")], [("designs", "0002_variants_prices_history")]
BEFORE_LOCKS, LOCKS = [("designs", "0004_scripts")], [("designs", "0005_document_version_2")]


def at(state: list[tuple[str, str]]) -> Any:
    """The models of a state that the database has been brought to."""
    executor = MigrationExecutor(connection)
    executor.migrate(state)
    return MigrationExecutor(connection).loader.project_state(state).apps


@pytest.fixture
def of_before(transactional_db: None) -> Iterator[Any]:
    """The models of the first state; all tables are as they are now when the test has ended."""
    try:
        yield at(FIRST)
    finally:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())


def test_designs_of_before_come_along(of_before: Any) -> None:
    families_are_made(of_before)
    targets_lock_what_their_copies_ask_for(at(BEFORE_LOCKS))


def families_are_made(apps: Any) -> None:
    """Each design becomes the one variant of a family of its own."""
    old = apps.get_model("designs", "Design")
    for name in ("One", "Two"):
        old.objects.create(name=name, timezone="UTC", starts=date(2027, 1, 1), years=3, week_starts="MO")
    new = at(FAMILIES).get_model("designs", "Design")
    found = list(new.objects.order_by("name").values_list("name", "variant", "current", "currency", "stock_version"))
    assert found == [(name, "As it stands", True, "EUR", 1) for name in ("One", "Two")]
    assert len(set(new.objects.values_list("family_id", flat=True))) == 2
    new.objects.all().delete()


def targets_lock_what_their_copies_ask_for(apps: Any) -> None:
    """Version 1 let every lock hold; a target that said `none` is raised to the strongest lock that lies on it."""
    make = {name: apps.get_model("designs", name).objects for name in ("Design", "Family", "Site", "Target", "Route")}
    design = make["Design"].create(
        name="One", timezone="UTC", starts=date(2027, 1, 1), years=3, week_starts="MO", family=make["Family"].create()
    )
    site = make["Site"].create(design=design, key="here", position=0)
    places = {"design": design, "site": site, "media": "disk"}
    disk, cold, bare = (
        make["Target"].create(**places, key=key, position=at, placement="even", set_closes=None)
        for at, key in enumerate(("disk", "cold", "bare"))
    )
    route = make["Route"].create(design=design, key="way", position=0)
    copies, ladder = apps.get_model("designs", "Copy").objects, apps.get_model("designs", "Ladder").objects
    rule = ladder.create(design=design, key="rule", position=0)
    beat = apps.get_model("designs", "Cadence").objects.create(design=design, key="beat", position=0)
    copy = copies.create(route=route, key="first", position=0, target=disk, ladder=rule, cadence=beat)
    step = apps.get_model("designs", "StepDown").objects.create(copy=copy, position=0, after="P9D", target=cold)
    locks = apps.get_model("designs", "Lock").objects
    locks.create(copy=copy, position=0, lasts="P5D", mode="liftable")
    locks.create(step_down=step, position=0, lasts="P5D", mode="final")
    was = {"placement": "even", "set_closes": "day", "media": "tape"}
    notes = apps.get_model("designs", "Change").objects
    notes.create(design=design, revision=1, list_name="targets", key="disk", version=1, after=was)
    apps = at(LOCKS)
    found = apps.get_model("designs", "Target").objects.order_by("position").values_list("key", "lock", "fill_order")
    assert list(found) == [("disk", "liftable", "even"), ("cold", "final", "even"), (bare.key, "none", "even")]
    noted = apps.get_model("designs", "Change").objects.get()
    assert (noted.before, noted.after) == (None, {"fill_order": "even", "batch_closes": "day", "media": "tape"})
    apps.get_model("designs", "Route").objects.all().delete()
    apps.get_model("designs", "Design").objects.all().delete()


def test_what_django_checks_of_itself_finds_nothing() -> None:
    """Commands that people wait for do without these."""
    call_command("check", fail_level="WARNING")
