"""Points of one workload as they lie on one stage of a copy, and from when until when each can be restored there."""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Mask, Places
from shelf_core.design.routes import Copy, Lock
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.retention.parents import NONE
from shelf_core.engine.schedule.kinds import DIFFERENTIAL, INCREMENTAL, LOG
from shelf_core.engine.volume.pieces import separate_bytes
from shelf_core.engine.volume.sizes import machine_bytes
from shelf_core.forecast.forecast import Forecast
from shelf_core.proof.arrived import Arrivals, Ended, as_written


@dataclass(eq=False)
class Lying:
    """The points of a workload on a stage of a copy, in the order of their lifecycle.

    A point that is no log can be restored at an instant t if `ready` < t <= `gone`: itself and all that it goes back to have
    come and are there. Of a log that is so of the log alone: those that lead to it are looked at when it is asked for.
    `parent` is what each builds on, where that did not come the newest earlier point that did.
    """

    number: int
    holding: Holding
    copy: Copy
    workload: Workload
    target: Target
    ready: Bytes
    gone: Bytes
    parent: Places

    @cached_property
    def is_log(self) -> Mask:
        """Which points are logs."""
        return self.holding.life.stored_as == LOG

    @cached_property
    def taken(self) -> Places:
        """When each was taken."""
        return self.holding.life.taken

    @cached_property
    def log_begins(self) -> Places:
        """For each log the point that it begins at: its parent, if that is none; NONE for all else."""
        parent = self.holding.life.parent
        begins = self.is_log & (parent != NONE)
        begins[begins] = ~self.is_log[parent[begins]]
        return np.where(begins, parent, NONE)

    @cached_property
    def log_before(self) -> Places:
        """For each log the one that it goes on from: its parent, or the newest log before its parent; NONE for all else."""
        life = self.holding.life
        found = np.where(self.is_log & (self.log_begins == NONE), life.parent, NONE)
        logs = np.flatnonzero(self.is_log)
        logs = logs[np.argsort(life.taken[logs], kind="stable")]
        begin = np.flatnonzero(self.log_begins != NONE)
        at = np.searchsorted(life.taken[logs], life.taken[self.log_begins[begin]], side="right") - 1
        before = np.where(at >= 0, logs[np.maximum(at, 0)], NONE)
        found[begin] = np.where(before == begin, NONE, before)
        return found

    @cached_property
    def links(self) -> tuple[dict[int, int], dict[int, int]]:
        """Each log with the one that goes on from it, and each point with the first log after it."""
        logs = np.flatnonzero(self.is_log)
        logs = logs[np.argsort(self.taken[logs], kind="stable")]
        follows = {int(self.log_before[log]): log for log in logs.tolist() if self.log_before[log] != NONE}
        first = {int(self.log_begins[log]): log for log in reversed(logs.tolist()) if self.log_begins[log] != NONE}
        return follows, first

    @property
    def beside_source(self) -> bool:
        """Whether they are snapshots on the source's own storage, which go with it; a replica elsewhere is a copy."""
        return self.target.media == "snapshot" and not self.holding.life.replica

    def there(self, instant: float) -> Mask:
        """Which can be restored at an instant, logs each by itself."""
        return (self.ready < instant) & (instant <= self.gone)

    def chain(self, place: int) -> list[int]:
        """The places of all that a restore of a point reads on its target, itself last; on shared packing itself alone."""
        found = [place]
        if self.target.packing == "shared" or self.target.media == "snapshot":
            return found
        stored_as = self.holding.life.stored_as
        while stored_as[found[-1]] in (DIFFERENTIAL, INCREMENTAL) and self.parent[found[-1]] != NONE:
            found.append(int(self.parent[found[-1]]))
        return found[::-1]


def locks_of(copy: Copy, stage: int) -> list[Lock]:
    """The locks of a copy's points on a stage: its own, or those of the step-down that brought them there."""
    return list(copy.lock if stage == 0 else copy.step_downs[stage - 1].lock)


@dataclass(frozen=True)
class StageGrounds:
    """What the stretches of a workload on a stage rest on: its target and locks by value, `objects` by being the same.

    `beside` and `lives_beside` are the workloads and points of all that is written to the same target.
    """

    target: Target
    locks: list[Lock]
    objects: list[Any]
    beside: list[Workload]
    lives_beside: list[Lifecycle]


