"""Losses against a slow reading that asks of every point by itself whether a case would have left it."""

import itertools
import random
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest

from shelf_core.design.reading import design_of
from shelf_core.engine.schedule.frame import BEFORE_ALL
from shelf_core.forecast.forecast import forecast
from shelf_core.proof import aftermath, counting, locks
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.arrived import arrivals_of
from shelf_core.proof.cases import world_after
from shelf_core.proof.choosing import found_of
from shelf_core.proof.every_day import EveryDay
from shelf_core.proof.lying import lying_of
from shelf_core.proof.spans import Spans, joined
from tests.core.reference.losses import SlowLoss
from tests.core.reference.proof import stretches
from tests.core.test_duties_against_reference import varied

DESIGNS = 16
DAYS = 16
CASES: list[dict[str, Any]] = [
    {"lost": {"sites": ["a"]}},
    {"lost": {"sites": ["b"]}},
    {"lost": {"sites": ["store"]}},
    {"lost": {"targets": ["e"], "source": False}},
    {"unnoticed": "P2D", "lost": {"source": False}},
    {"unnoticed": "P1DT6H", "lost": {"targets": ["d"]}},
    {"intruder": {"accounts": ["keys"]}, "lost": {"source": False}},
    {"intruder": {"accounts": ["keys"], "rights": "special"}, "unnoticed": "P1D"},
]


def design(number: int) -> dict[str, Any]:
    """A random design with accounts and locks, of one of three kinds, and sometimes a tape whose cartridges leave."""
    draw = random.Random(number)  # noqa: S311 - designs, no secrets
    plain = {name: value for name, value in varied(number).items() if name != "holds"}
    plain["sites"] = [*plain["sites"], {"id": "store"}]
    for target in plain["targets"]:
        target["account"] = draw.choice(["keys", "keys", "others"])
        target["lock"] = draw.choice(["none", "liftable", "final", "final"])
    for copy in plain["routes"][0]["copies"]:
        modes = [draw.choice(["liftable", "final"]) for _ in range(draw.randint(0, 2))]
        copy["lock"] = [{"for": draw.choice(["P1D", "P3D", "PT30H"]), "mode": mode} for mode in modes]
        if copy["lock"] and draw.random() < 0.4:
            copy["lock"][0]["kinds"] = ["full"]
    if draw.random() < 0.6:
        tape = {"media": "tape", "site": "a", "away_site": "store", "returns_after": "P1D", "cartridge": "100 TB"}
        plain["targets"].append({"id": "t", **tape, "batch_closes": "run", "account": "keys"})
        plain["ladders"].append({"id": "tapes", "recent": [{"keep": "P8D"}]})
        third = {"id": "three", "from": "one", "target": "t", "ladder": "tapes", "delay": "PT2H", "take": {"kinds": ["full"]}}
        plain["routes"][0]["copies"].append(third)
    plain["loss_cases"] = [{"id": f"case-{place}", **case} for place, case in enumerate(CASES)]
    return plain


def holed() -> dict[str, Any]:
    """A full in three days and four logs a day."""
    plain = design(2)
    plain["cadences"][0]["runs"] = [run for run in plain["cadences"][0]["runs"] if run["id"] != "i"]
    return plain


def differences(plain: dict[str, Any], hole: int | None = None) -> list[tuple[Any, ...]]:
    """Where the two readings differ: the case, the day, the newest moment and how many there are, by each.

    With a `hole` the log of that number on the first copy turned out bad, for both.
    """
    result = forecast(design_of(plain))
    lyings = lying_of(result, arrivals_of(result))
    bad = None
    if hole is not None:
        place = int(np.flatnonzero(lyings["w"][0].is_log)[hole])
        lyings["w"][0].ready[place], bad = np.inf, int(lyings["w"][0].taken[place])
    found = []
    for case, plain_case in zip(result.design.loss_cases, plain["loss_cases"], strict=True):
        (of_all,) = EveryDay(result, case, lyings).workloads()
        workload = plain["workloads"][0]
        lies = [
            one
            for one in stretches(plain, DAYS + 1, workload["id"])
            if not (one.is_log and one.taken == bad and one.copy.document["id"] == "one")
        ]
        slow = SlowLoss(plain, lies, workload, plain_case)
        for day in of_all.days[:DAYS]:
            if day >= DAYS:
                break
            newest = int(of_all.found.newest[day])
            mine = (None if newest == BEFORE_ALL else newest, int(of_all.found.moments[day]))
            if mine != slow.on(day):
                found.append((plain_case, day, mine, slow.on(day)))
    return found


@pytest.mark.parametrize("number", range(DESIGNS))
def test_cases_leave_the_same(number: int) -> None:
    assert differences(design(number)) == []


@pytest.mark.parametrize("number", range(DESIGNS))
def test_each_day_by_itself_is_what_all_days_at_once_are(number: int) -> None:
    """The world after a case at an instant, from which plans are carried out, and all instants at once."""
    result = forecast(design_of(design(number)))
    lyings = lying_of(result, arrivals_of(result))
    for case in result.design.loss_cases:
        every_day, after = EveryDay(result, case, lyings), Aftermath(result, case)
        (of_all,) = every_day.workloads()
        targets = [row.target for row in every_day.rows()]
        for day in of_all.days[5:60:3]:
            found = found_of(world_after(after, int(result.frame.midnights[day + 1])), lyings["w"])
            newest = found.newest[0].moment if found.newest else BEFORE_ALL
            assert (newest, found.moments) == (of_all.found.newest[day], of_all.found.moments[day])
            stands = {one.lying.target.id for one in found.newest} or {""}
            assert targets[day - of_all.days.start] in stands


def _alone(spans: Spans, _on: Any) -> Spans:
    return spans


def _any_lock(*given: Any, final: bool, **further: Any) -> Spans:
    del final
    return locks.lock_spans(*given, final=False, **further)


FAULTS: dict[str, list[tuple[Any, str, Callable[..., Any]]]] = {
    "a liftable lock taken for a final one": [(aftermath, "lock_spans", _any_lock)],
    "a lock that does not reach back": [(locks, "handed_down", _alone)],
    "away cartridges burnt": [(aftermath, "_has_a_store", lambda _lying: False)],
    # Logs need the one before, and are reached by it: both have to be forgotten.
    "logs over a gap": [
        (aftermath, "held_up_by", _alone),
        (counting, "carried_on", lambda own, _begun, _before: own),
    ],
    "a point left before it has come": [
        (aftermath, "each", lambda begin, end: joined(np.arange(len(begin)), begin - 90_000, end)),
    ],
}


@pytest.mark.parametrize("fault", FAULTS)
def test_a_deliberate_fault_is_caught(fault: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """On the first design that shows it; both readings agree on all of them without it."""
    for patch in FAULTS[fault]:
        monkeypatch.setattr(*patch)
    designs = itertools.chain([(holed(), 9)], ((design(number), None) for number in range(DESIGNS)))
    assert any(differences(plain, hole) for plain, hole in designs)


def test_a_log_that_turned_out_bad_is_gone_round() -> None:
    assert differences(holed(), 9) == []
