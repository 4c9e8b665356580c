"""Streams: how many transfers a target has at once, and who gets a free one."""

import heapq
from typing import NamedTuple

from shelf_core.design.document import Design
from shelf_core.design.targets import Target
from shelf_core.nights.transfers import NONE, Lane

Needs = tuple[str, ...]
"""What a transfer takes one of: streams of targets, and the drive of its media set."""


class Rank(NamedTuple):
    """Who comes first among those that wait: the lowest."""

    priority: int
    asked: float
    copy: tuple[int, int]
    workload: int
    machine: int
    is_step_down: bool
    taken: int
    number: int


class Streams:
    """The free streams of all targets, and what waits for some. A media set of a tape target has one drive at a time."""

    def __init__(self, design: Design) -> None:
        self._targets = design.targets
        self._copies = {
            (route.id, copy.id): (at, place)
            for at, route in enumerate(design.routes)
            for place, copy in enumerate(route.copies)
        }
        self._free = {target.id: streams for target in design.targets if (streams := streams_of(target)) is not None}
        self._queues: dict[Needs, list[Rank]] = {}
        self._needs: dict[tuple[int, int, int], Needs] = {}
        self._columns: dict[int, tuple[list[int], list[int]]] = {}

    def queue(self, lane: Lane, machine: int, point: int, asked: float, number: int) -> None:
        """A transfer waits for its streams."""
        copy = self._copies[lane.route.id, lane.copy.id]
        taken = int(lane.taken[point])
        rank = Rank(lane.priority, asked, copy, lane.order, machine, lane.stage > 0, taken, number)
        heapq.heappush(self._queues.setdefault(self._needs_of(lane, point), []), rank)

    def next_that_fits(self) -> int | None:
        """The first by rank of those whose streams are free, which it takes; what does not fit blocks no other."""
        if not self._queues:
            return None
        fitting = [(queue[0], needs) for needs, queue in self._queues.items() if all(self._is_free(name) for name in needs)]
        if not fitting:
            return None
        rank, needs = min(fitting)
        heapq.heappop(self._queues[needs])
        if not self._queues[needs]:
            del self._queues[needs]
        for name in needs:
            self._free[name] = self._free.get(name, 1) - 1
        return rank.number

    def give_back(self, lane: Lane, point: int) -> None:
        """The streams of a transfer are free again."""
        for name in self._needs_of(lane, point):
            self._free[name] += 1

    def _is_free(self, name: str) -> bool:
        return self._free.get(name, 1) > 0

    def _needs_of(self, lane: Lane, point: int) -> Needs:
        columns = self._columns.get(lane.first)
        if columns is None:
            columns = self._columns[lane.first] = (lane.source_target.tolist(), lane.tape_set.tolist())
        source, tape_set = columns[0][point], columns[1][point]
        key = (lane.first, source, tape_set)
        if key not in self._needs:
            targets = [lane.target, *([self._targets[source]] if source != NONE else [])]
            found = list(dict.fromkeys(target.id for target in targets if target.id in self._free))
            if lane.target.media == "tape":
                found.append(f"{lane.target.id}\n{lane.route.id}\n{lane.copy.id}\n{lane.stage}\n{tape_set}")
            self._needs[key] = tuple(found)
        return self._needs[key]


def streams_of(target: Target) -> int | None:
    """How many transfers a target has at once: its streams, of a tape library else its drives; None for any number.

    What comes to snapshot space or is read there takes none.
    """
    if target.media == "snapshot":
        return None
    return target.streams if target.streams is not None else target.drives