class LazyLyings(Mapping[str, list[Lying]]):
    """The stages of all copies that have points of each workload, found when they are asked for."""

    def __init__(self, result: Forecast, arrivals: Arrivals) -> None:
        self._result, self._arrivals = result, arrivals
        self._copies = {(route.id, copy.id): copy for route in result.design.routes for copy in route.copies}
        self._run_ends: dict[tuple[str, str], tuple[Bytes, Bytes]] = {}
        self._found: dict[str, list[Lying]] = {}
        self._holdings: dict[str, list[tuple[int, Holding]]] = {one.id: [] for one in result.design.workloads}
        for number, holding in enumerate(result.holdings):
            for workload in holding.workloads:
                self._holdings[workload.id].append((number, holding))
        # Of those that nothing holds up all come and go alike.
        self._alike: dict[tuple[int, int | None], _Stretches] = {}
        self._workloads = {one.id: one for one in result.design.workloads}
        self._of_copy: dict[tuple[str, str], list[Holding]] = {}
        self._objects: dict[tuple[str, str], list[Any]] = {}
        for holding in result.holdings:
            self._of_copy.setdefault((holding.route, holding.copy), []).append(holding)
        self._stages = {
            (one.route, one.copy, one.stage, workload.id): one for one in result.holdings for workload in one.workloads
        }

    def __len__(self) -> int:
        return len(self._holdings)

    def __iter__(self) -> Iterator[str]:
        return iter(self._holdings)

    def __getitem__(self, workload: str) -> list[Lying]:
        if workload not in self._found:
            whole = self._workloads[workload]
            self._found[workload] = [self._lying(number, holding, whole) for number, holding in self._holdings[workload]]
        return self._found[workload]

    def grounds(self, workload: str) -> Iterator[StageGrounds]:
        """What all that is said of a workload's points rests on, stage by stage."""
        for _, holding in self._holdings[workload]:
            copy, target = self._copies[holding.route, holding.copy], self._result.design.targets[holding.target]
            locks = locks_of(copy, holding.stage)
            beside = [one for one in self._result.holdings if one.target == holding.target] if target.media == "tape" else []
            workloads = [one for other in beside for one in other.workloads]
            yield StageGrounds(target, locks, self._objects_of(holding), workloads, [one.life for one in beside])

    def _objects_of(self, holding: Holding) -> list[Any]:
        """Points of a copy and when they came: what a run removes stays until all transfers of the run have ended."""
        key = (holding.route, holding.copy)
        if key not in self._objects:
            of_copy = self._of_copy[key]
            ended = [self._arrivals.followed(one, workload) for one in of_copy for workload in one.workloads]
            self._objects[key] = [*(one.life for one in of_copy), *(part for one in ended if one is not None for part in one)]
        return self._objects[key]

    def _lying(self, number: int, holding: Holding, workload: Workload) -> Lying:
        stage = _Stage(holding, self._result.design.targets[holding.target])
        next_stage = self._stages.get((holding.route, holding.copy, holding.stage + 1, workload.id))
        ended = self._arrivals.followed(holding, workload)
        moved = None if next_stage is None else self._arrivals.followed(next_stage, workload)
        key = (number, None if next_stage is None else id(next_stage))
        is_alike = ended is None and moved is None
        if not is_alike or key not in self._alike:
            moves = None if next_stage is None else _Moves(next_stage, moved or as_written(next_stage))
            stretches = _stretches_of(stage, ended or as_written(holding), moves, self._ends_of_runs(holding))
            if is_alike:
                self._alike[key] = stretches
        else:
            stretches = self._alike[key]
        return Lying(number, holding, self._copies[holding.route, holding.copy], workload, stage.target, *stretches)

    def _ends_of_runs(self, holding: Holding) -> tuple[Bytes, Bytes]:
        key = (holding.route, holding.copy)
        if key not in self._run_ends:
            self._run_ends[key] = _run_ends(self._of_copy[key], self._arrivals)
        return self._run_ends[key]


def lying_of(result: Forecast, arrivals: Arrivals) -> dict[str, list[Lying]]:
    """All stages of all copies that have points of each workload, by workload in the order of the document."""
    return dict(LazyLyings(result, arrivals))


def _run_ends(holdings: Sequence[Holding], arrivals: Arrivals) -> tuple[Bytes, Bytes]:
    """The instants at which a copy writes, and when all transfers of each are over."""
    pairs: list[tuple[Bytes, Bytes]] = []
    for holding in holdings:
        if holding.stage == 0:
            written = as_written(holding).over
            followed = [one for workload in holding.workloads if (one := arrivals.followed(holding, workload)) is not None]
            some = [written] if len(followed) < len(holding.workloads) else []
            pairs += [(written, over) for over in (*some, *(one.over for one in followed))]
    written, over = (np.concatenate(column) for column in zip(*pairs, strict=True))
    instants, which = np.unique(written, return_inverse=True)
    latest = np.full(len(instants), -math.inf)
    np.maximum.at(latest, which, over)
    return instants, latest


