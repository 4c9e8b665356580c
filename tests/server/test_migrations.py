"""Designs of an older version come along: each becomes the one variant of a family of its own."""

from datetime import date

import pytest
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

OLD, NEW = [("designs", "0001_initial")], [("designs", "0002_variants_prices_history")]


@pytest.mark.django_db(transaction=True)
def test_designs_of_before_become_families() -> None:
    executor = MigrationExecutor(connection)
    executor.migrate(OLD)
    try:
        old = executor.loader.project_state(OLD).apps.get_model("designs", "Design")
        for name in ("One", "Two"):
            old.objects.create(name=name, timezone="UTC", starts=date(2027, 1, 1), years=3, week_starts="MO")
        executor = MigrationExecutor(connection)
        executor.migrate(NEW)
        new = executor.loader.project_state(NEW).apps.get_model("designs", "Design")
        found = list(new.objects.order_by("name").values_list("name", "variant", "current", "currency", "stock_version"))
        assert found == [(name, "As it stands", True, "EUR", 1) for name in ("One", "Two")]
        assert len(set(new.objects.values_list("family_id", flat=True))) == 2
        new.objects.all().delete()
    finally:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())
