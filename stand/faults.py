"""What a service must stand: connections that drip, heavy questions whose askers hang up, processes that are killed."""

import contextlib
import http.client
import json
import random
import socket
import threading
import time
from typing import Any

from stand.asking import Client
from stand.editors import NO_ANSWER, ON, Counts
from stand.processes import kill
from stand.service import Running

BEGUN_HEADER = b"GET /api/health HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Long: "
BEGUN_BODY = (
    b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 60000\r\n\r\n{"
)


class Drip(threading.Thread):
    """Connections that send a byte now and then and never finish, some in their headers, some in their bodies."""

    def __init__(self, port: int, how_many: int, counts: Counts, stop: threading.Event) -> None:
        super().__init__(daemon=True)
        self._port, self._how_many, self._counts, self._stopped = port, how_many, counts, stop

    def run(self) -> None:
        """Drip until told to stop."""
        open_ones: list[socket.socket] = []
        while not self._stopped.wait(0.5):
            while len(open_ones) < self._how_many:
                with contextlib.suppress(OSError):
                    open_ones.append(self._begun(in_body=len(open_ones) % 2 == 0))
                    self._counts.note("dripping connections")
                    continue
                break
            for one in list(open_ones):
                try:
                    one.send(b"a")
                except OSError:
                    open_ones.remove(one)
                    one.close()
        for one in open_ones:
            one.close()

    def _begun(self, *, in_body: bool) -> socket.socket:
        made = socket.create_connection(("127.0.0.1", self._port), timeout=2)
        try:
            made.send(BEGUN_BODY if in_body else BEGUN_HEADER)
        except OSError:
            made.close()
            raise
        return made


def heavy_trial() -> dict[str, Any]:
    """A cadence of many runs: a question that takes seconds."""
    runs = [{"id": "often", "kind": "incremental", "rrule": "FREQ=MINUTELY;INTERVAL=2", "at": ["00:00"]}]
    change = {"part": "cadences", "key": "beat", "value": {"id": "beat", "runs": runs}, "seen": 1}
    return {"on": ON, "changes": [change]}


class Heavy(threading.Thread):
    """Asks heavy questions; every other time it hangs up before the answer comes."""

    def __init__(self, address: str, design: int, counts: Counts, stop: threading.Event) -> None:
        super().__init__(daemon=True)
        self._client, self._design, self._counts, self._stopped = Client(address, timeout=60), design, counts, stop

    def run(self) -> None:
        """Ask until told to stop."""
        turn = 0
        while not self._stopped.is_set():
            turn += 1
            try:
                if turn % 2:
                    status, _ = self._client("POST", f"/designs/{self._design}/trial", heavy_trial())
                    self._counts.note(f"heavy questions answered {status}")
                    if status in (401, 403):
                        self._client.sign_in()
                else:
                    self._hang_up()
            except NO_ANSWER:
                self._counts.note("heavy questions without an answer")
            self._stopped.wait(0.3)

    def _hang_up(self) -> None:
        connection = http.client.HTTPConnection("127.0.0.1", self._client.port, timeout=30)
        try:
            body = json.dumps(heavy_trial())
            connection.request("POST", f"/api/designs/{self._design}/trial", body, self._client.headers())
            time.sleep(1.5)
            self._counts.note("heavy questions hung up on")
        finally:
            connection.close()


class Killer(threading.Thread):
    """Ends one process after another without a word: workers, the front, backends of the database, the database."""

    def __init__(self, service: Running, counts: Counts, stop: threading.Event, each: float, seed: int) -> None:
        super().__init__(daemon=True)
        self._service, self._counts, self._stopped, self._each = service, counts, stop, each
        self._random = random.Random(seed)  # noqa: S311 - which process is next is no secret

    def run(self) -> None:
        """Kill until told to stop, each kind in its turn."""
        kinds = (self._worker, self._front, self._database, self._front_and_database)
        turn = 0
        while not self._stopped.wait(self._each):
            what = kinds[turn % len(kinds)]()
            if what:
                self._counts.note(f"killed: {what}")
            turn += 1

    def _worker(self) -> str:
        workers = self._service.workers()
        return "a worker" if workers and kill(self._random.choice(workers)) else ""

    def _front(self) -> str:
        return "the front" if kill(self._service.front()) else ""

    def _database(self) -> str:
        return "the database" if kill(self._service.database()) else ""

    def _front_and_database(self) -> str:
        return "both" if kill(self._service.front()) and kill(self._service.database()) else ""


class Probe(threading.Thread):
    """Asks a small question all the time, as a page does, and notes how long the answers take."""

    def __init__(self, address: str, design: int, counts: Counts, stop: threading.Event) -> None:
        super().__init__(daemon=True)
        self._client, self._design, self._counts, self._stopped = Client(address, timeout=10), design, counts, stop
        self.seconds: list[float] = []
        self.silent = 0

    def run(self) -> None:
        """Ask until told to stop."""
        while not self._stopped.wait(0.2):
            began = time.monotonic()
            try:
                status, _ = self._client("GET", f"/designs/{self._design}/consequences?on={ON}")
                if status == 401:
                    self._client.sign_in()
                elif status == 200:
                    self.seconds.append(time.monotonic() - began)
                else:
                    self.silent += 1
            except NO_ANSWER:
                self.silent += 1
