"""The server by itself: what its start, an edit and many designs take of the processors and of memory."""

import json
import os
import random
from statistics import median
from typing import Any

from bench.engine import DEMO
from stand.asking import Client
from stand.processes import processor_seconds, resident_bytes
from stand.service import Running, running

ON = "2028-12-31"
EDITS = 40
DESIGNS = 50
QUESTIONS = 600
"""So many figures are asked for of designs in turn, as fifty people do within an hour or two."""
MEGABYTE = 1e6


def server() -> dict[str, float]:
    """Processor seconds until it answers, processor milliseconds of an edit, megabytes after many designs."""
    with running(f"bench-{os.getpid()}") as service:
        client = Client(service.address, timeout=120)
        client("GET", "/health")
        started = processor_seconds(_processes(service))
        client.sign_in()
        edits = _edits(service, client)
        at_first = resident_bytes(_processes(service))
        _fifty_designs(client)
        return {
            "the server starts, until it answers (processor s)": started,
            "an edit of the demo, in the server (processor ms, median)": edits,
            "the server's memory after edits of one design (MB)": at_first / MEGABYTE,
            f"the server's memory after {QUESTIONS} questions about {DESIGNS} designs (MB)": _memory(service),
        }


def _processes(service: Running) -> list[int]:
    front = service.front()
    return service.workers() if front is None else [front, *service.workers()]


def _memory(service: Running) -> float:
    return resident_bytes(_processes(service)) / MEGABYTE


def _edits(service: Running, client: Client) -> float:
    """One number of one ladder set anew, with the figures and duties that the page then paints."""
    design = client("GET", "/designs")[1][0]["id"]
    taken = []
    for at in range(EDITS):
        before = client("GET", f"/designs/{design}")[1]
        ladder = next(one for one in before["document"]["ladders"] if one["id"] == "house")
        ladder["recent"][0]["keep"] = {"points": 20 + (37 * at) % 83}
        change = {"part": "ladders", "key": "house", "value": ladder, "seen": before["versions"]["ladders"]["house"]}
        began = processor_seconds(_processes(service))
        status, answer = client("POST", f"/designs/{design}/edits", {"changes": [change], "what": "recent", "on": ON})
        if status != 200:
            raise RuntimeError(f"edit: {status} {answer}")
        taken.append(processor_seconds(_processes(service)) - began)
    return 1000 * median(taken)


def _fifty_designs(client: Client) -> None:
    document: dict[str, Any] = json.loads(DEMO.read_text())
    chance = random.Random(50)  # noqa: S311 - the same order each time
    designs = []
    for at in range(DESIGNS):
        own = {**document, "name": f"Design {at}", "years": 3 + at % 8}
        designs.append(client("POST", "/designs", own)[1]["id"])
    for _ in range(QUESTIONS):
        status, answer = client("GET", f"/designs/{chance.choice(designs)}/consequences?on={ON}")
        if status != 200:
            raise RuntimeError(f"consequences: {status} {answer}")
