"""Arrivals: what is brought to a copy, before any rule of the copy decides (docs/model.md, Copies of copies)."""

import hashlib
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Instants, Mask, Places
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.calendar.zones import local_second
from shelf_core.design.cadences import Cadence
from shelf_core.design.document import Opening
from shelf_core.design.routes import Take, TakeKinds, TakeRungs, TakeRuns
from shelf_core.design.values import bytes_of
from shelf_core.engine.retention.lifecycle import CopyLife
from shelf_core.engine.retention.parents import NONE, OWN, Parents
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL, Frame
from shelf_core.engine.schedule.kinds import FULL, INCREMENTAL, LOG, SNAPSHOT, Kinds, is_one_of, kind_number
from shelf_core.engine.schedule.runs import Runs

OPENING_RUN = "opening"

ComesAs = Literal["taken", "change", "snapshot"]
"""What a point comes to a copy as that follows another: as what it was taken; what is copied off snapshot space as a change on
the copy's own chain; to snapshot space as a snapshot.
"""


@dataclass(frozen=True, eq=False)
class Arrivals:
    """What a copy would write, in the order of writing: one array element per point.

    `kind` is what it would be if its parent is there. `runs` are the instants at which the copy is swept for having run.
    `follows` is the place of the parent among the arrivals where the source decides it (NONE: it has none here), OWN where
    the copy's own chain does. `given` is the stored size that opening stock came with, NaN for all else; the first
    `opening` points were there when the design starts.
    """

    taken: Instants
    written: Instants
    kind: Kinds
    run: Places
    run_ids: tuple[str, ...]
    runs: Instants
    follows: Parents
    given: Bytes
    opening: int = 0

    def __len__(self) -> int:
        return len(self.taken)

    def digest(self) -> bytes:
        """The same for arrivals that say the same, whatever they were found from."""
        found = hashlib.blake2b(repr((len(self), len(self.runs), self.run_ids, self.opening)).encode(), digest_size=16)
        for column in (self.taken, self.written, self.kind, self.run, self.runs, self.follows, self.given):
            found.update(column.tobytes())
        return found.digest()


def from_runs(runs: Runs, cadence: Cadence) -> Arrivals:
    """The points of a first copy: taken and written by the runs of its cadence."""
    return _own_chain(runs.instants, runs, runs, cadence)


def read_at_runs(source: CopyLife, runs: Runs, cadence: Cadence, not_taken: Mask) -> Arrivals:
    """A copy with its own cadence: each run reads the newest point, no log, that is on the source at that instant.

    A run finds nothing new when the copy has ever had that point or a newer one. `not_taken` are the runs that could not
    take what they found (logs without a parent).
    """
    newest = np.where(not_taken, -1, _newest_there(source, runs.instants))
    had = np.concatenate([[-1], np.maximum.accumulate(newest)])[:-1]
    new = newest > had
    points = np.flatnonzero(source.points.kind != LOG)
    by_taken = points[np.argsort(source.points.taken[points], kind="stable")]
    arrived = Runs(runs.instants[new], runs.kind[new], runs.run[new])
    return _own_chain(source.points.taken[by_taken[newest[new]]], arrived, runs, cadence)


def _own_chain(taken: Instants, arrived: Runs, runs: Runs, cadence: Cadence) -> Arrivals:
    run_ids = tuple(run.id for run in cadence.runs)
    follows, given = np.full(len(taken), OWN, np.int64), np.full(len(taken), np.nan)
    return Arrivals(taken, arrived.instants, arrived.kind, arrived.run, run_ids, runs.instants, follows, given)


def _newest_there(source: CopyLife, instants: Instants) -> Places:
    """The rank by `taken`, among the points that are no logs, of the newest one on the source at each instant; -1: none."""
    countable = source.points.kind != LOG
    order = np.argsort(source.points.taken[countable], kind="stable")
    written, there_until = source.points.written[countable][order], source.there_until[countable][order]
    if np.any(np.diff(written) < 0):
        return _newest_in_any_order(written, there_until, instants)
    newest = np.searchsorted(written, instants, side="right") - 1
    while True:
        gone = np.flatnonzero((newest >= 0) & (np.append(there_until, AFTER_ALL)[newest] < instants))
        if len(gone) == 0:
            return newest
        newest[gone] -= 1


def _newest_in_any_order(written: Instants, there_until: Instants, instants: Instants) -> Places:
    newest = np.full(len(instants), -1, np.int64)
    for place, instant in enumerate(instants.tolist()):
        there = np.flatnonzero((written <= instant) & (there_until >= instant))
        newest[place] = there[-1] if len(there) else -1
    return newest


