"""Duties against a slow reading that judges instant by instant what the simulation of the rules says lies where."""

import copy
import random
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import forecast
from shelf_core.proof import asks as fast_asks
from shelf_core.proof import counting, spans
from shelf_core.proof.duties import NEVER_PROTECTED, Duties
from tests.core.reference.proof import SlowDuty, stretches
from tests.core.test_proof_facts import house

DESIGNS = 20
DAYS = 16
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
            days = judged.judged(duty, whole, ask)
            mine = {
                place: (bool(days.holds[at]), days.value(at)) for at, place in enumerate(days.places.tolist()) if place < DAYS
            }
            theirs = {day: (holds, value) for day, holds, value in SlowDuty(plain, lies, workload, slow_ask).days(DAYS)}
            if any(value == NEVER_PROTECTED for _, value in mine.values()):
                continue
            if mine != theirs:
                found.append((workload["id"], slow_ask, mine, theirs))
    return found


original_spans = counting.Counter._spans
original_numbers = fast_asks.period_numbers


def _too_soon(self: Any, one: Any, counted: Any, *, with_lock: bool) -> Any:
    found = original_spans(self, one, counted, with_lock=with_lock)
    return None if found is None else spans.joined(found.place, found.begin - 7_200, found.end)


def _still_there(self: Any, one: Any, counted: Any, *, with_lock: bool) -> Any:
    found = original_spans(self, one, counted, with_lock=with_lock)
    return None if found is None else spans.joined(found.place, found.begin, found.end + 86_400)


FAULTS: dict[str, tuple[Any, str, Callable[..., Any]]] = {
    "a point counted before it has come": (counting.Counter, "_spans", _too_soon),
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
    "what is removed counted as there": (counting.Counter, "_spans", _still_there),
}


RICH: dict[str, Any] = house(
    starts="2027-03-20",
    timezone="Europe/Oslo",
    targets=[
        {"id": "d", "media": "disk", "site": "a", "packing": "separate"},
        {"id": "e", "media": "object", "site": "b", "packing": "shared"},
    ],
    runs=[
        {"id": "f", "kind": "full", "rrule": "FREQ=WEEKLY;BYDAY=SU", "at": ["22:00"]},
        {"id": "i", "kind": "incremental", "rrule": "FREQ=DAILY", "at": ["22:00"]},
        {"id": "l", "kind": "log", "rrule": "FREQ=DAILY", "at": ["06:00", "14:00"]},
    ],
    ladder={"recent": [{"keep": {"points": 4}}], "logs": "P3D"},
)
RICH["workloads"][0]["log_per_day"] = "10 GB"
RICH["ladders"].append({"id": "l", "recent": [{"keep": "P7D"}]})
RICH["routes"][0]["copies"].append(
    {"id": "two", "from": "one", "target": "e", "ladder": "l", "delay": "PT5H", "take": {"kinds": ["full", "incremental"]}}
)


def varied(number: int) -> dict[str, Any]:
    """The design with other rules, drawn by a number: zones, runs, keeps, packing, delays, a step-down, dates of a workload."""
    draw = random.Random(number)  # noqa: S311 - designs, no secrets
    plain: dict[str, Any] = copy.deepcopy(RICH)
    plain["timezone"] = draw.choice(["UTC", "Europe/Oslo", "America/Halifax", "Australia/Lord_Howe", "Asia/Kolkata"])
    plain["starts"] = draw.choice(["2027-03-20", "2027-10-20", "2028-02-20", "2026-12-20"])
    plain["week_starts"] = draw.choice(["MO", "SU", "WE"])
    full, change, logs = plain["cadences"][0]["runs"]
    full["rrule"] = draw.choice(["FREQ=WEEKLY;BYDAY=SU", "FREQ=DAILY;INTERVAL=3", "FREQ=WEEKLY;BYDAY=TU,FR"])
    change["kind"] = draw.choice(["incremental", "differential", "synthetic", "full"])
    change["at"] = draw.choice([["22:00"], ["02:30"], ["12:00", "23:59"]])
    logs["at"] = draw.choice([["06:00", "14:00"], ["00:00"], ["03:00", "09:00", "15:00", "21:00"]])
    if draw.random() < 0.4:
        plain["cadences"][0]["runs"].remove(logs)
    first, second = plain["ladders"]
    first["recent"] = [{"keep": draw.choice([{"points": 3}, {"points": 6}, "P4D", "P9D", "PT36H"])}]
    first["logs"] = draw.choice(["P1D", "P3D", "P9D"])
    if draw.random() < 0.5:
        first["rungs"] = [{"name": "weekly", "every": "week", "pick": draw.choice(["first", "last"]), "keep": {"periods": 2}}]
    second["recent"] = [{"keep": draw.choice(["P2D", "P7D", {"points": 2}])}]
    for target in plain["targets"]:
        target["packing"] = draw.choice(["separate", "shared"])
    house_copy, away = plain["routes"][0]["copies"]
    away["delay"] = draw.choice(["PT0S", "PT5H", "P1D"])
    if draw.random() < 0.4:
        plain["targets"].append({"id": "z", "media": "object", "site": "b", "packing": "separate"})
        house_copy["step_downs"] = [{"after": "P3D", "target": "z", "which": "all"}]
    if draw.random() < 0.3:
        plain["workloads"][0]["from"] = f"{plain['starts'][:8]}24"
    return plain


@pytest.mark.parametrize("number", range(DESIGNS))
def test_designs_with_logs_chains_and_a_copy_away_are_judged_alike(number: int) -> None:
    assert differences(varied(number)) == []


@pytest.mark.parametrize("fault", FAULTS)
def test_a_deliberate_fault_is_caught(fault: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """On the first of the designs that shows it; both readings agree on all of them without it."""
    where, name, wrong = FAULTS[fault]
    monkeypatch.setattr(where, name, wrong)
    assert any(differences(plain) for plain in (RICH, *map(varied, range(DESIGNS))))
