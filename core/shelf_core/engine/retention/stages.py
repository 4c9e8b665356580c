"""Stages: how long each point stays on the copy's own target and on those of its step-downs (docs/model.md, Step-downs)."""

from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Instants, Mask
from shelf_core.engine.retention.claims import Candidates, Claims
from shelf_core.engine.retention.lifecycle import CopyLife, HoldClaim, Lifecycle
from shelf_core.engine.retention.locks import lock_ends
from shelf_core.engine.retention.moves import Known, OnTarget, StageRules, TargetTraits, moves_of
from shelf_core.engine.retention.parents import NONE, Parents
from shelf_core.engine.retention.removals import first_sweep_from, with_what_needs_it
from shelf_core.engine.retention.rotations import Turns
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL, Frame
from shelf_core.engine.schedule.kinds import FULL, LOG, SYNTHETIC, Kinds


class Plan(NamedTuple):
    """Where a copy's points go, and when it is swept."""

    traits: TargetTraits
    steps: tuple[StageRules, ...]
    sweeps: Instants
    frame: Frame


class OnStage(NamedTuple):
    """All points of a copy as to one stage, in the order of writing on the copy's own target.

    `arrived` is when each came to this stage (AFTER_ALL for never), `moved_on` when it went on from it; the rest as in
    Lifecycle.
    """

    arrived: Instants
    moved_on: Instants
    stored_as: Kinds
    parents: Parents
    needs_parent: Mask
    locked: Instants
    release: Instants
    removed: Instants


class Staying(NamedTuple):
    """All points of a copy through its stages."""

    points: Candidates
    given: Bytes
    claims: Claims
    held: tuple[HoldClaim, ...]
    stages: tuple[OnStage, ...]
    turns: Turns | None = None
    replica: bool = False

    @property
    def release(self) -> Instants:
        """The sweep at which each point would go from the copy's own target if nothing there needed it."""
        return self.stages[0].release

    @property
    def there_until(self) -> Instants:
        """Until when each point is on any stage. What is written over is gone for all that reads at that instant."""
        ends = [np.where(stage.arrived < AFTER_ALL, stage.removed, BEFORE_ALL) for stage in self.stages]
        if self.turns is not None:
            ends[0] = np.where(self._written_over(self.stages[0]), ends[0] - 1, ends[0])
        return np.maximum.reduce(ends)

    def life(self, run_ids: tuple[str, ...], opening: int, taken_rungs: frozenset[str]) -> CopyLife:
        """The same as lifecycles, one per stage; when picks are known is kept of the rungs that other copies take."""
        picks = self.claims.picks
        known = {name: picks[name].known_at(self.points.written) for name in sorted(taken_rungs) if name in picks}
        stages = tuple(self._lifecycle(stage, run_ids, moved_in=at > 0) for at, stage in enumerate(self.stages))
        return CopyLife(stages, self.there_until, known, opening)

    def _lifecycle(self, stage: OnStage, run_ids: tuple[str, ...], *, moved_in: bool) -> Lifecycle:
        here = np.flatnonzero(stage.arrived < AFTER_ALL)
        here = here[np.argsort(stage.arrived[here], kind="stable")]
        place = np.full(len(stage.arrived) + 1, NONE, np.int64)
        place[here] = np.arange(len(here))
        parent = place[stage.parents[here]]
        # What was given for a full or a synthetic is its size wherever it lies by itself; what becomes a full has that of one.
        kind = self.points.kind[here]
        keeps_size = (kind == FULL) | (kind == SYNTHETIC) | (kind == stage.stored_as[here])
        rotates = self.turns is not None and not moved_in
        return Lifecycle(
            taken=self.points.taken[here],
            written=stage.arrived[here],
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
            tape_set=self.turns.tape_set[here] if rotates and self.turns is not None else None,
            written_over=self._written_over(stage)[here] if rotates else None,
            replica=self.replica and not moved_in,
        )

    def _written_over(self, stage: OnStage) -> Mask:
        """Which points of a rotation go at the write that their set is used for next."""
        if self.turns is None:
            return np.zeros(len(stage.arrived), bool)
        return (stage.removed == self.turns.ends) & (stage.removed < AFTER_ALL)


