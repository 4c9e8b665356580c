"""Deliberate faults in the engine: each must be told from the simulation by some random design.

What is shown here is that the comparison can fail: a check that passes whatever the engine does would be worth nothing.
"""

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, Phase, find, settings

from shelf_core.engine import arrivals, claims, ledger, lives, locks, parents, removals, totals
from tests.core.strategies import designs
from tests.core.test_against_reference import agree

DAYS = 45
PATIENCE = settings(
    max_examples=150,
    deadline=None,
    database=None,
    derandomize=True,
    phases=[Phase.generate],
    suppress_health_check=list(HealthCheck),
)

original_ticks = totals.ticks
original_first = lives.first_sweep_from
original_changed = totals.changed_bytes


def patched(module: Any, name: str, instead: Callable[..., Any]) -> tuple[Any, str, Callable[..., Any]]:
    return module, name, instead


FAULTS = {
    "sweep before the writes of its instant": patched(
        totals, "ticks", lambda instants, phase: original_ticks(instants, ledger.WRITE) - (phase == ledger.SWEEP)
    ),
    "the day of a period forgotten": patched(claims, "on_or_after", lambda local, *rest: np.ones(len(local), bool)),
    "locks forgotten": patched(lives, "lock_ends", lambda _locks, points, *_: np.full(len(points.taken), -1)),
    "what is needed goes": patched(lives, "with_what_needs_it", lambda release, _parents, _counts: release),
    "sweep at midnight forgotten": patched(lives, "sweep_instants", lambda runs, _frame, _sweep: runs),
    "claim ends one sweep late": patched(lives, "first_sweep_from", lambda sweeps, ends: original_first(sweeps, ends + 1)),
    "parents that are gone are built on": patched(
        parents, "_top_that_is_there", lambda stack, _stays, _now: stack[-1] if stack else parents.NONE
    ),
    "growth of neighbours forgotten": patched(
        totals, "changed_bytes", lambda behaviour, before, after, begin: original_changed(behaviour, before, before, begin)
    ),
    "delay forgotten": patched(arrivals, "add_to_instants", lambda instants, _length, _zone: instants),
    "reclaim at once": patched(ledger, "_reclaimed_later", lambda at, sums, _reclaims: (at, sums)),
}


@pytest.mark.parametrize("name", FAULTS)
def test_fault_is_caught(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    module, attribute, instead = FAULTS[name]
    monkeypatch.setattr(module, attribute, instead)
    assert find(designs(), disagrees, settings=PATIENCE) is not None


def disagrees(document: dict[str, Any]) -> bool:
    try:
        agree(document, DAYS)
    except (AssertionError, IndexError, KeyError):
        return True
    return False


def test_sweeps_are_where_the_fault_would_be() -> None:
    """The names that are patched above are those that the engine uses."""
    assert lives.sweep_instants is removals.sweep_instants
    assert lives.lock_ends is locks.lock_ends