def following(source: CopyLife, take: Take | None, delay: Duration, frame: Frame, comes_as: ComesAs) -> Arrivals:
    """A copy that follows: each point that it takes arrives so long after it was written on the source, if it is there then."""
    points = source.points
    if isinstance(take, TakeRungs):
        wanted, leaves = _picked(source, take.rungs)
    else:
        wanted = np.flatnonzero(_taken_by(source, take))
        leaves = points.written[wanted]
    mine = wanted >= source.opening
    wanted, leaves = wanted[mine], leaves[mine]
    arrival = add_to_instants(leaves, delay, frame.zone)
    order = np.lexsort((wanted, points.taken[wanted], arrival))
    wanted, arrival = wanted[order], arrival[order]
    within = arrival < frame.end
    wanted, arrival = wanted[within], arrival[within]
    still_there = source.there_until[wanted] >= arrival
    arrived, written = wanted[still_there], arrival[still_there]
    kind = points.kind[arrived]
    place = np.full(len(points) + 1, NONE, np.int64)
    place[arrived] = np.arange(len(arrived))
    follows = place[points.parent[arrived]]
    if comes_as == "snapshot":
        follows = np.full(len(arrived), OWN, np.int64)
    elif isinstance(take, TakeRungs):
        kind = np.full(len(arrived), FULL, np.int8)
    elif comes_as == "change":
        kind = np.where(kind == SNAPSHOT, INCREMENTAL, kind).astype(np.int8)
        follows = np.full(len(arrived), OWN, np.int64)
    given = np.full(len(arrived), np.nan)
    return Arrivals(points.taken[arrived], written, kind, points.run[arrived], points.run_ids, arrival, follows, given)


class Stock(NamedTuple):
    """The points that are on a copy when the design starts, in the order in which they were taken.

    `given` are the stored sizes that they came with, NaN where none was given; `said` is the same as the document has it.
    """

    taken: Instants
    kind: Kinds
    given: Bytes
    said: tuple[str, ...]


NO_STOCK = Stock(np.zeros(0, np.int64), np.zeros(0, np.int8), np.zeros(0), ())


def stock_of(points: list[Opening], frame: Frame) -> Stock:
    """The opening stock of a copy, for one workload."""
    taken = frame.zone.instants(np.array([local_second(point.taken) for point in points], np.int64))
    order = np.argsort(taken, kind="stable")
    kind = np.array([kind_number(points[place].kind) for place in order], np.int8)
    given = np.array([np.nan if points[place].size is None else bytes_of(points[place].size or 0) for place in order])
    said = tuple(point.model_dump_json(exclude={"route", "copy_", "workload"}) for point in points)
    return Stock(taken[order], kind, given, said)


def with_opening(arrived: Arrivals, stock: Stock) -> Arrivals:
    """The arrivals with the points before them that are there when the design starts; their parents follow from their order."""
    taken, kind, given, said = stock
    count = len(said)
    if not count:
        return arrived
    return Arrivals(
        np.r_[taken, arrived.taken],
        np.r_[taken, arrived.written],
        np.r_[kind, arrived.kind].astype(np.int8),
        np.r_[np.full(count, len(arrived.run_ids)), arrived.run],
        (*arrived.run_ids, OPENING_RUN),
        arrived.runs,
        np.r_[np.full(count, OWN), np.where(arrived.follows >= 0, arrived.follows + count, arrived.follows)],
        np.r_[given, arrived.given],
        count,
    )


def _taken_by(source: CopyLife, take: Take | None) -> Mask:
    points = source.points
    if isinstance(take, TakeKinds):
        return is_one_of(points.kind, *map(kind_number, take.kinds))
    if isinstance(take, TakeRuns):
        return np.isin(points.run, [place for place, name in enumerate(points.run_ids) if name in take.runs])
    return np.ones(len(points), bool)


def _picked(source: CopyLife, rungs: list[str]) -> tuple[Places, Instants]:
    """What one of the rungs picked, and when that is known: at once, or at the midnight that ends the period.

    What two rungs picked counts from when the first of them knew.
    """
    leaves = np.full(len(source.points), AFTER_ALL, np.int64)
    for name in rungs:
        known = source.known_at[name]
        leaves = np.where(known == BEFORE_ALL, leaves, np.minimum(leaves, known))
    wanted = np.flatnonzero(leaves < AFTER_ALL)
    return wanted, leaves[wanted]
