"""Deliberate faults in the engine: what is put in the place of which function."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from shelf_core.calendar.zones import zone
from shelf_core.engine.retention import arrivals, claims, lives, locks, moves, parents, resolved, stages
from shelf_core.engine.retention.holds import Met
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL
from shelf_core.engine.volume import ledger, moved, pieces, rows, snapshots

original_first = stages.first_sweep_from
original_changed = pieces.changed_sum
original_periods = claims.periods_of
original_locks = locks.lock_ends
original_turns = lives.turns_of
original_before = lives.points_before_logs

FAULTS: dict[str, tuple[Any, str, Callable[..., Any]]] = {
    "sweep before the writes of its instant": (
        pieces,
        "departure_ticks",
        lambda life: ledger.ticks(life.removed, ledger.WRITE) - 1,
    ),
    "sweep of shared blocks before the writes of its instant": (
        rows,
        "departure_ticks",
        lambda life: ledger.ticks(life.removed, ledger.WRITE) - 1,
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
    "the day of a period forgotten": (claims, "on_or_after", lambda local, *rest: np.ones(len(local), bool)),
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
    "a chain in use steps down": (moves, "_superseded", lambda known, loose: np.full(len(known.taken), BEFORE_ALL)),
    "minimum stay not asked for": (moves, "_stays_long_enough", lambda _released, move, *_: np.ones(len(move), bool)),
    "a chain moves without what it needs": (moves, "_with_ancestors", lambda chosen, _parents: chosen),
    "holds forgotten": (lives, "met_by", lambda hold, written, *_: Met(hold, np.zeros(len(written), bool))),
    "sessions counted for each workload": (
        lives,
        "turns_of",
        lambda rotation, written, _sessions, frame: original_turns(rotation, written, np.unique(written), frame),
    ),
    "a log goes with a point that has gone": (
        lives,
        "points_before_logs",
        lambda taken, written, kind, _removed: original_before(taken, written, kind, np.full(len(taken), AFTER_ALL)),
    ),
    "what comes later keeps what had gone": (stages, "_meets_its_parent", lambda _came, _release, _parents, builds: builds),
    "moved bytes look at their own copy alone": (
        moved,
        "_sum_of_workloads",
        lambda holding, target, frame, _on_target: moved.moved_bytes(holding, target, frame, shares=True),
    ),
    "every target can lock": (
        resolved,
        "TargetTraits",
        lambda shared, _locks, *rest: moves.TargetTraits(shared, True, *rest),
    ),
    "steps on from a stage that it has left": (
        stages,
        "OnTarget",
        lambda arrived, gone, parents, traits: moves.OnTarget(arrived, np.full(len(gone), AFTER_ALL), parents, traits),
    ),
    "the newest replica is not there in full": (snapshots, "_in_full", lambda series, places, _frame: np.zeros(len(places))),
    "replicas move nothing": (moved, "replicated_bytes", lambda taken, *_: np.zeros(len(taken))),
    "the newest snapshot does not grow": (
        snapshots,
        "_growing_at",
        lambda _series, _newest, asked, _frame: np.zeros(len(asked)),
    ),
}


def in_utc(frame: Any) -> Any:
    return replace(frame, zone=zone("UTC", frame.first_year, frame.last_year))
