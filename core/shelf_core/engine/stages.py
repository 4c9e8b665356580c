"""Stages: how long each point stays on the copy's own target and on those of its step-downs (docs/model.md, Step-downs)."""

from typing import NamedTuple

import numpy as np

from shelf_core.calendar.zones import Seconds
from shelf_core.engine.claims import Candidates, Claims
from shelf_core.engine.frame import FAR, NEVER, Frame
from shelf_core.engine.kinds import FULL, LOG, Kinds
from shelf_core.engine.lifecycle import CopyLife, HoldClaim, Lifecycle
from shelf_core.engine.locks import lock_ends
from shelf_core.engine.moves import Claimed, StageRules, moves_of
from shelf_core.engine.parents import NONE, Parents
from shelf_core.engine.picks import Mask
from shelf_core.engine.removals import first_sweep_from, with_what_needs_it
from shelf_core.engine.sizes import Bytes


class Ground(NamedTuple):
    """What a target is like for the points on it: `shared` packing, or snapshot space."""

    shared: bool
    snapshots: bool = False

    @property
    def loose(self) -> bool:
        """Whether no chain is ever in use here, since no point needs another."""
        return self.shared or self.snapshots


class OnStage(NamedTuple):
    """All points of a copy as to one stage, in the order of writing on the copy's own target.

    `came` is when each came to this stage (FAR for never), `moved_on` when it went on from it; the rest as in Lifecycle.
    """

    came: Seconds
    moved_on: Seconds
    stored_as: Kinds
    parents: Parents
    needs_parent: Mask
    locked: Seconds
    release: Seconds
    removed: Seconds


class Staying(NamedTuple):
    """All points of a copy through its stages."""

    points: Candidates
    given: Bytes
    claims: Claims
    held: tuple[HoldClaim, ...]
    stages: tuple[OnStage, ...]

    @property
    def release(self) -> Seconds:
        """The sweep at which each point would go from the copy's own target if nothing there needed it."""
        return self.stages[0].release

    @property
    def there_until(self) -> Seconds:
        """Until when each point is on any stage."""
        return np.maximum.reduce([np.where(stage.came < FAR, stage.removed, NEVER) for stage in self.stages])

    def life(self, run_ids: tuple[str, ...], opening: int) -> CopyLife:
        """The same as lifecycles, one per stage."""
        known = {name: picks.known_at(self.points.written) for name, picks in self.claims.picks.items()}
        stages = tuple(self._lifecycle(stage, run_ids, moved_in=at > 0) for at, stage in enumerate(self.stages))
        return CopyLife(stages, self.there_until, known, opening)

    def _lifecycle(self, stage: OnStage, run_ids: tuple[str, ...], *, moved_in: bool) -> Lifecycle:
        here = np.flatnonzero(stage.came < FAR)
        here = here[np.argsort(stage.came[here], kind="stable")]
        place = np.full(len(stage.came) + 1, NONE, np.int64)
        place[here] = np.arange(len(here))
        parent = place[stage.parents[here]]
        keeps_size = (self.points.kind[here] == stage.stored_as[here]) | (stage.stored_as[here] != FULL)
        return Lifecycle(
            taken=self.points.taken[here],
            written=stage.came[here],
            kind=self.points.kind[here],
            stored_as=stage.stored_as[here],
            run=self.points.run[here],
            run_ids=run_ids,
            parent=parent,
            needs_parent=stage.needs_parent[here] & (parent != NONE),
            removed=stage.removed[here],
            claims={label: ends[here] for label, ends in self.claims.ends.items()},
            held=tuple(claim._replace(points=claim.points[here]) for claim in self.held),
            locked=stage.locked[here],
            moved_on=stage.moved_on[here],
            given=np.where(keeps_size, self.given[here], np.nan),
            place=here,
            moved_in=moved_in,
        )


def stays_of(
    points: Candidates,
    parents: Parents,
    given: Bytes,
    claims: Claims,
    held: tuple[HoldClaim, ...],
    locked: Seconds,
    ground: Ground,
    steps: tuple[StageRules, ...],
    sweeps: Seconds,
    frame: Frame,
) -> Staying:
    """How long each point stays where, given its parent and all that claims it."""
    known = Claimed(points.taken, points.written, points.kind, claims, claims.latest(), held)
    return Staying(points, given, claims, held, _stages(known, points, parents, locked, ground, steps, sweeps, frame))


def _stages(
    known: Claimed,
    points: Candidates,
    parents: Parents,
    locked: Seconds,
    ground: Ground,
    steps: tuple[StageRules, ...],
    sweeps: Seconds,
    frame: Frame,
) -> tuple[OnStage, ...]:
    until = known.until
    for claim in known.held:
        until = np.where(claim.points, np.maximum(until, claim.ends), until)
    came, stored_as = points.written, points.kind
    found = []
    for step in (*steps, None):
        if step is None:
            moves = np.full(len(came), FAR, np.int64)
        else:
            moves = moves_of(known, came, parents, sweeps, step, loose=ground.loose, frame=frame)
        leaves = np.where((moves < FAR) & (step is None or not step.step.keep_source), moves, FAR)
        found.append(_on_stage(came, leaves, np.minimum(until, leaves), stored_as, parents, locked, ground, sweeps))
        if step is None:
            break
        ground = Ground(step.shared)
        came, locked = moves, _locks_of_stage(step, points, known.claims, moves, frame)
        if step.step.as_ == "full":
            parents, stored_as = np.full(len(came), NONE, np.int64), np.full(len(came), FULL, np.int8)
    return tuple(found)


def _on_stage(
    came: Seconds,
    leaves: Seconds,
    until: Seconds,
    stored_as: Kinds,
    parents: Parents,
    locked: Seconds,
    ground: Ground,
    sweeps: Seconds,
) -> OnStage:
    needs = (parents != NONE) & ((stored_as == LOG) | (not ground.shared)) & (came < FAR)
    release = first_sweep_from(sweeps, np.maximum(np.maximum(until, locked), came))
    # What never came here keeps nothing here.
    counted = np.where(came < FAR, release, NEVER)
    return OnStage(came, leaves, stored_as, parents, needs, locked, release, with_what_needs_it(counted, parents, needs))


def _locks_of_stage(step: StageRules, points: Candidates, claims: Claims, moves: Seconds, frame: Frame) -> Seconds:
    """Ends of the step-down's own locks, which run from the move."""
    moving = moves < FAR
    from_move = Candidates(points.taken, np.where(moving, moves, points.written), points.kind, points.run, points.run_ids)
    return np.where(moving, lock_ends(step.step.lock, from_move, claims, frame), NEVER)
