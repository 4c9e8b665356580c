"""Editors and readers at once: each edit counts a ladder up by one, upon what its maker saw."""

import contextlib
import http.client
import random
import re
import threading
from collections import Counter
from dataclasses import dataclass, field
from typing import Any

from stand.asking import Client

NO_ANSWER = (OSError, http.client.HTTPException, RuntimeError)
START = 14
ON = "2027-06-30"


@dataclass
class Counts:
    """What happened, and every edit that was acknowledged: by ladder and version the keep that it left."""

    lock: threading.Lock = field(default_factory=threading.Lock)
    happened: Counter[str] = field(default_factory=Counter)
    acknowledged: dict[tuple[str, int], int] = field(default_factory=dict)
    twice: list[tuple[str, int]] = field(default_factory=list)
    apart: list[Any] = field(default_factory=list)

    def note(self, what: str) -> None:
        """One more of something."""
        with self.lock:
            self.happened[what] += 1

    def acknowledge(self, ladder: str, version: int, keep: int) -> None:
        """An edit was answered with its version. No version is given twice."""
        with self.lock:
            self.happened["edits acknowledged"] += 1
            if (ladder, version) in self.acknowledged:
                self.twice.append((ladder, version))
            self.acknowledged[ladder, version] = keep


def counting_design(ladders: int) -> dict[str, Any]:
    """A small design whose ladders are the counters."""
    names = [f"l{number}" for number in range(ladders)]
    weekly = {"id": "full", "kind": "full", "rrule": "FREQ=WEEKLY;BYDAY=SA", "at": ["22:00"]}
    return {
        "format": "rested-shelf-design",
        "version": 2,
        "name": "Counters",
        "timezone": "UTC",
        "starts": "2027-01-01",
        "years": 1,
        "sites": [{"id": "here"}],
        "targets": [{"id": "disk", "media": "disk", "site": "here"}],
        "workloads": [{"id": "data", "site": "here", "size": "1 TB", "daily_change_percent": 2}],
        "cadences": [{"id": "beat", "runs": [weekly]}],
        "ladders": [{"id": name, "recent": [{"keep": {"points": START}}]} for name in names],
        "routes": [
            {
                "id": "way",
                "workloads": {"ids": ["data"]},
                "copies": [{"id": name, "target": "disk", "cadence": "beat", "ladder": name} for name in names],
            }
        ],
    }


class Editor(threading.Thread):
    """Counts ladders of a design up, one after another in any order, until told to stop."""

    def __init__(self, address: str, design: int, counts: Counts, stop: threading.Event, seed: int) -> None:
        super().__init__(daemon=True)
        self._client, self._design, self._counts, self._stopped = Client(address), design, counts, stop
        self._random = random.Random(seed)  # noqa: S311 - which ladder comes next is no secret
        self._seen: dict[str, Any] | None = None

    def run(self) -> None:
        """Edit until told to stop."""
        while not self._stopped.is_set():
            try:
                self._edit()
            except NO_ANSWER as error:
                self._counts.note(f"edits without an answer ({reason(error)})")
                self._seen = None
                self._stopped.wait(0.2)

    def _edit(self) -> None:
        if self._seen is None:
            self._seen = self._read()
        ladder = self._random.choice(self._seen["document"]["ladders"])
        key, keep = ladder["id"], ladder["recent"][0]["keep"]["points"] + 1
        value = {**ladder, "recent": [{"keep": {"points": keep}}]}
        change = {"part": "ladders", "key": key, "value": value, "seen": self._seen["versions"]["ladders"][key]}
        status, answer = self._client(
            "POST", f"/designs/{self._design}/edits", {"on": ON, "what": f"{key}: {keep}", "changes": [change]}
        )
        if status == 200:
            version = answer["made"][0]["version"]
            self._counts.acknowledge(key, version, keep)
            self._seen["versions"]["ladders"][key] = version
            ladder["recent"] = value["recent"]
        elif status == 409:
            self._counts.note("edits refused as stale")
            self._seen = None
        else:
            self._counts.note(f"edits answered {status}")
            self._seen = None
            self._stopped.wait(0.2)

    def _read(self) -> dict[str, Any]:
        return read(self._client, self._design, self._counts)


class Reader(threading.Thread):
    """Reads the design again and again: its versions must be those of its document."""

    def __init__(self, address: str, design: int, counts: Counts, stop: threading.Event) -> None:
        super().__init__(daemon=True)
        self._client, self._design, self._counts, self._stopped = Client(address), design, counts, stop

    def run(self) -> None:
        """Read until told to stop."""
        while not self._stopped.is_set():
            with contextlib.suppress(*NO_ANSWER):
                read(self._client, self._design, self._counts)
                self._counts.note("reads")
            self._stopped.wait(0.05)


def reason(error: Exception) -> str:
    """Why there was no answer, short enough to be counted."""
    return re.sub(r"[0-9a-f]{8,}|\\d{5,}", "…", str(error) or type(error).__name__)[:60]


def read(client: Client, design: int, counts: Counts) -> dict[str, Any]:
    """The design. Each ladder has been edited as often as its version and its keep say; what is apart is noted."""
    status, answer = client("GET", f"/designs/{design}")
    if status == 401:
        client.sign_in()
        status, answer = client("GET", f"/designs/{design}")
    if status != 200:
        raise RuntimeError(f"reading: {status}")
    for ladder in answer["document"]["ladders"]:
        keep, version = ladder["recent"][0]["keep"]["points"], answer["versions"]["ladders"][ladder["id"]]
        if keep - START != version - 1:
            with counts.lock:
                counts.apart.append((ladder["id"], keep, version, answer["revision"]))
    found: dict[str, Any] = answer
    return found
