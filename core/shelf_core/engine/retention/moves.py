"""Moves: when points step down to a colder target (docs/model.md, Step-downs)."""

from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants, Mask
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.design.routes import StepDown
from shelf_core.design.values import duration_of
from shelf_core.engine.retention.claims import Claims
from shelf_core.engine.retention.lifecycle import HoldClaim
from shelf_core.engine.retention.parents import NONE, Parents
from shelf_core.engine.retention.removals import first_sweep_from
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL, Frame
from shelf_core.engine.schedule.kinds import FULL, LOG, SYNTHETIC, Kinds, is_one_of


class StageRules(NamedTuple):
    """A step-down with what its target is like: `shared` packing, the days it bills at least, whether it can lock."""

    step: StepDown
    shared: bool
    minimum_days: int
    locks: bool = True

    @property
    def asks_for_a_stay(self) -> bool:
        """Whether what would not stay for the days that are billed at least does not move."""
        return bool(self.minimum_days and self.step.skip_if_short)


class Known(NamedTuple):
    """What is known of a copy's points before any of them moves; all arrays in the order of writing.

    `until` is the end of what the ladder claims, `held` what holds claim beside it.
    """

    taken: Instants
    written: Instants
    kind: Kinds
    claims: Claims
    until: Instants
    held: tuple[HoldClaim, ...]

    def windows(self) -> list[tuple[Instants, Instants]]:
        """Begin and end of each stretch of time in which something claims each point; empty ones end at BEFORE_ALL."""
        held = [(np.full(len(self.taken), claim.begins), np.where(claim.points, claim.ends, BEFORE_ALL)) for claim in self.held]
        return [(self.written, self.until), *held]

    def claimed_at(self, instants: Instants) -> Mask:
        """Whether each point is claimed at its instant."""
        found = np.zeros(len(self.taken), bool)
        for begins, ends in self.windows():
            found |= (begins <= instants) & (instants < ends)
        return found

    def released_after(self, instants: Instants) -> Instants:
        """When each point that is claimed at its instant first stops being claimed."""
        ends = instants.copy()
        windows = sorted(self.windows(), key=lambda window: int(window[0].max(initial=0)))
        for _ in windows:
            for begins, stops in windows:
                ends = np.where((begins <= ends) & (ends < stops), stops, ends)
        return ends


class TargetTraits(NamedTuple):
    """What a target is like for the points on it: `shared` packing, whether it can lock, snapshot space.

    `replica` where what comes to snapshot space are replicas of snapshots elsewhere.
    """

    shared: bool
    locks: bool = True
    snapshots: bool = False
    replica: bool = False

    @property
    def loose(self) -> bool:
        """Whether no chain is ever in use here, since no point needs another."""
        return self.shared or self.snapshots


class OnTarget(NamedTuple):
    """How points lie on a stage: when each came there (AFTER_ALL for never), its parent there, and what the target is like.

    `gone` is when each that is known to have left by itself did so, AFTER_ALL for all others: it moves on only until then.
    """

    arrived: Instants
    gone: Instants
    parents: Parents
    traits: TargetTraits


def moves_of(known: Known, before: OnTarget, sweeps: Instants, stage: StageRules, frame: Frame) -> Instants:
    """When each point moves on from the stage before, AFTER_ALL if never."""
    age = add_to_instants(known.taken, duration_of(stage.step.after), frame.zone)
    earliest = np.maximum(np.maximum(age, _superseded(known, loose=before.traits.loose)), before.arrived)
    if stage.step.as_ == "chain":
        return _chains(known, earliest, before, sweeps, stage, frame)
    move = np.full(len(known.taken), AFTER_ALL, np.int64)
    for begins, ends in _windows(known, stage.step):
        # What would not stay long enough at the first sweep of a claim would not at its later ones; a later claim may do.
        at = first_sweep_from(sweeps, np.maximum(earliest, begins))
        at = np.where((at < ends) & (at <= before.gone), at, AFTER_ALL)
        if stage.asks_for_a_stay:
            at = np.where(_stays_long_enough(known.released_after(at), at, stage, frame), at, AFTER_ALL)
        move = np.minimum(move, at)
    move[known.kind == LOG] = AFTER_ALL
    return move


def _superseded(known: Known, *, loose: bool) -> Instants:
    """When a newer full or synthetic (on loose ground any newer point) has been written, AFTER_ALL if never."""
    counts = known.kind != LOG if loose else is_one_of(known.kind, FULL, SYNTHETIC)
    order = np.argsort(known.taken, kind="stable")
    arrived = np.where(counts, known.written, AFTER_ALL)[order]
    first_later = np.append(np.minimum.accumulate(arrived[::-1])[::-1], AFTER_ALL)[1:]
    found = np.empty_like(first_later)
    found[order] = first_later
    return found


def _windows(known: Known, step: StepDown) -> list[tuple[Instants, Instants]]:
    """The stretches of time in which each point is claimed by what the step-down goes by."""
    if step.which == "all":
        return known.windows()
    names = list(known.claims.picks) if step.which == "rungs" else step.which
    picks = known.claims.picks
    return [(np.maximum(picks[name].decided, known.written), known.claims.ends[name]) for name in names]