def stays_of(
    known: Known,
    points: Candidates,
    parents: Parents,
    given: Bytes,
    locked: Instants,
    plan: Plan,
    turns: Turns | None = None,
) -> Staying:
    """How long each point stays where, given its parent, its lock on the copy's own target and all that claims it.

    `turns` are those of a rotation, whose tapes are written over instead of being swept.
    """
    stage = _Arriving(known.written, known.kind, parents, locked, is_first=True)
    traits, found = plan.traits, []
    for step in plan.steps:
        moves, on_stage = _moving_on(stage, known, traits, step, plan)
        found.append(on_stage)
        stage, traits = _moved(stage, step, points, known.claims, moves, plan.frame), TargetTraits(step.shared, step.locks)
    found.append(_on_stage(stage, known, np.full(len(points.taken), AFTER_ALL, np.int64), traits, plan.sweeps))
    if turns is not None:
        found[0] = found[0]._replace(removed=np.minimum(found[0].removed, turns.ends))
    return Staying(points, given, known.claims, known.held, tuple(found), turns, plan.traits.replica)


def _moving_on(
    stage: "_Arriving", known: Known, traits: TargetTraits, step: StageRules, plan: Plan
) -> tuple[Instants, OnStage]:
    """When points move on from a stage, and how long they stay there.

    A hold may claim what has left this stage already and lies on another: from here it moves no more. What left before it
    would have moved does not come back, so each round only takes such moves away.
    """
    gone = np.full(len(known.taken), AFTER_ALL, np.int64)
    while True:
        before = OnTarget(stage.arrived, gone, stage.parents, traits)
        moves = moves_of(known, before, plan.sweeps, step, plan.frame)
        leaves = np.full(len(moves), AFTER_ALL, np.int64) if step.step.keep_source else moves
        found = _on_stage(stage, known, leaves, traits, plan.sweeps)
        left_before = (moves < AFTER_ALL) & (found.removed < moves) & (found.removed < gone)
        if not left_before.any():
            return moves, found
        gone = np.where(left_before, found.removed, gone)


class _Arriving(NamedTuple):
    """What comes to a stage: when (AFTER_ALL for never), as what, on what, its lock; `is_first` on the copy's own target."""

    arrived: Instants
    stored_as: Kinds
    parents: Parents
    locked: Instants
    is_first: bool = False


def _on_stage(stage: _Arriving, known: Known, leaves: Instants, traits: TargetTraits, sweeps: Instants) -> OnStage:
    arrived, stored_as, parents, locked, _ = stage
    builds = (parents != NONE) & ((stored_as == LOG) | (not traits.shared)) & (arrived < AFTER_ALL)
    until = known.until
    for claim in (*known.held, None):
        # What never came here keeps nothing here.
        release = first_sweep_from(sweeps, np.maximum(np.maximum(np.minimum(until, leaves), locked), arrived))
        release = np.where(arrived < AFTER_ALL, release, BEFORE_ALL)
        needs = builds if stage.is_first else _meets_its_parent(arrived, release, parents, builds)
        removed = with_what_needs_it(release, parents, needs)
        if claim is not None:
            # A hold that is placed when a point has gone from here already does not bring it back.
            is_there = claim.points & ((arrived > claim.begins) | (removed >= claim.begins))
            until = np.where(is_there, np.maximum(until, claim.ends), until)
    return OnStage(arrived, leaves, stored_as, parents, needs, locked, release, removed)


def _meets_its_parent(arrived: Instants, release: Instants, parents: Parents, builds: Mask) -> Mask:
    """Which points find their parent on this stage when they come; what had gone by then is needed by nobody here.

    Goes from the youngest to the oldest point, since what a point keeps is known once all that builds on it is.
    """
    late = builds & (arrived > arrived[parents])
    if not late.any():
        return builds
    meets, ends = builds.copy(), release.tolist()
    children: dict[int, list[tuple[int, int]]] = {}
    for place in range(len(arrived) - 1, -1, -1):
        for arrives, child in sorted(children.pop(place, ())):
            meets[child] = arrives <= ends[place]
            ends[place] = max(ends[place], ends[child]) if meets[child] else ends[place]
        if builds[place]:
            children.setdefault(int(parents[place]), []).append((int(arrived[place]), place))
    return meets


def _moved(before: _Arriving, step: StageRules, points: Candidates, claims: Claims, moves: Instants, frame: Frame) -> _Arriving:
    """What comes to the stage of a step-down; its locks run from the move."""
    moving = moves < AFTER_ALL
    from_move = Candidates(points.taken, np.where(moving, moves, points.written), points.kind, points.run, points.run_ids)
    locked = np.where(moving, lock_ends(step.step.lock if step.locks else [], from_move, claims, frame), BEFORE_ALL)
    if step.step.as_ == "chain":
        return _Arriving(moves, before.stored_as, before.parents, locked)
    return _Arriving(moves, np.full(len(moves), FULL, np.int8), np.full(len(moves), NONE, np.int64), locked)
