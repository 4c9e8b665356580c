"""The demo as the rows of a database: loaded once by a process, put back as it was for each of its tests.

Its design comes back at the state that it had, as from a backup. What the server has kept for that state holds for it again,
which is what keeping by states promises; tests that change the design see what is kept for states of their own.
"""

from django.apps import apps
from django.core.management import call_command
from django.core.management.color import no_style
from django.db import connection, transaction
from psycopg import sql

from tests.emptying import tables_of_people


class DemoRows:
    """The rows of all tables that hold some once the demo is loaded, as PostgreSQL copies them out and in, by column."""

    def __init__(self) -> None:
        self._rows: dict[str, tuple[sql.Composable, bytes]] = {}

    def put(self) -> None:
        """Fill an empty database with the demo."""
        if self._rows:
            self._copy_in()
        else:
            call_command("load_demo")
            self._rows = {table: found for table in tables_of_people() if (found := _copied_out(table))[1]}

    def _copy_in(self) -> None:
        # References are looked at as the transaction ends, so that the order of tables is free.
        with transaction.atomic(), connection.cursor() as cursor:
            for where, rows in self._rows.values():
                with cursor.copy(sql.SQL("COPY {} FROM STDIN").format(where)) as copy:
                    copy.write(rows)
            # What a test did to the tables themselves may have begun their numbers anew.
            models = [model for model in apps.get_models() if model._meta.db_table in self._rows]
            cursor.execute(";".join(connection.ops.sequence_reset_sql(no_style(), models)))


def _copied_out(table: str) -> tuple[sql.Composable, bytes]:
    """A table with the names of its columns, since migrations there and back may leave these in another order."""
    with connection.cursor() as cursor:
        names = [column.name for column in connection.introspection.get_table_description(cursor, table)]
        where = sql.SQL("{} ({})").format(sql.Identifier(table), sql.SQL(", ").join(map(sql.Identifier, names)))
        with cursor.copy(sql.SQL("COPY {} TO STDOUT").format(where)) as copy:
            return where, b"".join(bytes(block) for block in copy)
