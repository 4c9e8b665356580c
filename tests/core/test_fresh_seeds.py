"""Designs that no run has seen before, beside those that every run looks at; a design that fails is kept."""

import json
import os
import secrets
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st

from tests.core.comparison import agree, case_of
from tests.core.strategies import FOCUSES, designs

EACH = 4
"""For each thing that designs are about: a hundred new designs on every run by hand."""
KEPT = Path(__file__).parent / "regressions"


@pytest.fixture
def seed_of_run(request: pytest.FixtureRequest) -> int:
    """The one that `--seed` names, otherwise a new one; none where `CI` is set, as a run there is to be repeatable."""
    asked: int | None = request.config.getoption("--seed")
    if asked is None and os.environ.get("CI"):
        pytest.skip("where CI is set, the fixed seeds run alone")
    return secrets.randbits(32) if asked is None else asked


@pytest.mark.parametrize("focus", FOCUSES, ids=" ".join)
def test_engine_and_simulation_agree_on_new_designs(focus: list[str], seed_of_run: int) -> None:
    """`--seed` runs one again; the smallest design that fails is printed, and written among the regressions."""
    with_seed(seed_of_run, focus, KEPT, agree)


def with_seed(number: int, focus: list[str], kept: Path, check: Any, phases: Sequence[Phase] = tuple(Phase)) -> None:
    failing: list[tuple[dict[str, Any], int]] = []

    @seed(number)
    @settings(max_examples=EACH, phases=phases, derandomize=False, database=None, suppress_health_check=list(HealthCheck))
    @given(design=designs(focus), days=st.integers(20, 45))
    def on_new_designs(design: dict[str, Any], days: int) -> None:
        try:
            check(case_of(design, days))
        except Exception:
            failing.append((design, days))
            raise

    try:
        on_new_designs()
    except Exception:
        if failing:
            keep(number, focus, *failing[-1], kept)
        raise


def keep(number: int, focus: list[str], design: dict[str, Any], days: int, kept: Path) -> None:
    """The last design that failed is the smallest one; rename its file for what was wrong, once that is known."""
    text = json.dumps({"days": days, "design": design}, indent=2, ensure_ascii=False) + "\n"
    path = kept / f"seed-{number}-{'-'.join(focus)}.json".replace(" ", "-")
    path.write_text(text)
    sys.stdout.write(
        f"Seed {number} ({' '.join(focus)}) found a design on which engine and simulation differ.\n"
        f"It was kept as {path.name} among the regressions:\n{text}"
    )


def test_design_that_fails_is_printed_and_kept(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    def never(case: Any) -> None:
        raise AssertionError("as if the two differed")

    with pytest.raises(AssertionError, match="as if the two differed"):
        with_seed(7, FOCUSES[0], tmp_path, never, phases=(Phase.generate,))  # making it small is the library's, and slow
    (path,) = tmp_path.iterdir()
    again = json.loads(path.read_text())
    agree(case_of(again["design"], again["days"]))
    assert path.name.startswith("seed-7-")
    assert path.read_text() in capsys.readouterr().out


def test_same_seed_gives_the_same_designs(tmp_path: Path) -> None:
    def tried_with(number: int) -> list[Any]:
        tried: list[Any] = []
        with_seed(number, FOCUSES[0], tmp_path, tried.append)
        return [case.document for case in tried]

    assert tried_with(7) == tried_with(7)
    assert tried_with(7) != tried_with(8)
