"""How the application is given to a team: settings from the environment and from one file, in which every name is known.

The environment wins over the file. What is not said stays as it is for one person on one machine.
"""

import os
import tomllib
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from launcher import postgres
from launcher.places import SetupError


def _text(value: Any) -> str | None:
    return value if isinstance(value, str) and value else None


def _texts(value: Any) -> str | None:
    listed = isinstance(value, list) and all(isinstance(one, str) and one and "," not in one for one in value)
    return ",".join(value) if listed else None


def _truth(value: Any) -> str | None:
    return ("1" if value else "0") if isinstance(value, bool) else None


def _count(value: Any) -> str | None:
    return str(value) if isinstance(value, int) and not isinstance(value, bool) and 1 <= value <= 65535 else None


def _number(value: Any) -> str | None:
    return str(value) if isinstance(value, int) and not isinstance(value, bool) and 0 <= value <= 1000 else None


def _secret_in(value: Any) -> str | None:
    try:
        return Path(value).read_text().strip() if isinstance(value, str) else None
    except OSError as error:
        raise SetupError(f"database.password_file: expected a file that can be read: {error}") from None


KNOWN: dict[str, tuple[str, Callable[[Any], str | None], str]] = {
    "listen": ("SHELF_LISTEN", _text, 'an address and a port such as "127.0.0.1:8117"'),
    "host_names": ("SHELF_HOST_NAMES", _texts, 'a list of names such as ["shelf.example"]'),
    "trusted_origins": ("SHELF_TRUSTED_ORIGINS", _texts, 'a list of origins such as ["https://shelf.example"]'),
    "trusted_proxy": ("SHELF_TRUSTED_PROXY", _text, 'the address of the server in front, such as "127.0.0.1"'),
    "secure_cookies": ("SHELF_SECURE_COOKIES", _truth, "true or false"),
    "web_processes": ("SHELF_WEB_PROCESSES", _count, "a number of processes such as 10"),
    "workers": ("SHELF_WORKERS", _number, "a number of processes such as 2"),
    "database.host": ("SHELF_DB_HOST", _text, "the host of a PostgreSQL server"),
    "database.port": ("SHELF_DB_PORT", _count, "a port such as 5432"),
    "database.name": ("SHELF_DB_NAME", _text, "the name of a database"),
    "database.user": ("SHELF_DB_USER", _text, "the user that owns the database"),
    "database.password_file": ("SHELF_DB_PASSWORD", _secret_in, "a file with the password"),
}
"""What can be said: by its name in the file, the variable that says the same, how it is read, and what is expected."""


def settings_from(file: str | None, environment: Mapping[str, str]) -> dict[str, str]:
    """All that is said, by variable. Raises SetupError that names the file, the setting, what was expected and what came."""
    said = _from_file(Path(file)) if file else {}
    return said | {variable: environment[variable] for variable, _, _ in KNOWN.values() if environment.get(variable)}


def _from_file(file: Path) -> dict[str, str]:
    try:
        content = tomllib.loads(file.read_text())
    except (OSError, ValueError) as error:
        raise SetupError(f"{file}: expected settings in TOML: {error}") from None
    return dict(_one(file, name, value) for name, value in _flat(content))


def _flat(content: dict[str, Any]) -> Iterator[tuple[str, Any]]:
    for name, value in content.items():
        if isinstance(value, dict):
            yield from ((f"{name}.{inner}", one) for inner, one in value.items())
        else:
            yield name, value


def _one(file: Path, name: str, value: Any) -> tuple[str, str]:
    if name not in KNOWN:
        raise SetupError(f"{file}: {name}: expected one of {', '.join(KNOWN)}")
    variable, read, expected = KNOWN[name]
    found = read(value)
    if found is None:
        raise SetupError(f"{file}: {name}: expected {expected}, got {value!r}")
    return variable, found


def place_of(listen: str) -> tuple[str, int]:
    """The address and the port of `127.0.0.1:8117`. Raises SetupError."""
    host, _, port = listen.rpartition(":")
    if not host or not port.isdigit() or not 1 <= int(port) <= 65535:
        raise SetupError(f'listen: expected {KNOWN["listen"][2]}, got "{listen}"')
    return host, int(port)


class OutsideDatabase:
    """A database that somebody else keeps running."""

    def __init__(self, said: Mapping[str, str]) -> None:
        defaults = {"SHELF_DB_PORT": "5432", "SHELF_DB_NAME": "rested_shelf", "SHELF_DB_USER": "shelf", "SHELF_DB_PASSWORD": ""}
        self._environment = {"SHELF_DB_HOST": said["SHELF_DB_HOST"], **{n: said.get(n, value) for n, value in defaults.items()}}

    def environment(self) -> dict[str, str]:
        """What the application needs to know to connect."""
        return self._environment

    def is_running(self) -> bool:
        """Whether it runs is not ours to say: who asks it finds out."""
        return True

    def start(self) -> None:
        """Nothing is started here."""

    def stop(self) -> None:
        """Nothing is stopped here."""

    @contextmanager
    def running(self) -> Iterator[dict[str, str]]:
        """As it is."""
        yield self._environment


def database_of(said: Mapping[str, str]) -> "OutsideDatabase | postgres.Cluster":
    """The database that the settings name, or this checkout's own."""
    return OutsideDatabase(said) if "SHELF_DB_HOST" in said else postgres.USERS


def environment_of(file: str | None) -> dict[str, str]:
    """Take the settings into the environment that everything started from here has; back comes what was said."""
    said = settings_from(file or os.environ.get("SHELF_SETTINGS"), os.environ)
    os.environ.update(said)
    return said
