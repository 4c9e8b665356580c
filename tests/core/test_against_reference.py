"""The array engine against the event-by-event simulation, over random designs that mix all that a design may say."""

import json
from functools import lru_cache
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from shelf_core.engine.retention import holds, lives
from tests.core.comparison import Case, agree, case_of, features, seen, tried
from tests.core.faults import FAULTS
from tests.core.strategies import FOCUSES, designs

DESIGNS = 15
"""For each of the things that designs are about."""
LEAST_SHARE = 0.1
REGRESSIONS = sorted((Path(__file__).parent / "regressions").glob("*.json"))


@pytest.mark.parametrize("focus", FOCUSES, ids=" ".join)
def test_engine_and_simulation_agree(focus: list[str], request: pytest.FixtureRequest) -> None:
    """As many designs as `--designs` says, instead of fifteen for each focus; with `--hypothesis-profile wide` new ones each time."""
    asked = request.config.getoption("--designs")
    each = DESIGNS if asked is None else -(-asked // len(FOCUSES))

    @settings(max_examples=each, suppress_health_check=list(HealthCheck))
    @given(design=designs(focus), days=st.integers(20, 45))
    def on_random_designs(design: dict[str, Any], days: int) -> None:
        case = case_of(design, days)
        agree(case)
        tried.append(case)
        seen.update(features(case) | {"designs"})

    on_random_designs()


def test_everything_was_tried_often_enough() -> None:
    """Follows the one above: each feature and each state was there in at least a tenth of the designs."""
    if seen["designs"] < DESIGNS * len(FOCUSES):
        pytest.skip("fewer designs than that were asked for")
    rare = {name: count for name, count in seen.items() if count < LEAST_SHARE * seen["designs"]}
    assert rare == {}
    assert {f"state {state}" for state in ("kept", "locked", "needed", "due")} < set(seen)


@pytest.mark.parametrize("path", REGRESSIONS, ids=lambda path: path.stem)
def test_design_that_once_differed_agrees(path: Path) -> None:
    """Every failure of the random designs is kept."""
    kept = json.loads(path.read_text())
    agree(case_of(kept["design"], kept["days"]))


@pytest.fixture
def cases(request: pytest.FixtureRequest) -> list[Case]:
    """The random designs that this run has tried; made now if the faults are looked for alone."""
    if not tried:
        for focus in FOCUSES:
            test_engine_and_simulation_agree(focus, request)
    return [*kept_cases(), *tried[: DESIGNS * len(FOCUSES)]]


@lru_cache(maxsize=1)
def kept_cases() -> tuple[Case, ...]:
    """The designs that once told engine and simulation apart; some faults are too rare for random ones."""
    kept = [json.loads(path.read_text()) for path in REGRESSIONS]
    return tuple(case_of(one["design"], one["days"]) for one in kept)


@pytest.mark.parametrize("name", FAULTS)
def test_deliberate_fault_is_caught(name: str, cases: list[Case], monkeypatch: pytest.MonkeyPatch) -> None:
    """Some of the designs must tell the engine with the fault from the simulation.

    What is shown here is that the comparison can fail: one that passes whatever the engine does would be worth nothing.
    """
    module, attribute, instead = FAULTS[name]
    assert hasattr(module, attribute)
    monkeypatch.setattr(module, attribute, instead)
    assert any(disagrees(case) for case in cases)


def disagrees(case: Case) -> bool:
    try:
        agree(case)
    except (AssertionError, IndexError, KeyError, ValueError):
        return True
    return False


def test_names_that_are_patched_are_those_that_are_used() -> None:
    assert lives.met_by is holds.met_by
