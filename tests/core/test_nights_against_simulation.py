"""Nights of random designs by two means: the engine's, and a slow simulation with a process for each transfer (on simpy)."""

import math
import random
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest

from shelf_core.design.reading import design_of
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.forecast.forecast import forecast
from shelf_core.nights import fair, following, legs, moving, resources, waiting, windows
from shelf_core.nights.transfers import NONE
from tests.core.reference.nights import Simulation

DESIGNS = 200
CLOCKS = ["20:00", "21:30", "22:00", "23:15", "00:30", "02:00", "06:00"]


TAKEN = [("2027-03-01", "2027-03-03"), ("2027-03-26", "2027-03-28"), ("2027-10-29", "2027-10-31")]
"""On which days points are taken: on plain ones, and where the clocks of Oslo are set forward, and back."""


def random_design(number: int) -> dict[str, Any]:
    """Two sites and a line, a few workloads, and one or two copies whose points are taken on three days."""
    draw = random.Random(number)  # noqa: S311 - no secret

    def maybe(chance: float, **fields: Any) -> dict[str, Any]:
        return fields if draw.random() < chance else {}

    def speed(low: int, high: int) -> str:
        return f"{draw.randint(low, high)} MB/s"

    def run(name: str, kind: str, rrule: str = "FREQ=DAILY") -> dict[str, Any]:
        days = dict(zip(("from", "until"), TAKEN[number % 3], strict=True))
        return {"id": name, "kind": kind, "rrule": rrule, "at": [draw.choice(CLOCKS)], **days}

    limits = [
        {"speed": draw.choice([0, speed(5, 60)]), **maybe(0.7, **{"from": draw.choice(CLOCKS), "to": draw.choice(CLOCKS)}),
         **maybe(0.4, days=draw.sample(["MO", "TU", "WE", "TH"], 2))}
        for _ in range(draw.randint(0, 2))
    ]  # fmt: skip
    # A pause that never ends would never let anything through.
    limits = [one if one["speed"] or "days" in one or "from" in one else {**one, "speed": "40 MB/s"} for one in limits]
    runs = [run("f", "full")]
    if draw.random() < 0.6:
        runs.append(run("i", "incremental"))
    if draw.random() < 0.3:
        runs.append(run("g", "log", "FREQ=HOURLY;INTERVAL=5"))
    workloads = [
        {
            "id": f"w{at}", "site": "a", "size": f"{draw.randint(50, 900)} GB", "daily_change_percent": draw.randint(1, 20),
            "count": draw.randint(1, 3), "log_per_day": "40 GB",
            **maybe(0.3, reduction=2), **maybe(0.3, change_reduction=1.5), **maybe(0.4, read_speed=speed(30, 200)),
            **maybe(0.3, scan="PT10M"), **maybe(0.3, priority=draw.randint(1, 4)),
        }
        for at in range(draw.randint(1, 3))
    ]  # fmt: skip
    first = {
        "id": "one", "target": "d", "cadence": "c", "ladder": "l",
        **maybe(0.4, window={"opens": draw.choice(CLOCKS), "closes": draw.choice(CLOCKS)}),
        **maybe(0.3, spread="PT2H"), **maybe(0.3, verify=True), **maybe(0.2, priority=draw.randint(1, 4)),
    }  # fmt: skip
    copies = [first]
    second = {"id": "two", "target": "e", "from": "one", "ladder": "l", **maybe(0.3, verify=True)}
    if draw.random() < 0.4:
        copies.append({**second, **maybe(0.5, delay="PT90M")})
    elif draw.random() < 0.5:
        copies.append({**second, "cadence": "n"})
    return {
        "format": "rested-shelf-design", "version": 2, "name": f"Random {number}", "timezone": draw.choice(["UTC", "Europe/Oslo"]),
        "starts": "2027-01-01", "years": 1,
        "sites": [{"id": "a", **maybe(0.3, read_speed=speed(60, 300)), **maybe(0.3, network=speed(50, 300))}, {"id": "b"}],
        "links": [{"id": "l", "sites": ["a", "b"], "speed": speed(40, 200), "limits": limits, **maybe(0.3, shared=True),
                   **maybe(0.3, stream_speed=speed(20, 80)), **maybe(0.3, usable_percent=80)}],
        "targets": [
            {"id": "d", "media": "disk", "site": draw.choice(["a", "b", "b"]), **maybe(0.5, write_speed=speed(40, 300)),
             **maybe(0.3, read_speed=speed(40, 300)), **maybe(0.4, stream_speed=speed(20, 90)),
             **maybe(0.4, streams=draw.randint(1, 3))},
            {"id": "e", "media": "disk", "site": draw.choice(["a", "b"]), **maybe(0.5, write_speed=speed(40, 300))},
        ],
        "workloads": workloads,
        "cadences": [{"id": "c", "runs": runs}, {"id": "n", "runs": [run("r", "full")]}],
        "ladders": [{"id": "l", "recent": [{"keep": "P90D"}]}],
        "routes": [{"id": "r", "workloads": {"ids": [one["id"] for one in workloads]}, "copies": copies}],
    }  # fmt: skip


def agree(number: int) -> int:
    """Both say the same of every transfer, to a tenth of a second; back comes how many there are."""
    result = forecast(design_of(random_design(number)))
    followed = following.follow(result)
    slow = Simulation(result).run()
    assert len(followed.asked) == len(slow)
    for at in range(len(followed.asked)):
        lane, machine, point = followed.lane(at)
        is_log = int(lane.kind[point] == LOG)
        one = slow[lane.route.id, lane.copy.id, lane.workload.id, machine, int(lane.taken[point]), is_log]
        for mine, theirs in (
            (followed.asked[at], one.asked),
            (followed.started[at], one.started),
            (followed.ended[at], one.ended),
        ):
            assert (math.isnan(mine) and math.isnan(theirs)) or mine == pytest.approx(theirs, abs=0.1), (number, one.key)
    return len(slow)


@pytest.mark.parametrize("block", range(8))
def test_both_say_the_same_of_every_transfer(block: int) -> None:
    each = DESIGNS // 8
    assert sum(agree(number) for number in range(block * each, (block + 1) * each)) > 10 * each


FAULTS: dict[str, tuple[Any, str, Callable[..., Any]]] = {
    "priority ignored": (moving, "Flow", lambda _priority, *rest: fair.Flow(5, *rest)),
    "reduced bytes read from the source": (legs.Legs, "unreduced", lambda _self, lane: np.ones(lane.points)),
    "parent not waited for": (waiting, "_within", lambda lane: (np.full(lane.points, NONE), np.full(lane.points, NONE))),
    "a window of logs": (following.Followed, "window", lambda self, number: self.openings[self.lane_of[number]]),
    "a limit a day off": (windows, "weekdays", lambda days: (days + 4) % 7),
    "usable part forgotten": (resources, "capacity_of", lambda link, frame: windows.capacity_of(link.model_copy(update={"usable_percent": 100}), frame)),
    "scan forgotten": (following._Following, "_passing", lambda *_: 0.0),
    "delay forgotten": (following._Following, "_length", lambda _self, _length: 0.0),
}  # fmt: skip


@pytest.mark.parametrize("fault", FAULTS)
def test_a_deliberate_fault_is_caught(fault: str, monkeypatch: pytest.MonkeyPatch) -> None:
    where, name, put = FAULTS[fault]
    monkeypatch.setattr(where, name, put)
    assert any(_differ(number) for number in range(DESIGNS)), fault


def _differ(number: int) -> bool:
    try:
        agree(number)
    except AssertionError:
        return True
    return False