class _Stage(NamedTuple):
    holding: Holding
    target: Target


class _Moves(NamedTuple):
    to: Holding
    ended: Ended


class _Stretches(NamedTuple):
    ready: Bytes
    gone: Bytes
    parent: Places


def _stretches_of(stage: _Stage, ended: Ended, moves: _Moves | None, run_ends: tuple[Bytes, Bytes]) -> _Stretches:
    """From when until when each point can be restored, and what each builds on."""
    holding, target = stage.holding, stage.target
    life = holding.life
    gone = life.removed.astype(float)
    # What a run's sweep removes can be restored until that run's transfers have ended.
    instants, over = run_ends
    at = np.minimum(np.searchsorted(instants, gone), len(instants) - 1)
    by_a_run = instants[at] == gone
    gone[by_a_run] = np.maximum(gone[by_a_run], over[at][by_a_run])
    if moves is not None:
        _wait_for_the_move(gone, holding, moves.to, moves.ended.came)
    parent = _parents_that_came(life.parent, life.taken, ended.came, life.stored_as == LOG)
    ready = ended.came.copy()
    if target.packing != "shared" and target.media != "snapshot":
        builds = np.isin(life.stored_as, (INCREMENTAL, DIFFERENTIAL))
        on = np.where(builds, parent, NONE)
        # All that a point goes back to, two links in one from round to round.
        while (on != NONE).any():
            some = np.flatnonzero(on != NONE)
            ready[some], gone[some] = np.maximum(ready[some], ready[on[some]]), np.minimum(gone[some], gone[on[some]])
            on = np.where(on == NONE, NONE, on[np.maximum(on, 0)])
    return _Stretches(ready, gone, parent)


def _wait_for_the_move(gone: Bytes, holding: Holding, next_stage: Holding, came: Bytes) -> None:
    """Until it has come to the next stage a point can be restored from the one it leaves; for good, if it never comes."""
    at = np.full(int(max(holding.life.place.max(initial=0), next_stage.life.place.max(initial=0))) + 1, NONE, np.int64)
    at[holding.life.place] = np.arange(len(holding.life))
    here = at[next_stage.life.place]
    known = here != NONE
    moved_on = holding.life.moved_on[here[known]] <= next_stage.life.written[known]
    gone[here[known][moved_on]] = np.maximum(gone[here[known][moved_on]], came[known][moved_on])


def _parents_that_came(parent: Places, taken: Places, came: Bytes, is_log: Mask) -> Places:
    """What each point goes back to: where its parent never came, the newest earlier point of the chain that did, or of all."""
    missing = np.flatnonzero((parent != NONE) & ~is_log & np.isinf(came[np.maximum(parent, 0)]))
    if not len(missing):
        return parent
    found = parent.copy()
    for place in missing.tolist():
        on = int(parent[place])
        while on != NONE and math.isinf(came[on]):
            on = int(parent[on])
        if on == NONE:
            earlier = np.flatnonzero(~is_log & ~np.isinf(came) & (taken < taken[place]))
            on = int(earlier[np.argmax(taken[earlier])]) if len(earlier) else NONE
        found[place] = on
    return found


class Sizes:
    """What restores read and write, for one machine."""

    def __init__(self, result: Forecast) -> None:
        self._result = result
        self._stored: dict[tuple[int, str], Bytes] = {}

    def stored(self, lying: Lying) -> Bytes:
        """The bytes of each point as it is stored by itself."""
        key = (lying.number, lying.workload.id)
        if key not in self._stored:
            sizes = separate_bytes(lying.holding.life, (lying.workload,), self._result.frame)
            self._stored[key] = sizes / lying.workload.count
        return self._stored[key]

    def source(self, workload: Workload, taken: int) -> float:
        """What the source of one machine held when a point was taken."""
        return float(machine_bytes(workload, np.array([taken]), self._result.frame)[0])


def logs_after(lying: Lying, there: Mask) -> Iterator[tuple[int, list[int]]]:
    """For each point that is there and no log, the unbroken chain of logs from it on, over newer points."""
    follows, first = lying.links
    for place in np.flatnonzero(there & ~lying.is_log).tolist():
        chain = []
        log = first.get(place, NONE)
        while log != NONE and there[log]:
            chain.append(log)
            log = follows.get(log, NONE)
        yield place, chain
