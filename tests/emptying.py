"""The database of the tests emptied by deleting what is in it.

Django empties tables by TRUNCATE, for which PostgreSQL makes a new file for each of them and each of their indexes: thirty
times what it takes to delete the few rows of a test.
"""

from typing import Any

from django.apps import apps
from django.db import connection, transaction
from django.test import TransactionTestCase
from psycopg import sql


def tables_of_people() -> list[str]:
    """Tables of what people make; what Django says of itself stands in its own from the first migration on."""
    own = [*apps.get_app_config("contenttypes").get_models(), apps.get_model("auth", "Permission")]
    stays = {"django_migrations", *(model._meta.db_table for model in own)}
    return [table for table in connection.introspection.django_table_names(only_existing=True) if table not in stays]


def emptied(_case: Any) -> None:
    """Delete all rows. What refers to what need not be looked at, since all of it goes."""
    deletes = [sql.SQL("DELETE FROM {}").format(sql.Identifier(table)) for table in tables_of_people()]
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET LOCAL session_replication_role = replica")
        cursor.execute(sql.SQL(";").join(deletes).as_string(cursor.connection))


def empty_by_deleting() -> None:
    """From now on, after each test that commits."""
    TransactionTestCase._fixture_teardown = emptied
