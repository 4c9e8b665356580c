"""`./shelf data`: all that people have made, saved to one file and put back from it, also while the server runs.

What is saved is as of one instant. What is put back is read whole into a database of its own, brought up to the present
version and only then given the name of the one in use; that one is kept under another name until the next time.
"""

import os
import subprocess
from collections.abc import Sequence
from pathlib import Path

from launcher import postgres, supervisor
from launcher.places import SetupError, say

BEGINS_WITH = b"PGDMP"
"""How an archive of pg_dump begins."""


def save(file: Path, database: "Database") -> None:
    """Write everything to a file that its owner alone can read, whole or not at all."""
    aside = file.with_name(f"{file.name}.part")
    aside.unlink(missing_ok=True)
    os.close(os.open(aside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600))
    try:
        database.run("pg_dump", "--format=custom", "--no-owner", "--no-privileges", f"--file={aside}", database.name)
        aside.replace(file)
    finally:
        aside.unlink(missing_ok=True)


def load(file: Path, database: "Database") -> None:
    """Put everything back as it was saved. Raises SetupError for a file that is none of ours; then nothing has changed."""
    _check(file)
    incoming, before = f"{database.name}_incoming", f"{database.name}_before"
    database.ask("postgres", f'drop database if exists "{incoming}" with (force)', f'create database "{incoming}"')
    try:
        database.run("pg_restore", "--no-owner", "--no-privileges", "--exit-on-error", f"--dbname={incoming}", str(file))
        database.called(incoming).manage("migrate", "--no-input")
    except SetupError:
        database.ask("postgres", f'drop database if exists "{incoming}" with (force)')
        raise
    _exchange(database, incoming, before)
    say(f"what was there before is kept as the database {before} until the next time")


def _exchange(database: "Database", incoming: str, before: str) -> None:
    """Give one database the name of another, which gets a third name: both or neither."""
    name = database.name
    database.ask(
        "postgres",
        f'drop database if exists "{before}" with (force)',
        f'alter database "{name}" allow_connections false',
        f"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{name}'",
    )
    try:
        # In one command, which is one transaction.
        database.ask(
            "postgres", f'alter database "{name}" rename to "{before}"; alter database "{incoming}" rename to "{name}"'
        )
    except SetupError:
        database.ask("postgres", f'alter database "{name}" allow_connections true')
        raise
    database.ask("postgres", f'alter database "{before}" allow_connections true')


def _check(file: Path) -> None:
    try:
        with file.open("rb") as content:
            begins = content.read(len(BEGINS_WITH))
    except OSError as error:
        raise SetupError(f"expected a file that ./shelf data save has written: {error}") from None
    if begins != BEGINS_WITH:
        raise SetupError(f"expected a file that ./shelf data save has written, got {file}, which is something else")


class Database:
    """A database of the application, by the environment that the application finds it with."""

    def __init__(self, environment: dict[str, str]) -> None:
        self._environment = environment
        self.name = environment["SHELF_DB_NAME"]

    def called(self, name: str) -> "Database":
        """Another database of the same server."""
        return Database({**self._environment, "SHELF_DB_NAME": name})

    def ask(self, name: str, *statements: str) -> None:
        """Run statements one after another, each for itself."""
        words = [word for statement in statements for word in ("--command", statement)]
        self.run("psql", "--quiet", "--no-psqlrc", "--set=ON_ERROR_STOP=1", "--output=/dev/null", f"--dbname={name}", *words)

    def run(self, program: str, *arguments: str) -> None:
        """Run one of PostgreSQL's programs. Raises SetupError with what it said."""
        environment = self._environment
        login = {
            **os.environ,
            "PGHOST": environment["SHELF_DB_HOST"],
            "PGPORT": environment["SHELF_DB_PORT"],
            "PGUSER": environment["SHELF_DB_USER"],
            "PGPASSWORD": environment["SHELF_DB_PASSWORD"],
        }
        command = [str(postgres.program(program)), *arguments]
        ended = subprocess.run(command, env=login, capture_output=True, text=True, check=False)
        if ended.returncode != 0:
            raise SetupError(f"{program} failed; nothing has changed:\n{ended.stderr[-2000:]}")

    def manage(self, *arguments: str) -> None:
        """Run one of Django's management commands on it."""
        supervisor.manage_with(self._environment, *arguments)


def data(arguments: Sequence[str], environment: dict[str, str]) -> int:
    """`./shelf data save FILE` and `./shelf data load FILE`."""
    what, file = arguments
    database = Database(environment)
    if what == "save":
        save(Path(file), database)
    else:
        load(Path(file), database)
    return 0
