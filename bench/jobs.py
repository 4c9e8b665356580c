"""Long work by one worker and by two, from asking to the result, each worker a process of its own with one thread."""

import contextlib
import os
import subprocess
import sys
from collections.abc import Iterator
from time import perf_counter, sleep

from bench.engine import read_demo
from launcher.children import end, start_with_us
from launcher.places import ROOT
from launcher.service import ONE_THREAD
from stand.asking import Client

DRAWS = 5000
STARTS_SECONDS = 12
"""So long until a worker has started and, on few processors, the machine is quiet again."""


def workers(address: str) -> dict[str, float]:
    """Seconds for bands of the demo from so many draws; the second worker's share is what the ratio says."""
    client = Client(address, timeout=60)
    client.sign_in()
    name = read_demo().name
    design = next(one["id"] for one in client("GET", "/designs")[1] if one["name"] == name)
    one, two = (_median(client, design, count) for count in (1, 2))
    return {
        f"bands from {DRAWS:,} draws, one worker (s)": one,
        f"bands from {DRAWS:,} draws, two workers (s)": two,
        "two workers / one": two / one,
    }


def _median(client: Client, design: int, count: int) -> float:
    with contextlib.ExitStack() as stack:
        for _ in range(count):
            stack.enter_context(_worker())
        sleep(STARTS_SECONDS)
        taken = sorted(_seconds(client, design, seed) for seed in range(100 * count, 100 * count + 4))
    return taken[1]


@contextlib.contextmanager
def _worker() -> Iterator[subprocess.Popen[bytes]]:
    command = [sys.executable, str(ROOT / "server" / "manage.py"), "work"]
    child = start_with_us(command, {**os.environ, **ONE_THREAD})
    try:
        yield child
    finally:
        end(child)


def _seconds(client: Client, design: int, seed: int) -> float:
    began = perf_counter()
    body = {"kind": "bands", "on": "2028-12-31", "draws": DRAWS, "seed": seed}
    _, job = client("POST", f"/designs/{design}/jobs", body)
    while job["state"] in ("waiting", "running"):
        sleep(0.1)
        _, job = client("GET", f"/jobs/{job['id']}")
    if job["state"] != "done":
        raise RuntimeError(job["failure"])
    return perf_counter() - began
