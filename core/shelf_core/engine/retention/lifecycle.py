"""The life of all points of one copy, computed once for all workloads that share its rules."""

from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from typing import Any, NamedTuple, TypeVar

import numpy as np

from shelf_core.arrays import Bytes, Instants, Mask, Places
from shelf_core.engine.retention.parents import Parents
from shelf_core.engine.retention.removals import with_what_needs_it
from shelf_core.engine.schedule.frame import BEFORE_ALL
from shelf_core.engine.schedule.kinds import Kinds

T = TypeVar("T")


class HoldClaim(NamedTuple):
    """A claim from `begins` to before `ends` on the points of a mask: a hold, or what a log has from the point before it."""

    label: str
    begins: int
    ends: int
    points: Mask


@dataclass(frozen=True, eq=False)
class Lifecycle:
    """The points of a copy on one of its targets in the order in which they came there, one array element per point.

    `written` is when a point came (by a write on the copy's own target, by a move on that of a step-down, see `moved_in`),
    `kind` what it was taken as, `stored_as` what it lies there as. `removed` is the sweep at which it goes (AFTER_ALL when that
    is not foreseen), `parent` the place of what it builds on (-1 for none), `needs_parent` whether it cannot be there without
    it, `claims` the end of each rule's claim, `held` what holds claim, `locked` the end of its own lock (BEFORE_ALL for none),
    `moved_on` when it went on to the next stage and so stopped being claimed here (AFTER_ALL for never), `given` its stored
    size where one was given, else NaN. `place` is where each point stands among those of the copy's own target. Under a
    rotation `tape_set` is the set that each lies on, and `written_over` whether it goes at the write that its set is used
    for next. `replica` where they are replicas of snapshots, of which the newest is there in full.
    """

    taken: Instants
    written: Instants
    kind: Kinds
    stored_as: Kinds
    run: Places
    run_ids: tuple[str, ...]
    parent: Parents
    needs_parent: Mask
    removed: Instants
    claims: dict[str, Instants]
    held: tuple[HoldClaim, ...]
    locked: Instants
    moved_on: Instants
    given: Bytes
    place: Places
    moved_in: bool = False
    tape_set: Places | None = None
    written_over: Mask | None = None
    replica: bool = False

    def locked_at(self, instant: int) -> Instants:
        """The end of each point's lock as it stands just before an instant: its own, or that of what needs it by then."""
        own = np.where(self.written < instant, self.locked, BEFORE_ALL)
        return with_what_needs_it(own, self.parent, self.needs_parent)

    def claims_at(self, instant: int) -> dict[str, Mask]:
        """Which points each rule claims just before an instant, by the rule's label."""
        found = {label: ends >= instant for label, ends in self.claims.items()}
        for claim in self.held:
            if claim.begins < instant <= claim.ends:
                found[claim.label] = found.get(claim.label, np.zeros(len(self), bool)) | claim.points
        return found

    def claimed_until(self) -> Instants:
        """The latest end of what claims each point."""
        until = np.maximum.reduce(list(self.claims.values()))
        for claim in self.held:
            until = np.where(claim.points, np.maximum(until, claim.ends), until)
        return until

    def __len__(self) -> int:
        return len(self.taken)


@dataclass(frozen=True, eq=False)
class CopyLife:
    """The points of a copy: on its own target and on that of each step-down.

    `there_until` says until when each point is anywhere on the copy, `known_at` by rung, of those that others take, when it
    is known that the rung picked it (BEFORE_ALL where it did not), `opening` how many of the points were there when the design
    starts.
    """

    stages: tuple[Lifecycle, ...]
    there_until: Instants
    known_at: dict[str, Instants]
    opening: int
    _known: dict[Hashable, Any] = field(default_factory=dict)

    def once(self, key: Hashable, compute: Callable[[], T]) -> T:
        """What is computed from these points alone, whatever workloads they are of, computed once."""
        if key not in self._known:
            self._known[key] = compute()
        found: T = self._known[key]
        return found

    @property
    def points(self) -> Lifecycle:
        """The points as they lie on the copy's own target."""
        return self.stages[0]
