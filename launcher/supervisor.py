"""Keeps the application and its database running until it is asked to stop."""

import contextlib
import json
import signal
import subprocess
import time
from collections.abc import Callable, Iterator, Sequence
from types import FrameType

from launcher import outside, postgres, python_packages, system_packages, web_build
from launcher.locks import held_if_free
from launcher.places import PYTHON, ROOT, STATE, SetupError, child_environment, say
from launcher.ports import is_free
from launcher.service import Database, Service, Workers

WANTED_PORT = 8117
ADDRESS_FILE = STATE / "demo.json"
LOOKS_EACH = 0.5
"""Seconds between two looks at what runs."""
WORKERS = 2
"""So many processes do long work, unless the settings say otherwise."""


class _Asked(Exception):
    """Somebody asked us to stop."""


def demo(port: int | None) -> int:
    """Set everything up, serve the application with the demo design, print the address, stay until Ctrl-C."""
    with held_if_free("demo") as first:
        if not first:
            return _tell_where_it_runs()
        with _until_asked(postgres.USERS):
            _install()
            prepare_database(postgres.USERS)
            chosen = choose_port(port)
            address = f"http://127.0.0.1:{chosen}/"
            try:
                service = Service(chosen, postgres.USERS)
                _keep([service, Workers(WORKERS, postgres.USERS)], lambda: _tell_first(address))
            finally:
                ADDRESS_FILE.unlink(missing_ok=True)
    return 0


def serve(settings: str | None) -> int:
    """Serve the application to a team, as the settings say, until we are told to end. Nobody and nothing is put in it."""
    said = outside.environment_of(settings)
    host, port = outside.place_of(said.get("SHELF_LISTEN", f"127.0.0.1:{WANTED_PORT}"))
    database = outside.database_of(said)
    options = ["--host", host]
    if "SHELF_WEB_PROCESSES" in said:
        options += ["--workers", said["SHELF_WEB_PROCESSES"]]
    if "SHELF_TRUSTED_PROXY" in said:
        options += ["--trusted-proxy", said["SHELF_TRUSTED_PROXY"]]
    # A database that others keep may be served more than once; this checkout's own is one at a time.
    alone = held_if_free("demo") if database is postgres.USERS else contextlib.nullcontext(enter_result=True)
    with alone as first:
        if not first:
            raise SetupError("something of this checkout is served already: shelf demo, or another shelf serve")
        with _until_asked(database):
            _install()
            database.start()
            manage(database, "migrate", "--no-input")
            workers = Workers(int(said.get("SHELF_WORKERS", WORKERS)), database)
            _keep([Service(port, database, options), workers], lambda: say(f"Rested Shelf runs at http://{host}:{port}/"))
    return 0


def worker(settings: str | None) -> int:
    """Do long work for the application that the settings name, until we are told to end. There may be many, anywhere."""
    database = outside.database_of(outside.environment_of(settings))
    if not database.is_running():
        raise SetupError("nothing of this checkout is served: start shelf demo or shelf serve, or name a database in settings")
    signal.signal(signal.SIGTERM, _ask)
    signal.signal(signal.SIGINT, _ask)
    system_packages.ensure(system_packages.FOR_USE)
    python_packages.ensure("app")
    with contextlib.suppress(_Asked):
        _keep([Workers(1, database)], lambda: say("a worker is ready"))
    return 0


@contextlib.contextmanager
def _until_asked(database: Database) -> Iterator[None]:
    """What is done within ends when somebody asks us to stop, and the database with it."""
    signal.signal(signal.SIGTERM, _ask)
    signal.signal(signal.SIGINT, _ask)
    try:
        yield
    except _Asked:
        return
    finally:
        signal.signal(signal.SIGTERM, signal.SIG_IGN)
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        database.stop()
        say("stopped")


def _keep(kept: Sequence[Service | Workers], tell: Callable[[], None]) -> None:
    """Have all of these run, and say so; whatever ends by itself is started again."""
    try:
        for one in kept:
            one.begin()
        tell()
        while True:
            time.sleep(LOOKS_EACH)
            for one in kept:
                one.look()
    finally:
        for one in reversed(kept):
            one.end()


def manage(cluster: Database, *arguments: str) -> None:
    """Run one of Django's management commands on a cluster; its output is shown when it fails."""
    manage_with(cluster.environment(), *arguments)


def manage_with(environment: dict[str, str], *arguments: str) -> None:
    """Run one of Django's management commands on the database of an environment."""
    ended = subprocess.run(
        [str(PYTHON), str(ROOT / "server" / "manage.py"), *arguments],
        env=child_environment(**environment),
        capture_output=True,
        text=True,
        check=False,
    )
    if ended.returncode != 0:
        raise SetupError(f"manage.py {' '.join(arguments)} failed:\n{(ended.stdout + ended.stderr)[-3000:]}")


def prepare_database(cluster: postgres.Cluster) -> None:
    """Have a database running, migrated, with the demo account and design in it."""
    say("starting the database")
    cluster.start()
    manage(cluster, "migrate", "--no-input")
    manage(cluster, "load_demo")


def _ask(_signal: int, _frame: FrameType | None) -> None:
    raise _Asked


def _install() -> None:
    system_packages.ensure(system_packages.FOR_USE)
    python_packages.ensure("app")
    web_build.ensure_build()


def choose_port(port: int | None) -> int:
    """The port that was asked for, or the first free one. Raises SetupError when the former is taken."""
    if port is not None:
        if not is_free(port):
            raise SetupError(f"port {port} is taken; choose another with --port, or leave --port out")
        return port
    return next(candidate for candidate in range(WANTED_PORT, 65535) if is_free(candidate))


def _tell_where_it_runs() -> int:
    for _ in range(600):
        if ADDRESS_FILE.exists():
            _tell(json.loads(ADDRESS_FILE.read_text())["address"])
            return 0
        time.sleep(0.1)
    raise SetupError("another shelf demo is starting and has not said its address within a minute")


def _tell_first(address: str) -> None:
    ADDRESS_FILE.write_text(json.dumps({"address": address}))
    _tell(address)


def _tell(address: str) -> None:
    print(f"\n  Rested Shelf runs at {address}", flush=True)
    print("  Sign in as  mara  with the password  lindmoor-demo  (Ctrl-C stops it)\n", flush=True)
