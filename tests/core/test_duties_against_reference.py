"""Duties against a slow reading that judges instant by instant what the simulation of the rules says lies where."""

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from shelf_core.proof import asks as fast_asks
from shelf_core.proof import counting, lying
from shelf_core.proof.duties import NEVER_PROTECTED, Duties
from tests.core.reference.proof import SlowDuty, stretches
from tests.core.strategies import FOCUSES, designs

EACH = 3
"""Random designs for each of the things that designs are about."""
DAYS = 30
ASKS: list[dict[str, Any]] = [
    {"rpo": "P1D"},
    {"rpo": "PT36H", "counted": {"off_site": True}},
    {"history": "P10D", "every": "P2D"},
    {"history": "P3W", "every": "week"},
    {"history": "P6D", "every": "day", "counted": {"media": ["disk", "snapshot"]}},
    {"copies": 2, "media": 2, "off_site": 1, "fresh": "P4D"},
    {"gone_after": "P9D"},
]


def differences(plain: dict[str, Any]) -> list[tuple[Any, ...]]:
    """Where the two readings of all asks differ, for every workload of a design."""
    plain = {name: value for name, value in plain.items() if name != "holds"}
    named = [one["id"] for one in plain["workloads"]]
    duties = [{"id": "law", "workloads": {"ids": named}, "asks": ASKS}]
    judged = Duties(forecast(design_of(plain | {"duties": duties})))
    duty, found = judged.result.design.duties[0], []
    for workload in plain["workloads"]:
        whole = next(one for one in judged.result.design.workloads if one.id == workload["id"])
        lies = stretches(plain, DAYS + 1, workload["id"])
        if any(opening["workload"] == workload["id"] for opening in plain.get("opening", [])):
            continue
        for ask, slow_ask in zip(duty.asks, ASKS, strict=True):
            mine = {day.place: (day.holds, day.value) for day in judged.judged(duty, whole, ask) if day.place < DAYS}
            theirs = {day: (holds, value) for day, holds, value in SlowDuty(plain, lies, workload, slow_ask).days(DAYS)}
            if any(value == NEVER_PROTECTED for _, value in mine.values()):
                continue
            if mine != theirs:
                found.append((workload["id"], slow_ask, mine, theirs))
    return found


@pytest.mark.parametrize("focus", FOCUSES, ids=" ".join)
def test_both_readings_judge_every_day_alike(focus: list[str]) -> None:
    @settings(max_examples=EACH, suppress_health_check=list(HealthCheck), deadline=None)
    @given(design=designs(focus))
    def on_random_designs(design: dict[str, Any]) -> None:
        assert differences(design) == []

    on_random_designs()


original_interval = counting.Counter._interval
original_numbers = fast_asks.period_numbers
original_links = lying.log_links


def _too_soon(self: Any, one: Any, counted: Any, *, with_lock: bool) -> Any:
    begin, end = original_interval(self, one, counted, with_lock=with_lock)
    return begin - 7_200, end


FAULTS: dict[str, tuple[Any, str, Callable[..., Any]]] = {
    "a point counted before it has come": (counting.Counter, "_interval", _too_soon),
    "a period judged hours away": (
        fast_asks,
        "period_numbers",
        lambda local, every, week: original_numbers(np.asarray(local) - 6 * 3600, every, week),
    ),
    "a window that is a day too short": (
        fast_asks,
        "taken_back",
        lambda instants, length, frame: fast_asks.added(instants, length._replace(days=1 - length.days, months=0), frame),
    ),
    "what is removed counted as there": (
        counting.Counter,
        "_interval",
        lambda self, one, counted, *, with_lock: (
            original_interval(self, one, counted, with_lock=with_lock)[0],
            one.gone + 86_400,
        ),
    ),
}


@pytest.mark.parametrize("fault", FAULTS)
def test_a_deliberate_fault_is_caught(fault: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """On designs of which one at least must tell the difference."""
    where, name, wrong = FAULTS[fault]
    monkeypatch.setattr(where, name, wrong)
    caught = False

    @settings(max_examples=6, suppress_health_check=list(HealthCheck), deadline=None)
    @given(design=designs(FOCUSES[0]), _again=st.just(0))
    def on_random_designs(design: dict[str, Any], _again: int) -> None:
        nonlocal caught
        caught = caught or bool(differences(design))

    on_random_designs()
    assert caught
