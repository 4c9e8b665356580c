"""The service under test: a database and the application of its own, kept running as `./shelf demo` keeps them."""

import contextlib
import hashlib
import json
import shutil
import subprocess
import threading
from collections.abc import Iterator
from pathlib import Path

from launcher import supervisor
from launcher.locks import held
from launcher.places import ROOT
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
    _copy_of_prepared(cluster)
    cluster.start()
    service = Running(cluster, *options)
    try:
        service.begin()
        yield service
    finally:
        service.end()
        cluster.stop()
        shutil.rmtree(Path(cluster.folder), ignore_errors=True)


def _copy_of_prepared(cluster: Cluster) -> None:
    """Give a cluster the data of one that was prepared before: migrated, with the demo in it, made where there is none."""
    source = Cluster(f"prepared-{_what_it_depends_on()}", durable=True)
    with held("prepared-database", waiting_for="it prepares a database"):
        if not (source.folder / "ready").exists():
            for older in source.folder.parent.glob("prepared-*"):
                shutil.rmtree(older, ignore_errors=True)
            supervisor.prepare_database(source)
            source.stop()
            (source.folder / "ready").touch()
        subprocess.run(["cp", "-a", str(source.folder), str(cluster.folder)], check=True)
    settings = json.loads(cluster.settings_file.read_text())
    cluster.settings_file.write_text(json.dumps({**settings, "port": any_free()}))


def _what_it_depends_on() -> str:
    """A name for the migrations and the demo that a prepared database was made from."""
    found = hashlib.sha256((ROOT / "requirements" / "app.txt").read_bytes())
    for file in sorted([*(ROOT / "server").rglob("migrations/*.py"), *(ROOT / "demo").iterdir()]):
        found.update(file.name.encode() + file.read_bytes())
    return found.hexdigest()[:12]
