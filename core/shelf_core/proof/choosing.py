"""From which point a workload is restored: the newest moment that is reached wins (docs/model.md, Restores)."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Mask
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.design.cadences import KINDS
from shelf_core.design.targets import Target
from shelf_core.design.values import duration_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.volume.sizes import behaviour_of, changed_sum, scale_of
from shelf_core.nights.resources import Leg
from shelf_core.nights.transfers import PRIORITY
from shelf_core.proof.cases import World
from shelf_core.proof.lying import Lying, Sizes, logs_after
from shelf_core.proof.passing import Passage, Passages
from shelf_core.proof.restoring import Job, carry_out

NOTHING_LEFT = "nothing is left"
NO_WAY_OR_DRIVE = "no way or no drive"
PLACE_LOST = "the place is lost"


@dataclass(frozen=True, eq=False)
class Candidate:
    """A point with the logs after it, and the moment that they reach."""

    lying: Lying
    place: int
    logs: tuple[int, ...]
    moment: int

    @property
    def kind(self) -> str:
        """What the point was taken as."""
        return KINDS[int(self.lying.holding.life.kind[self.place])]

    @property
    def reads(self) -> list[int]:
        """The places of all that is read."""
        return [*self.lying.chain(self.place), *self.logs]


@dataclass(frozen=True)
class Found:
    """What there is of a workload: candidates that reach the newest moment, and how many moments there are in all."""

    newest: list[Candidate]
    moments: int


def candidates_of(lying: Lying, left: Mask, asked: int) -> tuple[list[Candidate], set[int]]:
    """All points of a stage from which a moment can be reached, and all moments there are."""
    life, found, moments = lying.holding.life, [], set[int]()
    if not lying.is_log.any():
        places = np.flatnonzero(left & (life.taken <= asked))
        return [Candidate(lying, int(place), (), int(life.taken[place])) for place in places], set(life.taken[places].tolist())
    for place, chain in logs_after(lying, left):
        taken = int(life.taken[place])
        if taken > asked:
            continue
        logs: list[int] = []
        for log in chain:
            reached = taken if not logs else int(life.taken[logs[-1]])
            if reached >= asked:
                break
            logs.append(log)
        moment = min(int(life.taken[logs[-1]]), asked) if logs else taken
        found.append(Candidate(lying, place, tuple(logs), moment))
        moments.add(taken)
        moments.update(int(life.taken[log]) for log in chain if life.taken[log] <= asked)
    return found, moments


def found_of(world: World, lyings: Sequence[Lying]) -> Found:
    """The newest moment of a workload that can be restored, whatever the way."""
    everything: list[Candidate] = []
    moments: set[int] = set()
    for lying in lyings:
        some, of_stage = candidates_of(lying, world.restorable(lying), world.asked)
        everything += some
        moments |= of_stage
    newest = max((one.moment for one in everything), default=None)
    return Found([one for one in everything if one.moment == newest], len(moments))


@dataclass(frozen=True, eq=False)
class Choice:
    """What a workload is restored from, and how its machines do it."""

    candidate: Candidate
    jobs: list[Job]
    read_bytes: float
    leaves_site: bool


class Chooser:
    """Chooses what each workload is restored from, and makes the work of its machines. `in_place` as a plan says it.

    `sizes` are those of the same forecast, where they are known from before.
    """

    def __init__(
        self,
        world: World,
        lyings: Mapping[str, list[Lying]],
        passages: Passages,
        *,
        in_place: bool = False,
        sizes: Sizes | None = None,
    ) -> None:
        self.world, self.lyings, self.passages, self.in_place = world, lyings, passages, in_place
        self.sizes = Sizes(world.result) if sizes is None else sizes
        self._orders = {workload.id: place for place, workload in enumerate(world.design.workloads)}

    def choose(self, workload: Workload, place: str) -> Choice | str:
        """What a workload is restored from at a place, or why it cannot be."""
        if place in self.world.after.lost_sites:
            return PLACE_LOST
        everything = [
            one
            for lying in self.lyings[workload.id]
            for one in candidates_of(lying, self.world.restorable(lying), self.world.asked)[0]
        ]
        if not everything:
            return NOTHING_LEFT
        for moment in sorted({one.moment for one in everything}, reverse=True):
            tied = [one for one in everything if one.moment == moment]
            reachable = [choice for one in tied if (choice := self.choice(one, place)) is not None]
            if reachable:
                return self.soonest(reachable)
        return NO_WAY_OR_DRIVE

    def soonest(self, choices: list[Choice]) -> Choice:
        """Of several the one that would be back first, if its machines ran alone from now; else the first of the document."""
        if len(choices) == 1:
            return choices[0]
        ends = [self._alone(one) for one in choices]
        first = min(ends)
        return choices[next(at for at, end in enumerate(ends) if end <= first + 1e-3 or end == first)]

    def _alone(self, choice: Choice) -> float:
        again = self.choice(choice.candidate, choice.jobs[0].place)
        if again is None:
            return math.inf
        now = float(self.world.instant)
        self.wait(again, now)
        return carry_out(again.jobs, self.passages, now)

    def wait(self, choice: Choice, begin: float) -> None:
        """Fetching and thawing are asked for at an instant."""
        for job in choice.jobs:
            target = choice.candidate.lying.target
            fetched = begin
            if job.needs_fetch and target.fetch is not None:
                fetched = self._after(begin, target.fetch)
                job.fetched = fetched
            if target.thaw is not None:
                job.thawed = self._after(fetched, target.thaw)

    def _after(self, begin: float, length: str) -> float:
        whole = math.floor(begin)
        zone = self.world.result.frame.zone
        return float(add_to_instants(np.array([whole]), duration_of(length), zone)[0]) + (begin - whole)

    def choice(self, candidate: Candidate, place: str) -> "Choice | None":
        """How a candidate would be restored at a place; None where no way leads there, or no drive is left for it."""
        lying, workload = candidate.lying, candidate.lying.workload
        if lying.target.media == "snapshot":
            return self._from_snapshot(candidate, place) if lying.beside_source else self._from_replica(candidate, place)
        jobs = []
        read, written = self._amounts(candidate)
        for machine in range(workload.count):
            tape = self._tape(candidate, machine, place)
            if tape is None:
                return None
            passage = Passage(workload, tape.device, place, written / read if read else 0.0)
            if self.passages.way(passage.begins, place) is None:
                return None
            job = self._job(workload, machine, self.passages.leg(passage), read, place)
            job.device, job.cartridges, job.needs_fetch = tape.device, tape.cartridges, tape.needs_fetch
            job.mount = 0.0 if tape.device.mount is None else float(duration_of(tape.device.mount).seconds)
            jobs.append(job)
        return Choice(candidate, jobs, read * workload.count, lying.target.site != place)

    def _from_snapshot(self, candidate: Candidate, place: str) -> "Choice | None":
        workload = candidate.lying.workload
        if place == workload.site:
            nothing = self.passages.leg(Passage(workload, None, place, 0.0))._replace(constraints=(), labels=())
            jobs = [self._job(workload, machine, nothing, 0.0, place) for machine in range(workload.count)]
            return Choice(candidate, jobs, 0.0, leaves_site=False)
        if self.passages.way(workload.site, place) is None:
            return None
        amount = self.sizes.source(workload, int(candidate.lying.taken[candidate.place]))
        leg = self.passages.leg(Passage(workload, None, place, 1.0))
        jobs = [self._job(workload, machine, leg, amount, place) for machine in range(workload.count)]
        return Choice(candidate, jobs, amount * workload.count, leaves_site=True)

    def _from_replica(self, candidate: Candidate, place: str) -> "Choice | None":
        """All of it, or in place what has changed since, is read where the replica lies, without a stream."""
        workload, target = candidate.lying.workload, candidate.lying.target
        if self.passages.way(target.site, place) is None:
            return None
        whole = self.sizes.source(workload, int(candidate.lying.taken[candidate.place]))
        amount = self._changed_since(workload, candidate.moment) if self.in_place else whole
        leg = self.passages.leg(Passage(workload, target, place, 1.0))
        jobs = [self._job(workload, machine, leg, amount, place) for machine in range(workload.count)]
        return Choice(candidate, jobs, amount * workload.count, leaves_site=target.site != place)

    def _job(self, workload: Workload, machine: int, leg: Leg, amount: float, place: str) -> Job:
        rank = (workload.priority or PRIORITY, self._orders[workload.id], machine)
        return Job(rank, leg, amount, place=place)

    def _amounts(self, candidate: Candidate) -> tuple[float, float]:
        """What one machine reads and what it writes."""
        lying, workload = candidate.lying, candidate.lying.workload
        taken = int(lying.taken[candidate.place])
        stored = self.sizes.stored(lying)
        logs = float(stored[list(candidate.logs)].sum())
        change_reduction = workload.change_reduction or workload.reduction
        whole = self.sizes.source(workload, taken)
        shared = lying.target.packing == "shared"
        read = whole / workload.reduction + logs if shared else float(stored[candidate.reads].sum())
        written = whole + logs * change_reduction
        if self.in_place:
            changed = self._changed_since(workload, candidate.moment)
            read = changed / change_reduction if shared else read
            written = changed
        return read, written

    def _changed_since(self, workload: Workload, moment: int) -> float:
        behaviour, frame = behaviour_of(workload, self.world.result.frame), self.world.result.frame
        change_reduction = workload.change_reduction or workload.reduction
        scale = scale_of(workload).change * change_reduction / workload.count
        since, now = np.array([moment]), np.array([self.world.instant])
        return float(changed_sum({behaviour: scale}, since, now, frame.begin)[0])

    def _tape(self, candidate: Candidate, machine: int, place: str) -> "_Tape | None":
        """What reads a machine's part: away cartridges a library at the place, else their own if it is left."""
        target, world = candidate.lying.target, self.world
        if target.media != "tape":
            return _Tape(target, (), needs_fetch=False)
        layout = world.after.layouts.of(target)
        numbers = [
            number
            for point in candidate.reads
            for number in layout.of(candidate.lying.number, candidate.lying.workload.id, point, machine)
        ]
        cartridges = tuple((target.id, number) for number in dict.fromkeys(numbers))
        away = any(layout.is_away(number, world.instant) for number in numbers)
        libraries = [one for one in world.design.targets if one.media == "tape" and one.id not in world.after.lost_targets]
        device: Target | None = target if target.id not in world.after.lost_targets else None
        if away:
            device = next((one for one in libraries if one.site == place), device)
        if device is None:
            return None
        stands_there = any(one.site == target.away_site for one in libraries)
        return _Tape(device, cartridges, needs_fetch=away and not stands_there)


@dataclass(frozen=True)
class _Tape:
    device: Target
    cartridges: tuple[tuple[str, int], ...]
    needs_fetch: bool
