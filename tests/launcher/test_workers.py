"""Long work by real workers: two share it, what one leaves another takes up, and it survives a restart."""

import os
import signal
import time
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from typing import Any

import pytest

from launcher.children import end, start_with_us
from launcher.places import PYTHON, ROOT, child_environment
from launcher.service import ONE_THREAD
from shelf_core.chance.bands import bands_of
from shelf_core.forecast.forecast import forecast
from shelf_core.formats.documents import read_document
from stand.asking import Client
from stand.processes import processor_seconds
from stand.service import Running, running

ON = "2028-12-31"
LONGEST_WAIT = 600.0
"""Seconds until a job counts as one that never ends; how soon it is done is for the benchmark to say."""


@pytest.fixture(scope="module")
def service() -> Iterator[Running]:
    """The application without any worker."""
    with running(f"workers-{os.getpid()}") as found:
        yield found


@pytest.fixture(scope="module")
def client(service: Running) -> Client:
    made = Client(service.address, timeout=60)
    made.sign_in()
    return made


@contextmanager
def worker(service: Running) -> Iterator[Any]:
    """A worker of its own, which looks twice a second after what others left."""
    command = [str(PYTHON), str(ROOT / "server" / "manage.py"), "work", "--looks-each", "0.5", "--silent-for", "8"]
    child = start_with_us(command, child_environment(**service.cluster.environment(), **ONE_THREAD))
    try:
        yield child
    finally:
        end(child)


def asked(client: Client, design: int, seed: int, **more: Any) -> Any:
    body = {"kind": "bands", "on": ON, "draws": 1000, "seed": seed, **more}
    status, answer = client("POST", f"/designs/{design}/jobs", body)
    assert status == 202, answer
    return answer["id"]


def until(client: Client, key: str, is_so: Callable[[Any], bool], seconds: float = LONGEST_WAIT) -> Any:
    """The job, once it is as it should be."""
    last = time.monotonic() + seconds
    while time.monotonic() < last:
        status, answer = client("GET", f"/jobs/{key}")
        assert status == 200, answer
        if is_so(answer):
            return answer
        time.sleep(0.05)
    raise AssertionError(f"it is still {answer['state']}: {answer['done']} of {answer['of']}, {answer['failure']}")


def is_done(answer: Any) -> bool:
    return bool(answer["state"] == "done")


def design_of(client: Client) -> int:
    return int(client("GET", "/designs")[1][0]["id"])


def test_it_waits_for_a_worker_and_is_found_again(client: Client, service: Running) -> None:
    key = asked(client, design_of(client), 1)
    time.sleep(1)
    assert client("GET", f"/jobs/{key}")[1]["state"] == "waiting"
    with worker(service):
        answer = until(client, key, is_done)
    assert len(answer["bands"]["bands"]) > 1


def test_what_a_killed_worker_left_is_taken_up_and_comes_out_the_same(client: Client, service: Running) -> None:
    design = design_of(client)
    key = asked(client, design, 3)
    with worker(service) as first:
        until(client, key, lambda answer: answer["state"] == "running" and answer["done"] >= 2)
        os.killpg(first.pid, signal.SIGKILL)
        first.wait()
    assert client("GET", f"/jobs/{key}")[1]["state"] == "running"
    with worker(service):
        answer = until(client, key, is_done)
    assert answer["done"] == answer["of"]
    expected = bands_of(forecast(read_document((ROOT / "demo" / "lindmoor.json").read_text())), 1000, 3)
    for found, band in zip(answer["bands"]["bands"], expected.bands, strict=True):
        assert found["peak_middle"] == pytest.approx(band.peak_middle, rel=1e-5)
        assert found["full_middle"] == band.full_middle


def test_a_worker_that_is_told_to_end_gives_its_batch_to_another(client: Client, service: Running) -> None:
    key = asked(client, design_of(client), 4)
    with worker(service) as first:
        until(client, key, lambda answer: answer["state"] == "running" and answer["done"] >= 1)
        first.terminate()
        assert first.wait(timeout=60) == 0
    assert client("GET", f"/jobs/{key}")[1]["state"] == "running"
    with worker(service):
        until(client, key, is_done)


def test_two_workers_share_one_job(client: Client, service: Running) -> None:
    """Both do parts of it. How much sooner it is done is for the benchmark to say."""
    with ExitStack() as stack:
        both = [stack.enter_context(worker(service)) for _ in range(2)]
        # Both have started when both have looked for work; what starting takes is the same for both.
        until(client, asked(client, design_of(client), 5), is_done)
        before = [processor_seconds([one.pid]) for one in both]
        until(client, asked(client, design_of(client), 6), is_done)
        took = [processor_seconds([one.pid]) - was for one, was in zip(both, before, strict=True)]
    assert min(took) > 0.2 * max(took)
