"""The application and its workers, kept running."""

import subprocess
import time
import urllib.error
import urllib.request
from collections.abc import Sequence

from launcher import outside, postgres
from launcher.children import end, start_with_us
from launcher.places import PYTHON, ROOT, SetupError, child_environment, say

ASKS_EACH = 10.0
"""Seconds between two questions to the application."""
SILENT_FOR = 45.0
STARTS_WITHIN = 60.0
LONGEST_WAIT = 30.0
ONE_THREAD = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"}
"""A worker computes in one thread: there are several workers, and each process more does as much as the first."""
Database = postgres.Cluster | outside.OutsideDatabase


class Service:
    """The application and its database, kept running: whatever ends is started again, as long as anything can be started."""

    def __init__(self, port: int, cluster: Database, options: Sequence[str] = ()) -> None:
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


def start_server(port: int, cluster: Database, options: Sequence[str] = ()) -> subprocess.Popen[bytes]:
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


class Workers:
    """Processes that do long work, kept running: whatever ends is started again, after a moment."""

    AGAIN_AFTER = 2.0

    def __init__(self, count: int, cluster: Database) -> None:
        self._count, self._cluster = count, cluster
        self._children: list[subprocess.Popen[bytes]] = []
        self._not_before = 0.0

    def begin(self) -> None:
        """Start as many as there are to be."""
        self._children += [start_worker(self._cluster) for _ in range(self._count - len(self._children))]

    def look(self) -> None:
        """Start again what has ended."""
        running = [one for one in self._children if one.poll() is None]
        if len(running) < len(self._children):
            self._children, self._not_before = running, time.monotonic() + self.AGAIN_AFTER
        if len(running) < self._count and time.monotonic() >= self._not_before:
            self.begin()

    def pids(self) -> list[int]:
        """The processes that run."""
        return [one.pid for one in self._children if one.poll() is None]

    def end(self) -> None:
        """End all; what they have not done is done by others, or later."""
        for child in self._children:
            child.terminate()
        for child in self._children:
            end(child)


def start_worker(cluster: Database) -> subprocess.Popen[bytes]:
    """Start a process that does long work, over a cluster."""
    command = [str(PYTHON), str(ROOT / "server" / "manage.py"), "work"]
    return start_with_us(command, child_environment(**cluster.environment(), **ONE_THREAD))
