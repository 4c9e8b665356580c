"""From arrivals to lives: what a copy's ladder, locks, step-downs and sweeps make of what is brought to it."""

from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants, Mask, Places
from shelf_core.design.ladders import Ladder
from shelf_core.design.routes import Lock, Rotation
from shelf_core.design.workloads import Member
from shelf_core.engine.retention.arrivals import Arrivals
from shelf_core.engine.retention.claims import Candidates, Claims, claims_of, points_before_logs
from shelf_core.engine.retention.holds import Met, Standing, claims_of_hold, met_by
from shelf_core.engine.retention.lifecycle import CopyLife
from shelf_core.engine.retention.locks import lock_ends, with_floor_of_locks
from shelf_core.engine.retention.members import parts_of
from shelf_core.engine.retention.moves import Known, StageRules, TargetTraits
from shelf_core.engine.retention.parents import NONE, Chain, Declared, Parents, assign_parents, if_all_stay
from shelf_core.engine.retention.rotations import ROTATION, turns_of
from shelf_core.engine.retention.stages import Plan, Staying, stays_of
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL, Frame
from shelf_core.engine.schedule.kinds import LOG, Kinds
from shelf_core.engine.schedule.sweeps import sweep_instants


class CopyRules(NamedTuple):
    """What a copy does with its points: its ladder or rotation, locks, sweeps, step-downs, and what its own target is like.

    Under a rotation `sessions` are the instants, ascending, at which the copy writes anything, of whatever workload.
    `taken_rungs` are those whose picks other copies of the route take.
    """

    ladder: Ladder | None
    rotation: Rotation | None
    locks: list[Lock]
    sweep: str
    traits: TargetTraits
    stages: tuple[StageRules, ...]
    sessions: Instants | None = None
    taken_rungs: frozenset[str] = frozenset()

    @property
    def logs_follow_points(self) -> bool:
        """Whether a log is claimed as long as the point before it, since no time of its own is given."""
        return self.ladder is not None and self.ladder.logs is None


class Circumstances(NamedTuple):
    """What besides a copy's rules decides about its points, from the side of the workloads."""

    members: tuple[Member, ...] = ()
    holds: tuple[Standing, ...] = ()


def lives_of(arrivals: Arrivals, rules: CopyRules, circumstances: Circumstances, frame: Frame) -> CopyLife:
    """The lives of the points that come to a copy; a log without a parent is not taken.

    Holds are gone through in the order in which they are placed: whether a point is there then depends on the earlier ones
    alone, so what one claims is known before it bears on anything. A rotation heeds no hold: the tape decides.
    """
    plan = Plan(rules.traits, rules.stages, sweep_instants(arrivals.runs, frame, rules.sweep), frame)
    likely = if_all_stay(arrivals.kind, arrivals.follows)
    copy = _Copy(arrivals, rules, circumstances, plan, likely)
    guess = _Guess(likely, _before_logs(copy, likely.kinds, np.full(len(arrivals), AFTER_ALL)))
    met: tuple[Met, ...] = ()
    guess, stays = _settled(copy, guess, met)
    for hold in sorted(circumstances.holds) if rules.rotation is None else ():
        met = (*met, met_by(hold, arrivals.written, stays.there_until))
        guess, stays = _settled(copy, guess, met)
    taken = (guess.chain.kinds != LOG) | (guess.chain.parents != NONE)
    if not taken.all():
        arrivals, guess = _only(arrivals, guess, taken)
        met = tuple(Met(hold, points[taken]) for hold, points in met)
        stays = _staying(copy._replace(arrivals=arrivals), guess, met)
    return stays.life(arrivals.run_ids, arrivals.opening, rules.taken_rungs)


class _Copy(NamedTuple):
    arrivals: Arrivals
    rules: CopyRules
    circumstances: Circumstances
    plan: Plan
    likely: Chain


class _Guess(NamedTuple):
    """The chain of the points, and which point each log goes with (None where logs go by themselves)."""

    chain: Chain
    before_log: Places | None

    def equals(self, other: "_Guess") -> bool:
        """Whether both say the same of every point."""
        if self.before_log is None or other.before_log is None:
            return self.before_log is other.before_log and self.chain.equals(other.chain)
        return np.array_equal(self.before_log, other.before_log) and self.chain.equals(other.chain)


