"""The array engine against the event-by-event simulation, over random designs that mix all that a design may say."""

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.core.comparison import agree, case_of, features, seen, tried
from tests.core.strategies import FOCUSES, designs

pytestmark = pytest.mark.xdist_group("random designs")  # the faults are looked for in the designs that were tried

DESIGNS = 15
"""For each of the twenty things that designs are about."""
LEAST_SHARE = 0.1
REGRESSIONS = sorted((Path(__file__).parent / "regressions").glob("*.json"))


@pytest.mark.parametrize("focus", FOCUSES, ids=" ".join)
def test_engine_and_simulation_agree(focus: list[str], request: pytest.FixtureRequest) -> None:
    """As many designs as `--designs` says, instead of 300; with `--hypothesis-profile wide` new ones each time."""
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


def test_everything_was_tried_often_enough(request: pytest.FixtureRequest) -> None:
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
