"""The service under test: a database and the application of its own, kept running as `./shelf demo` keeps them."""

import contextlib
import shutil
import threading
from collections.abc import Iterator
from pathlib import Path

from launcher import supervisor
from launcher.ports import any_free
from launcher.postgres import Cluster
from launcher.service import Service
from stand.processes import children_of

LOOKS_EACH = 0.3


class Running:
    """A service that is looked after by a thread."""

    def __init__(self, cluster: Cluster, *options: str) -> None:
        self.cluster, self.port = cluster, any_free()
        self._service = Service(self.port, cluster, options)
        self._stop = threading.Event()
        self._looking = threading.Thread(target=self._look, daemon=True)

    @property
    def address(self) -> str:
        """Where it answers."""
        return f"http://127.0.0.1:{self.port}/"

    def begin(self) -> None:
        """Start it, and look after it from now on."""
        self._service.begin()
        self._looking.start()

    def end(self) -> None:
        """Stop it."""
        self._stop.set()
        if self._looking.is_alive():
            self._looking.join(timeout=120)
        self._service.end()

    def front(self) -> int | None:
        """The process that takes requests."""
        return self._service.pid()

    def workers(self) -> list[int]:
        """The processes that answer, and the one that they are forked from."""
        front = self.front()
        return [] if front is None else children_of(front)

    def database(self) -> int | None:
        """The process that all of the database's are children of."""
        with contextlib.suppress(OSError, ValueError, IndexError):
            return int((self.cluster.data / "postmaster.pid").read_text().split("\n", 1)[0])
        return None

    def _look(self) -> None:
        while not self._stop.wait(LOOKS_EACH):
            self._service.look()


@contextlib.contextmanager
def running(name: str, *options: str) -> Iterator[Running]:
    """A service with the demo in it, on a database of its own that is gone afterwards."""
    cluster = Cluster(name, durable=True)
    service = Running(cluster, *options)
    try:
        supervisor.prepare_database(cluster)
        service.begin()
        yield service
    finally:
        service.end()
        cluster.stop()
        shutil.rmtree(Path(cluster.folder), ignore_errors=True)