def _settled(copy: _Copy, guess: _Guess, met: tuple[Met, ...]) -> tuple[_Guess, Staying]:
    """Kinds, parents and points of logs that agree with what is there at each write, and how long all stay.

    Kinds depend on what is still there, that on claims, locks and moves, and these on kinds; so do the claims of logs. Each
    round is right at least up to one point further than the one before, since nothing depends on what comes later; nearly
    always the first is.
    """
    arrivals, shared = copy.arrivals, copy.rules.traits.shared
    declared = Declared(arrivals.kind, arrivals.taken, arrivals.written, arrivals.follows)
    for _ in range(2 * len(arrivals) + 2):
        stays = _staying(copy, guess, met)
        chain = assign_parents(declared, guess.chain, copy.likely, stays.release, shared=shared)
        found = _Guess(chain, _before_logs(copy, chain.kinds, stays.stages[0].removed))
        if found.equals(guess):
            return guess, stays
        guess = found
    raise ValueError("expected rules under which each point is a full or not, got some that never settle")


def _before_logs(copy: _Copy, kinds: Kinds, removed: Instants) -> Places | None:
    if not copy.rules.logs_follow_points or not np.any(kinds == LOG):
        return None
    return points_before_logs(copy.arrivals.taken, copy.arrivals.written, kinds, removed)


def _staying(copy: _Copy, guess: _Guess, met: tuple[Met, ...]) -> Staying:
    arrivals, rules, frame = copy.arrivals, copy.rules, copy.plan.frame
    parts = parts_of(copy.circumstances.members, arrivals.taken, frame)
    kinds, parents = guess.chain
    points = Candidates(arrivals.taken, arrivals.written, kinds, arrivals.run, arrivals.run_ids, parts, guess.before_log)
    held = tuple(claim for one in met for claim in claims_of_hold(one, arrivals.taken, guess.before_log))
    if rules.rotation is not None:
        return _in_turn(copy, rules.rotation, points, parents)
    claims = _claims(points, rules, frame)
    locked = lock_ends(rules.locks if rules.traits.locks else [], points, claims, frame)
    known = Known(arrivals.taken, arrivals.written, kinds, claims, claims.latest(), held)
    return stays_of(known, points, parents, arrivals.given, locked, copy.plan)


def _in_turn(copy: _Copy, rotation: Rotation, points: Candidates, parents: Parents) -> Staying:
    """How long points stay on tapes that are written in turn: until the set of each is written again."""
    sessions = np.unique(points.written) if copy.rules.sessions is None else copy.rules.sessions
    turns = turns_of(rotation, points.written, sessions, copy.plan.frame)
    claims = Claims({ROTATION: turns.ends}, {})
    known = Known(points.taken, points.written, points.kind, claims, turns.ends, ())
    return stays_of(known, points, parents, copy.arrivals.given, np.full(len(points.taken), BEFORE_ALL), copy.plan, turns)


def _claims(points: Candidates, rules: CopyRules, frame: Frame) -> Claims:
    if rules.ladder is None:
        raise ValueError("expected a ladder or a rotation")
    locks = [*rules.locks, *(lock for stage in rules.stages for lock in stage.step.lock)]
    ladder = with_floor_of_locks(rules.ladder, locks)
    if np.all(points.taken[1:] >= points.taken[:-1]):
        return claims_of(ladder, points, frame, shared=rules.traits.shared)
    order = np.argsort(points.taken, kind="stable")
    back = np.empty_like(order)
    back[order] = np.arange(len(order))
    return claims_of(ladder, points.reordered(order), frame, shared=rules.traits.shared).reordered(back)


def _only(arrivals: Arrivals, guess: _Guess, keep: Mask) -> tuple[Arrivals, _Guess]:
    """The same without points that were not taken; nothing builds on those."""
    place = np.r_[np.cumsum(keep) - 1, NONE]
    arrivals = Arrivals(
        arrivals.taken[keep],
        arrivals.written[keep],
        arrivals.kind[keep],
        arrivals.run[keep],
        arrivals.run_ids,
        arrivals.runs,
        arrivals.follows[keep],
        arrivals.given[keep],
        int(np.count_nonzero(keep[: arrivals.opening])),
    )
    before = None if guess.before_log is None else place[guess.before_log][keep]
    return arrivals, _Guess(Chain(guess.chain.kinds[keep], place[guess.chain.parents][keep]), before)
