"""The whole service under load and faults: short here, for minutes by `./shelf stand`."""

import http.client
import json
import os
import threading
import time
from collections.abc import Iterator
from typing import Any

import pytest

from stand.asking import Client
from stand.editors import ON, START, Counts, counting_design
from stand.faults import Drip, Heavy, Probe, heavy_trial
from stand.processes import processor_seconds
from stand.run import Load, held_against, stand
from stand.service import Running, running

LONGEST = 240
"""Seconds until what has not happened counts as stopped."""


@pytest.fixture(scope="module")
def service() -> Iterator[Running]:
    with running(f"trial-{os.getpid()}", "--seconds", "8") as found:
        yield found


@pytest.fixture(scope="module")
def client(service: Running) -> Client:
    made = Client(service.address, timeout=60)
    made.sign_in()
    return made


def test_dripping_connections_and_heavy_questions_do_not_stop_the_others(service: Running, client: Client) -> None:
    """Eight of each stopped the server for everybody; now small questions are answered all the while."""
    counts, stop = Counts(), threading.Event()
    design = client("POST", "/designs", counting_design(2))[1]["id"]
    probe = Probe(service.address, design, counts, stop)
    threads = [probe, Drip(service.port, 24, counts, stop), *(Heavy(service.address, design, counts, stop) for _ in range(8))]
    for one in threads:
        one.start()
    begun = time.monotonic()
    # On a slow machine it takes longer until enough has happened; the others must be answered all the while.
    while time.monotonic() - begun < 15 or (len(probe.seconds) < 10 and time.monotonic() - begun < LONGEST):
        time.sleep(0.5)
    stop.set()
    for one in threads:
        one.join(timeout=60)
    assert counts.happened["dripping connections"] >= 24
    assert counts.happened["heavy questions hung up on"] >= 4
    assert len(probe.seconds) >= 10
    assert probe.silent <= 1


def test_a_question_goes_no_further_when_whoever_asked_has_hung_up(service: Running, client: Client) -> None:
    design = client("POST", "/designs", counting_design(12))[1]["id"]
    connection = http.client.HTTPConnection("127.0.0.1", service.port, timeout=30)
    connection.request("POST", f"/api/designs/{design}/trial", json.dumps(heavy_trial()), client.headers())
    time.sleep(1.5)
    connection.close()
    time.sleep(3)
    before = processor_seconds(service.workers())
    time.sleep(1.5)
    assert processor_seconds(service.workers()) - before < 0.4


def test_what_takes_too_long_is_said_and_nothing_is_saved(service: Running, client: Client) -> None:
    """More rules than eight seconds are enough for: by trial, and by an edit, which leaves the design as it was."""
    design = client("POST", "/designs", counting_design(60))[1]["id"]
    status, answer = client("POST", f"/designs/{design}/trial", heavy_trial())
    assert (status, answer["type"].rsplit(":", 1)[1]) in ((422, "too-much"), (422, "unsound"))
    status, answer = client("POST", f"/designs/{design}/edits", {**heavy_trial(), "what": "too much"})
    assert status == 422, answer
    status, now = client("GET", f"/designs/{design}")
    assert (status, now["revision"], now["versions"]["cadences"]["beat"]) == (200, 1, 1)
    assert client("GET", f"/designs/{design}/consequences?on={ON}")[0] == 200


def test_nothing_acknowledged_is_missing_after_kills(service: Running) -> None:
    """Workers, the front, the database, and both at once are killed while four edit; the books agree afterwards."""
    outcome = stand(service, Load(seconds=20, heavy=2, dripping=8, kills_each=6.0))
    assert outcome.faults == []
    happened = outcome.counts.happened
    assert happened["edits acknowledged"] >= 10
    assert outcome.in_database >= happened["edits acknowledged"]
    assert sum(how_often for what, how_often in happened.items() if what.startswith("killed")) >= 2


def change(version: int, before: int, after: int) -> dict[str, Any]:
    return {"key": "l0", "version": version, "revision": version, "before": before, "after": after}


def now(keep: int) -> dict[str, Any]:
    return {"document": {"ladders": [{"id": "l0", "recent": [{"keep": {"points": keep}}]}]}}


def test_the_books_find_what_is_missing_and_what_was_overwritten() -> None:
    counts = Counts()
    counts.acknowledge("l0", 2, START + 1)
    counts.acknowledge("l0", 3, START + 2)
    sound = [change(2, START, START + 1), change(3, START + 1, START + 2)]
    assert held_against(counts, sound, now(START + 2)) == ([], [])
    assert held_against(counts, sound[:1], now(START + 1))[0] == [("l0", 3, START + 2, None)]
    unseen = [change(2, START, START + 1), change(3, START, START + 1)]
    missing, overwritten = held_against(counts, unseen, now(START + 1))
    assert missing
    assert overwritten
    counts.acknowledge("l0", 3, START + 9)
    assert counts.twice == [("l0", 3)]
