"""Keeps the application and its database running until it is asked to stop."""

import contextlib
import ctypes
import json
import os
import signal
import subprocess
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from types import FrameType

from launcher import outside, postgres, python_packages, system_packages, web_build
from launcher.locks import held_if_free
from launcher.places import PYTHON, ROOT, STATE, SetupError, child_environment, say
from launcher.ports import is_free

WANTED_PORT = 8117
ADDRESS_FILE = STATE / "demo.json"
LOOKS_EACH, ASKS_EACH = 0.5, 10.0
"""Seconds between two looks at what runs, and between two questions to it."""
SILENT_FOR = 45.0
STARTS_WITHIN = 60.0
LONGEST_WAIT = 30.0
DIE_WITH_PARENT = 1
"""PR_SET_PDEATHSIG of prctl(2): a child does not outlive a supervisor that was killed."""


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
                _keep(Service(chosen, postgres.USERS), lambda: _tell_first(address))
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
            _keep(Service(port, database, options), lambda: say(f"Rested Shelf runs at http://{host}:{port}/"))
    return 0


@contextlib.contextmanager
def _until_asked(database: "postgres.Cluster | outside.OutsideDatabase") -> Iterator[None]:
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


def _keep(service: "Service", tell: Callable[[], None]) -> None:
    """Serve, and say so; whatever ends by itself is started again."""
    try:
        service.begin()
        tell()
        while True:
            time.sleep(LOOKS_EACH)
            service.look()
    finally:
        service.end()


def manage(cluster: "postgres.Cluster | outside.OutsideDatabase", *arguments: str) -> None:
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


def start_with_us(command: list[str], environment: dict[str, str], cwd: Path = ROOT) -> subprocess.Popen[bytes]:
    """Start a child that ends with us and that a Ctrl-C at the terminal does not reach by itself."""
    libc = ctypes.CDLL(None)
    return subprocess.Popen(
        command,
        cwd=cwd,
        env=environment,
        start_new_session=True,
        preexec_fn=lambda: libc.prctl(DIE_WITH_PARENT, signal.SIGTERM),
    )


def end(child: subprocess.Popen[bytes]) -> None:
    """End a child and all that it started, kindly first. Each child leads a process group of its own."""
    _signal_group(child, signal.SIGTERM)
    try:
        child.wait(timeout=5)
    except subprocess.TimeoutExpired:
        _signal_group(child, signal.SIGKILL)
        child.wait()


def _signal_group(child: subprocess.Popen[bytes], number: int) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.killpg(child.pid, number)


def _ask(_signal: int, _frame: FrameType | None) -> None:
    raise _Asked


def _install() -> None:
    system_packages.ensure(system_packages.FOR_USE)
    python_packages.ensure("app")
    web_build.ensure_build()


class Service:
    """The application and its database, kept running: whatever ends is started again, as long as anything can be started."""

    def __init__(self, port: int, cluster: "postgres.Cluster | outside.OutsideDatabase", options: Sequence[str] = ()) -> None:
        self._port, self._cluster, self._options = port, cluster, tuple(options)
        self._child: subprocess.Popen[bytes] | None = None
        self._failures, self._not_before = 0, 0.0
        self._silent_since: float | None = None
        self._asked = 0.0

    def begin(self) -> None:
        """Start the application. Raises SetupError when it does not answer: the first time somebody should see why."""
        self._child = start_server(self._port, self._cluster, self._options)
        wait_until_it_answers(self._child, self._address)

    def look(self) -> None:
        """Start again what has ended; what cannot be started now is tried again, each time a little later."""
        if time.monotonic() < self._not_before:
            return
        try:
            self._mend()
            self._failures = 0
        except (SetupError, OSError, subprocess.SubprocessError) as error:
            self._failures += 1
            wait = min(2.0**self._failures, LONGEST_WAIT)
            self._not_before = time.monotonic() + wait
            say(f"that did not work ({str(error).splitlines()[0]}); trying again in {wait:.0f} seconds")

    def pid(self) -> int | None:
        """The process that takes requests; None while there is none."""
        return self._child.pid if self._child is not None and self._child.poll() is None else None

    def end(self) -> None:
        """End the application."""
        if self._child is not None:
            end(self._child)

    @property
    def _address(self) -> str:
        return f"http://127.0.0.1:{self._port}/"

    def _mend(self) -> None:
        if not self._cluster.is_running():
            say("the database has ended; starting it again")
            self._cluster.start()
            say("the database runs again")
        if self._child is None or self._child.poll() is not None:
            say("the server has ended; starting it again")
            self._restart()
        elif self._is_silent():
            say(f"the server has not answered for {SILENT_FOR:.0f} seconds; starting it again")
            end(self._child)
            self._restart()

    def _restart(self) -> None:
        self._silent_since = None
        self._child = start_server(self._port, self._cluster, self._options)
        wait_until_it_answers(self._child, self._address)
        say("the server runs again")

    def _is_silent(self) -> bool:
        """Whether the application has not answered for long; it is asked now and then."""
        now = time.monotonic()
        if now - self._asked < ASKS_EACH:
            return False
        self._asked = now
        if _answers(self._address, timeout=ASKS_EACH):
            self._silent_since = None
        elif self._silent_since is None:
            self._silent_since = now
        return self._silent_since is not None and now - self._silent_since > SILENT_FOR


def start_server(
    port: int, cluster: "postgres.Cluster | outside.OutsideDatabase", options: Sequence[str] = ()
) -> subprocess.Popen[bytes]:
    """Start the application on a port of the loopback interface, over a cluster."""
    command = [str(PYTHON), "-m", "shelf_server.front", "--port", str(port), *options]
    return start_with_us(command, child_environment(**cluster.environment()))


def wait_until_it_answers(child: subprocess.Popen[bytes], address: str) -> None:
    """Come back when the application answers. Raises SetupError when it ended or stays silent."""
    until = time.monotonic() + STARTS_WITHIN
    while time.monotonic() < until:
        if child.poll() is not None:
            raise SetupError("the server ended while starting; its message is above")
        if _answers(address, timeout=5):
            return
        time.sleep(0.1)
    raise SetupError(f"the server did not answer within {STARTS_WITHIN:.0f} seconds")


def _answers(address: str, timeout: float) -> bool:
    try:
        with urllib.request.urlopen(f"{address}api/health", timeout=timeout):
            return True
    except (urllib.error.URLError, OSError):
        return False


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
