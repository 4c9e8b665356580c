"""From arrivals to lives: what a copy's ladder, locks, step-downs and sweeps make of what is brought to it."""

from typing import NamedTuple

import numpy as np

from shelf_core.design.ladders import Ladder
from shelf_core.design.routes import Lock, Rotation
from shelf_core.design.workloads import Member
from shelf_core.engine.arrivals import Arrivals
from shelf_core.engine.claims import Candidates, Claims, claims_of
from shelf_core.engine.frame import Frame
from shelf_core.engine.holds import Standing, claims_of_hold, held_by
from shelf_core.engine.kinds import LOG, Kinds
from shelf_core.engine.lifecycle import CopyLife, HoldClaim
from shelf_core.engine.locks import lock_ends, with_floor_of_locks
from shelf_core.engine.members import parts_of
from shelf_core.engine.moves import Ground, Known, StageRules
from shelf_core.engine.parents import NONE, Declared, Parents, assign_parents, kinds_if_all_stay, likely_parents
from shelf_core.engine.picks import Mask
from shelf_core.engine.removals import sweep_instants
from shelf_core.engine.rotations import ROTATION, rotation_ends
from shelf_core.engine.stages import Plan, Staying, stays_of


class CopyRules(NamedTuple):
    """What a copy does with its points: its ladder or rotation, locks, sweeps, step-downs, and what its own target is like."""

    ladder: Ladder | None
    rotation: Rotation | None
    locks: list[Lock]
    sweep: str
    ground: Ground
    stages: tuple[StageRules, ...]


class Circumstances(NamedTuple):
    """What besides a copy's rules decides about its points, from the side of the workloads."""

    members: tuple[Member, ...] = ()
    holds: tuple[Standing, ...] = ()


def lives_of(came: Arrivals, rules: CopyRules, about: Circumstances, frame: Frame) -> CopyLife:
    """The lives of the points that come to a copy; a log without a parent is not taken.

    Holds are gone through in the order in which they are placed: whether a point is there then depends on the earlier ones
    alone, so what one claims is known before it bears on anything.
    """
    copy = _Copy(came, rules, about, Plan(rules.ground, rules.stages, sweep_instants(came.runs, frame, rules.sweep), frame))
    kinds = kinds_if_all_stay(came.kind, came.follows)
    parents = likely_parents(kinds, came.follows)
    held: tuple[HoldClaim, ...] = ()
    kinds, parents, stays = _settled(copy, kinds, parents, held)
    for hold in sorted(about.holds):
        asked = held_by(hold, came.taken, came.written, stays.there_until)
        logs_follow = rules.ladder is not None and rules.ladder.logs is None
        held = (*held, *claims_of_hold(hold, asked, came.taken, kinds, logs_follow=logs_follow))
        kinds, parents, stays = _settled(copy, kinds, parents, held)
    taken = (kinds != LOG) | (parents != NONE)
    if not taken.all():
        came, kinds, parents = _only(came, kinds, parents, taken)
        held = tuple(claim._replace(points=claim.points[taken]) for claim in held)
        stays = _staying(copy._replace(came=came), kinds, parents, held)
    return stays.life(came.run_ids, came.opening)


class _Copy(NamedTuple):
    came: Arrivals
    rules: CopyRules
    about: Circumstances
    plan: Plan


def _settled(copy: _Copy, kinds: Kinds, parents: Parents, held: tuple[HoldClaim, ...]) -> tuple[Kinds, Parents, Staying]:
    """Kinds and parents that agree with what is there at each write, and how long all stay.

    Kinds depend on what is still there, that on claims, locks and moves, and these on kinds. Each round is right at least
    up to one point further than the one before, since nothing depends on what comes later; nearly always the first is.
    """
    came, rules = copy.came, copy.rules
    declared = Declared(came.kind, came.taken, came.written, came.follows)
    for _ in range(2 * len(came) + 2):
        stays = _staying(copy, kinds, parents, held)
        found = assign_parents(declared, kinds, parents, stays.release, shared=rules.ground.shared)
        if np.array_equal(found[0], kinds) and np.array_equal(found[1], parents):
            return kinds, parents, stays
        kinds, parents = found
    raise ValueError("expected rules under which each point is a full or not, got some that never settle")


def _staying(copy: _Copy, kinds: Kinds, parents: Parents, held: tuple[HoldClaim, ...]) -> Staying:
    came, rules, frame = copy.came, copy.rules, copy.plan.frame
    parts = parts_of(copy.about.members, came.taken, frame)
    points = Candidates(came.taken, came.written, kinds, came.run, came.run_ids, parts)
    claims = _claims(points, rules, frame)
    locked = lock_ends(rules.locks, points, claims, frame)
    known = Known(came.taken, came.written, kinds, claims, claims.latest(), held)
    return stays_of(known, points, parents, came.given, locked, copy.plan)


def _claims(points: Candidates, rules: CopyRules, frame: Frame) -> Claims:
    if rules.ladder is None:
        if rules.rotation is None:
            raise ValueError("expected a ladder or a rotation")
        return Claims({ROTATION: rotation_ends(rules.rotation, points.written, frame)}, {})
    locks = [*rules.locks, *(lock for stage in rules.stages for lock in stage.step.lock)]
    ladder = with_floor_of_locks(rules.ladder, locks)
    if np.all(points.taken[1:] >= points.taken[:-1]):
        return claims_of(ladder, points, frame, shared=rules.ground.shared)
    order = np.argsort(points.taken, kind="stable")
    back = np.empty_like(order)
    back[order] = np.arange(len(order))
    return claims_of(ladder, points.reordered(order), frame, shared=rules.ground.shared).reordered(back)


def _only(came: Arrivals, kinds: Kinds, parents: Parents, keep: Mask) -> tuple[Arrivals, Kinds, Parents]:
    """The same without points that were not taken; nothing builds on those."""
    place = np.r_[np.cumsum(keep) - 1, NONE]
    arrivals = Arrivals(
        came.taken[keep],
        came.written[keep],
        came.kind[keep],
        came.run[keep],
        came.run_ids,
        came.runs,
        came.follows[keep],
        came.given[keep],
        int(np.count_nonzero(keep[: came.opening])),
    )
    return arrivals, kinds[keep], place[parents][keep]