def _stays_long_enough(released: Instants, move: Instants, stage: StageRules, frame: Frame) -> Mask:
    """Whether what moves is claimed for the days that the target bills at least."""
    if not stage.asks_for_a_stay:
        return np.ones(len(move), bool)
    moving = move < AFTER_ALL
    enough = np.ones(len(move), bool)
    enough[moving] = released[moving] >= add_to_instants(move[moving], Duration(0, stage.minimum_days, 0), frame.zone)
    return enough


def _chains(known: Known, earliest: Instants, before: OnTarget, sweeps: Instants, stage: StageRules, frame: Frame) -> Instants:
    """Chains move as a whole: what is claimed, with all that this needs, once the youngest of it may."""
    move = np.full(len(known.taken), AFTER_ALL, np.int64)
    chain = _roots(before.parents)
    left = before.arrived < AFTER_ALL
    not_before = np.full(len(move), BEFORE_ALL, np.int64)
    while left.any():
        chains = _Chains(chain, left, before.arrived, before.gone, earliest, not_before)
        now, goes = _next_moves(known, chains, sweeps)
        last = np.full(len(now), BEFORE_ALL, np.int64)
        np.maximum.at(last, chain[goes], known.released_after(now)[goes])
        moved = np.where(goes & _stays_long_enough(last[chain], np.where(goes, now, AFTER_ALL), stage, frame), now, AFTER_ALL)
        going = left & _with_ancestors(moved < AFTER_ALL, before.parents)
        # A chain that would not stay long enough is looked at again when something claims more of it.
        short = ~chains.none_of(goes & (moved == AFTER_ALL))
        again = np.where(short, _next_claim(known, chains, now), BEFORE_ALL)
        if not going.any() and not (again > BEFORE_ALL).any():
            break
        goes_at = np.full(len(move), AFTER_ALL, np.int64)
        np.minimum.at(goes_at, chain, moved)
        move[going] = goes_at[chain[going]]
        left &= ~going
        # What was left behind may yet follow, when a hold claims it.
        not_before = np.maximum(np.where(goes_at < AFTER_ALL, goes_at + 1, not_before), again)
    return move


class _Chains(NamedTuple):
    """The root of each point's chain, which of them are left to move, when each came and had gone, from when each may go.

    `not_before` is for each chain, at the place of its root, when it may move again.
    """

    root: Parents
    left: Mask
    arrived: Instants
    gone: Instants
    earliest: Instants
    not_before: Instants

    def none_of(self, chosen: Mask) -> Mask:
        """Whether each chain, at the place of its root, has none of the chosen points."""
        none = np.ones(len(self.root), bool)
        none[self.root[chosen]] = False
        return none


def _next_moves(known: Known, chains: _Chains, sweeps: Instants) -> tuple[Instants, Mask]:
    """For each point the first sweep at which all of its chain that is claimed may go, and whether it is claimed then."""
    at = np.full(len(chains.root), AFTER_ALL, np.int64)
    np.minimum.at(at, chains.root[chains.left], chains.arrived[chains.left])
    at = first_sweep_from(sweeps, np.maximum(at, chains.not_before))
    while True:
        now = at[chains.root]
        claimed = chains.left & known.claimed_at(now) & (chains.arrived <= now) & (now <= chains.gone)
        waiting = claimed & (chains.earliest > now)
        later = np.full(len(at), BEFORE_ALL, np.int64)
        np.maximum.at(later, chains.root[waiting], np.minimum(chains.earliest, known.released_after(now))[waiting])
        later = np.where(chains.none_of(claimed), _next_claim(known, chains, now), later)
        following = np.where(later > at, first_sweep_from(sweeps, later), at)
        if np.array_equal(following, at):
            return now, claimed & (now < AFTER_ALL)
        at = following


def _next_claim(known: Known, chains: _Chains, now: Instants) -> Instants:
    """When something begins to claim a point of each chain that is here; BEFORE_ALL if that does not come."""
    soonest = np.full(len(now), AFTER_ALL, np.int64)
    for claims_from, ends in known.windows():
        # A hold that was placed before a point came claims it once it is here.
        begins = np.maximum(claims_from, chains.arrived)
        hopes = chains.left & (begins > now) & (ends > begins)
        np.minimum.at(soonest, chains.root[hopes], begins[hopes])
    return np.where(soonest < AFTER_ALL, soonest, BEFORE_ALL)


def _roots(parents: Parents) -> Parents:
    """The place of the point that each chain goes back to."""
    root = np.where(parents == NONE, np.arange(len(parents)), parents)
    while True:
        further = root[root]
        if np.array_equal(further, root):
            return root
        root = further


def _with_ancestors(chosen: Mask, parents: Parents) -> Mask:
    found = chosen.copy()
    ancestor = np.where(found, parents, NONE)
    while True:
        new = np.unique(ancestor[ancestor != NONE])
        new = new[~found[new]]
        if len(new) == 0:
            return found
        found[new] = True
        ancestor = parents[new]
