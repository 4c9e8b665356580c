"""Arrivals: what is brought to a copy, before any rule of the copy decides (docs/model.md, Copies of copies)."""

from dataclasses import dataclass

import numpy as np

from shelf_core.calendar.arithmetic import Duration, add_to_instants
from shelf_core.calendar.zones import Seconds
from shelf_core.design.cadences import Cadence
from shelf_core.design.routes import Take, TakeKinds, TakeRungs, TakeRuns
from shelf_core.engine.frame import Frame
from shelf_core.engine.kinds import LOG, Kinds, kind_number
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.engine.parents import NONE, Parents
from shelf_core.engine.runs import Runs


@dataclass(frozen=True, eq=False)
class Arrivals:
    """What a copy would write, in order: one array element per point.

    `kind` is what it would be if its parent is there. `runs` are the instants at which the copy is swept for having run.
    `follows` is the place of the parent among the arrivals where the source decides it, or None where the copy has a
    chain of its own.
    """

    taken: Seconds
    written: Seconds
    kind: Kinds
    run: Seconds
    run_ids: tuple[str, ...]
    runs: Seconds
    follows: Parents | None


def from_runs(runs: Runs, cadence: Cadence) -> Arrivals:
    """The points of a first copy: taken and written by the runs of its cadence."""
    run_ids = tuple(run.id for run in cadence.runs)
    return Arrivals(runs.instants, runs.instants, runs.kind, runs.run, run_ids, runs.instants, None)


def read_at_runs(source: Lifecycle, runs: Runs, cadence: Cadence) -> Arrivals:
    """A copy with its own cadence: each run reads the newest point, no log, that is on the source at that instant.

    A run finds nothing new when the copy has ever had that point or a newer one.
    """
    points = np.flatnonzero(source.kind != LOG)
    newest = np.searchsorted(source.written[points], runs.instants, side="right") - 1
    while True:
        gone = np.flatnonzero((newest >= 0) & (source.removed[points][newest] < runs.instants))
        if len(gone) == 0:
            break
        newest[gone] -= 1
    had = np.r_[-1, np.maximum.accumulate(newest)[:-1]][: len(newest)]
    new = newest > had
    run_ids = tuple(run.id for run in cadence.runs)
    taken = source.taken[points][newest[new]]
    return Arrivals(taken, runs.instants[new], runs.kind[new], runs.run[new], run_ids, runs.instants, None)


def following(source: Lifecycle, take: Take | None, delay: Duration, frame: Frame) -> Arrivals:
    """A copy that follows: each point that it takes arrives so long after it was written on the source, if it is there then.

    Raises ValueError when the delay would bring points in another order than they were taken in.
    """
    wanted = np.flatnonzero(_taken_by(source, take))
    arrival = add_to_instants(source.written[wanted], delay, frame.zone)
    within = arrival < frame.end
    wanted, arrival = wanted[within], arrival[within]
    if np.any(np.diff(arrival) < 0):
        raise ValueError("not computed yet: a delay that brings points in another order than they were taken in")
    still_there = source.removed[wanted] >= arrival
    place = np.full(len(source) + 1, NONE, np.int64)
    place[wanted[still_there]] = np.arange(np.count_nonzero(still_there))
    came = wanted[still_there]
    return Arrivals(
        source.taken[came],
        arrival[still_there],
        source.kind[came],
        source.run[came],
        source.run_ids,
        arrival,
        place[source.parent[came]],
    )


def _taken_by(source: Lifecycle, take: Take | None) -> np.ndarray:
    if isinstance(take, TakeKinds):
        return np.isin(source.kind, [kind_number(name) for name in take.kinds])
    if isinstance(take, TakeRuns):
        return np.isin(source.run, [place for place, name in enumerate(source.run_ids) if name in take.runs])
    if isinstance(take, TakeRungs):
        raise NotImplementedError("what rungs picked is refused before it comes here")
    return np.ones(len(source), bool)
