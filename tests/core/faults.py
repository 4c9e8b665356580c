"""Deliberate faults in the engine: what is put in the place of which function."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from shelf_core.calendar.zones import zone
from shelf_core.engine import arrivals, claims, ledger, lives, locks, moves, parents, picks, pieces, snapshots, stages
from shelf_core.engine.frame import NEVER

original_ticks = pieces.ticks
original_first = stages.first_sweep_from
original_changed = pieces.changed_sum
original_periods = picks.periods_of
original_locks = locks.lock_ends

FAULTS: dict[str, tuple[Any, str, Callable[..., Any]]] = {
    "sweep before the writes of its instant": (
        pieces,
        "ticks",
        lambda instants, phase: original_ticks(instants, ledger.WRITE) - (phase == ledger.SWEEP),
    ),
    "lock counted from when a point was taken": (
        lives,
        "lock_ends",
        lambda asked, points, *rest: original_locks(asked, replace(points, written=points.taken), *rest),
    ),
    "parent forgotten": (stages, "with_what_needs_it", lambda release, _parents, _counts: release),
    "periods in UTC": (
        claims,
        "periods_of",
        lambda rung, taken, eligible, frame: original_periods(rung, taken, eligible, in_utc(frame)),
    ),
    "the day of a period forgotten": (picks, "on_or_after", lambda local, *rest: np.ones(len(local), bool)),
    "sweep at midnight forgotten": (lives, "sweep_instants", lambda runs, _frame, _sweep: np.unique(runs)),
    "claim ends one sweep late": (stages, "first_sweep_from", lambda sweeps, ends: original_first(sweeps, ends + 1)),
    "parents that are gone are built on": (
        parents,
        "_newest_that_is_there",
        lambda ordered, _stays, _now: ordered[-1][1] if ordered else parents.NONE,
    ),
    "growth of neighbours forgotten": (
        pieces,
        "changed_sum",
        lambda behaviour, before, after, begin: original_changed(behaviour, before, before, begin),
    ),
    "delay forgotten": (arrivals, "add_to_instants", lambda instants, _length, _zone: instants),
    "reclaim at once": (ledger, "_reclaimed_later", lambda at, sums, _reclaims: (at, sums)),
    "a chain in use steps down": (moves, "_superseded", lambda known, loose: np.full(len(known.taken), NEVER)),
    "minimum stay not asked for": (moves, "_stays_long_enough", lambda _released, move, *_: np.ones(len(move), bool)),
    "a chain moves without what it needs": (moves, "_with_ancestors", lambda chosen, _parents: chosen),
    "holds forgotten": (lives, "held_by", lambda _hold, taken, *_: np.zeros(len(taken), bool)),
    "the newest snapshot does not grow": (
        snapshots,
        "_growing_at",
        lambda _series, _newest, asked, _frame: np.zeros(len(asked)),
    ),
}


def in_utc(frame: Any) -> Any:
    return replace(frame, zone=zone("UTC", frame.first_year, frame.last_year))
