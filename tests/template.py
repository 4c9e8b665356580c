"""The tables as all migrations leave them, made once: each process of the tests, and each run after, copies them."""

import fcntl
import hashlib
import os
import subprocess
from pathlib import Path
from typing import Any

import psycopg
from psycopg import sql

from launcher.places import PYTHON, child_environment
from tests.designs import ROOT

ANOTHER = "postgres"
"""The database from which others are made."""


def template_of(settings: dict[str, Any]) -> str:
    """The name of a database that has all tables and no rows. `settings` are Django's of the database."""
    name = f"template_{_digest()}"
    with (ROOT / ".shelf" / "template.lock").open("a") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        with _connected(settings, ANOTHER) as connection:
            if connection.execute("SELECT 1 FROM pg_database WHERE datname = %s AND datistemplate", [name]).fetchone():
                return name
            _forget_older(connection)
            connection.execute(sql.SQL("CREATE DATABASE {}").format(sql.Identifier(name)))
            migrate = [str(PYTHON), str(ROOT / "server" / "manage.py"), "migrate", "--no-input", "--verbosity", "0"]
            subprocess.run(migrate, env={**child_environment(), **os.environ, "SHELF_DB_NAME": name}, check=True)
            # Only now is it whole: what was interrupted before is made anew.
            connection.execute(sql.SQL("ALTER DATABASE {} IS_TEMPLATE true").format(sql.Identifier(name)))
    return name


def _forget_older(connection: psycopg.Connection[Any]) -> None:
    for (older,) in connection.execute("SELECT datname FROM pg_database WHERE datname LIKE 'template\\_%'").fetchall():
        connection.execute(sql.SQL("ALTER DATABASE {} IS_TEMPLATE false").format(sql.Identifier(older)))
        connection.execute(sql.SQL("DROP DATABASE {}").format(sql.Identifier(older)))


def _connected(settings: dict[str, Any], name: str) -> psycopg.Connection[Any]:
    who = {"user": settings["USER"], "password": settings["PASSWORD"], "host": settings["HOST"], "port": settings["PORT"]}
    return psycopg.connect(dbname=name, autocommit=True, **who)


def _digest() -> str:
    found = hashlib.sha256()
    for file in (*sorted(ROOT.glob("server/shelf_server/*/migrations/*.py")), ROOT / "requirements" / "app.txt"):
        found.update(Path(file).read_bytes())
    return found.hexdigest()[:12]
