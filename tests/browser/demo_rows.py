"""The demo as the rows of a database: loaded once by a process, put back as it was for each of its tests.

Its design comes back at the state that it had, as from a backup. What the server has kept for that state holds for it again,
which is what keeping by states promises; tests that change the design see what is kept for states of their own.
"""

from django.core.management import call_command
from django.db import connection, transaction

from tests.emptying import tables_of_people


class DemoRows:
    """The rows of all tables that hold some once the demo is loaded, as PostgreSQL copies them out and in."""

    def __init__(self) -> None:
        self._rows: dict[str, bytes] = {}

    def put(self) -> None:
        """Fill an empty database with the demo."""
        if self._rows:
            self._copy_in()
        else:
            call_command("load_demo")
            self._rows = {table: rows for table in tables_of_people() if (rows := _copied_out(table))}

    def _copy_in(self) -> None:
        # References are looked at as the transaction ends, so that the order of tables is free.
        with transaction.atomic(), connection.cursor() as cursor:
            for table, rows in self._rows.items():
                with cursor.copy(f'COPY "{table}" FROM STDIN') as copy:
                    copy.write(rows)


def _copied_out(table: str) -> bytes:
    with connection.cursor() as cursor, cursor.copy(f'COPY "{table}" TO STDOUT') as copy:
        return b"".join(bytes(block) for block in copy)
