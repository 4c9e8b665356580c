"""One run: everything at once for so long, then the books are held against the database."""

import threading
import time
from dataclasses import dataclass
from typing import Any

from stand.asking import Client
from stand.editors import NO_ANSWER, START, Counts, Editor, Reader, counting_design
from stand.faults import Drip, Heavy, Killer, Probe
from stand.service import Running

LADDERS = 4


@dataclass(frozen=True)
class Load:
    """How much of what, for how many seconds. `kills_each` is the time between two kills, 0 for none."""

    seconds: float
    editors: int = 4
    readers: int = 2
    heavy: int = 8
    dripping: int = 24
    kills_each: float = 6.0
    seed: int = 1


@dataclass(frozen=True)
class Outcome:
    """What came of it. `missing` and `overwritten` are faults; `silent` counts small questions without an answer."""

    counts: Counts
    missing: list[Any]
    overwritten: list[Any]
    in_database: int
    answered_seconds: list[float]
    silent: int

    @property
    def faults(self) -> list[str]:
        """All that must not be, in words."""
        found = [f"acknowledged, and not there: {one}" for one in self.missing]
        found += [f"overwritten unseen: {one}" for one in self.overwritten]
        found += [f"a version was given twice: {one}" for one in self.counts.twice]
        return found + [f"document and versions apart: {one}" for one in self.counts.apart]


def stand(service: Running, load: Load) -> Outcome:
    """Put a service under load and faults, and look at what is left."""
    counts, stop = Counts(), threading.Event()
    client = Client(service.address)
    client.sign_in()
    design = client("POST", "/designs", counting_design(LADDERS))[1]["id"]
    probe = Probe(service.address, design, counts, stop)
    threads: list[threading.Thread] = [probe]
    threads += [Editor(service.address, design, counts, stop, load.seed + at) for at in range(load.editors)]
    threads += [Reader(service.address, design, counts, stop) for _ in range(load.readers)]
    threads += [Heavy(service.address, design, counts, stop) for _ in range(load.heavy)]
    if load.dripping:
        threads.append(Drip(service.port, load.dripping, counts, stop))
    if load.kills_each:
        threads.append(Killer(service, counts, stop, load.kills_each, load.seed))
    for one in threads:
        one.start()
    time.sleep(load.seconds)
    stop.set()
    for one in threads:
        one.join(timeout=90)
    changes, now = _afterwards(service, design)
    missing, overwritten = held_against(counts, changes, now)
    return Outcome(counts, missing, overwritten, len(changes), probe.seconds, probe.silent)


def held_against(counts: Counts, changes: list[dict[str, Any]], now: dict[str, Any]) -> tuple[list[Any], list[Any]]:
    """What was acknowledged and is not in the history, and what in the history was not made upon what was there before it.

    Each change counts a ladder up by one, so before and after tell what its maker had seen.
    """
    made = {(one["key"], one["version"]): one for one in changes}
    missing: list[Any] = []
    for (key, version), keep in counts.acknowledged.items():
        found = made.get((key, version))
        if found is None or found["after"] != keep:
            missing.append((key, version, keep, found))
    overwritten: list[Any] = []
    for ladder in now["document"]["ladders"]:
        key = ladder["id"]
        of_ladder = sorted((one for one in changes if one["key"] == key), key=lambda one: one["version"])
        for at, one in enumerate(of_ladder):
            if (one["version"], one["before"], one["after"]) != (at + 2, START + at, START + at + 1):
                overwritten.append((key, one))
        if ladder["recent"][0]["keep"]["points"] != START + len(of_ladder):
            overwritten.append((key, "now", ladder["recent"][0]["keep"]["points"], len(of_ladder)))
    return missing, overwritten


def _afterwards(service: Running, design: int) -> tuple[list[dict[str, Any]], dict[str, Any]]:
    """The whole history of the design and what it is now, once the service answers again."""
    client, until = Client(service.address), time.monotonic() + 120
    while True:
        try:
            client.sign_in()
            return _history(client, design), client("GET", f"/designs/{design}")[1]
        except NO_ANSWER:
            if time.monotonic() > until:
                raise
            time.sleep(0.5)


def _history(client: Client, design: int) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = []
    before: int | None = None
    versions: dict[str, int] = {}
    steps: list[dict[str, Any]] = []
    while True:
        page = f"?most=200&before={before}" if before else "?most=200"
        status, answer = client("GET", f"/designs/{design}/history{page}")
        if status != 200:
            raise RuntimeError(f"history: {status}")
        steps += answer["steps"]
        before = answer["before"]
        if before is None:
            break
    for step in reversed(steps):
        for entry in step["entries"]:
            versions[entry["key"]] = versions.get(entry["key"], 1) + 1
            (field,) = entry["fields"]
            change = {"key": entry["key"], "version": versions[entry["key"]], "revision": step["revision"]}
            found.append({**change, "before": _count(field["before"]), "after": _count(field["after"])})
    return found


def _count(words: str) -> int:
    """A number as the history says it."""
    return int(words.replace(",", ""))
