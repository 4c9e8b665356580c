"""What transfers share, and what a transfer of each kind takes of it."""

import math
from collections.abc import Iterator
from typing import NamedTuple

from shelf_core.design.document import Design
from shelf_core.design.targets import Site, Target
from shelf_core.design.values import bytes_per_second_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.schedule.frame import Frame
from shelf_core.nights.fair import Constraint
from shelf_core.nights.ways import Hop, way_between
from shelf_core.nights.windows import Capacity, capacity_of

Speed = str | int | float | None


class Leg(NamedTuple):
    """What bytes pass, as constraints on their rate with the label of each, in the order in which those are named."""

    constraints: tuple[Constraint, ...]
    labels: tuple[str, ...]


class Ends(NamedTuple):
    """From where to where bytes go: from a workload or a target, to a target."""

    workload: Workload | None
    source: Target | None
    target: Target


class Resources:
    """All that transfers of a design share, each with a place, a label and what it carries through time."""

    def __init__(self, design: Design, frame: Frame) -> None:
        self._design = design
        self._sites = {site.id: site for site in design.sites}
        self._places: dict[str, int] = {}
        self.labels: list[str] = []
        self.capacities: list[Capacity] = []
        self._steady: list[float] = []
        self._varying: list[int] = []
        self._links = {link.id: capacity_of(link, frame) for link in design.links}
        self._ways: dict[tuple[str, str], tuple[Hop, ...] | None] = {}

    def way(self, ends: Ends) -> tuple[Hop, ...] | None:
        """The way between two ends; None for no way."""
        key = (_site_of(ends), ends.target.site)
        if key not in self._ways:
            self._ways[key] = way_between(self._design.links, *key)
        return self._ways[key]

    def capacities_at(self, instant: float) -> tuple[float, ...]:
        """What each resource carries from an instant on."""
        if len(self._steady) != len(self.capacities):
            self._steady = [one.speeds[0] for one in self.capacities]
            self._varying = [place for place, one in enumerate(self.capacities) if one.changes]
        for place in self._varying:
            self._steady[place] = self.capacities[place].at(instant)
        return tuple(self._steady)

    def next_change(self, used: set[int], instant: float) -> float:
        """When one of some resources carries another amount next; inf for never."""
        changes = [self.capacities[place].next_change(instant) for place in used if self.capacities[place].changes]
        return min((one for one in changes if one is not None), default=math.inf)

    def over_the_way(self, ends: Ends, unreduced: float, read: float = 1.0) -> Leg:
        """What moved bytes pass. Each takes `unreduced` times itself of reading a workload, `read` times of a target."""
        return _leg(
            [*self._reading(ends, unreduced, read), *self._links_of(ends), *self._writing(ends.target), *self._networks(ends)]
        )

    def within(self, target: Target) -> Leg:
        """What is read from a target and written to it at once."""
        read = self._shared(f"target {target.id} read", target.read_speed, 1.0)
        stream = _own(f"stream of {target.id}", target.stream_speed, 1.0)
        return _leg([*read, *stream, *self._shared(f"target {target.id} write", target.write_speed, 1.0)])

    def reading_back(self, target: Target) -> Leg:
        """What is read from a target to verify it."""
        read = self._shared(f"target {target.id} read", target.read_speed, 1.0)
        return _leg([*read, *_own(f"stream of {target.id}", target.stream_speed, 1.0)])

    def _reading(self, ends: Ends, unreduced: float, read: float) -> Iterator[tuple[str, Constraint]]:
        if ends.workload is not None:
            site = self._sites[ends.workload.site]
            yield from _own("machine", ends.workload.read_speed, unreduced)
            yield from self._shared(f"site {site.id} read", site.read_speed, unreduced)
        elif ends.source is not None:
            yield from self._shared(f"target {ends.source.id} read", ends.source.read_speed, read)
            yield from _own(f"stream of {ends.source.id}", ends.source.stream_speed, read)

    def _links_of(self, ends: Ends) -> Iterator[tuple[str, Constraint]]:
        for hop in self.way(ends) or ():
            name = f"link {hop.link.id}" if hop.link.shared else f"link {hop.link.id} {hop.begin}-{hop.end}"
            capacity = self._links[hop.link.id]
            if capacity is not None:
                yield name, Constraint(self._place(name, capacity), 1.0)
            yield from _own(f"stream of link {hop.link.id}", hop.link.stream_speed, 1.0)

    def _writing(self, target: Target) -> Iterator[tuple[str, Constraint]]:
        yield from self._shared(f"target {target.id} write", target.write_speed, 1.0)
        yield from _own(f"stream of {target.id}", target.stream_speed, 1.0)

    def _networks(self, ends: Ends) -> Iterator[tuple[str, Constraint]]:
        for name in dict.fromkeys((_site_of(ends), ends.target.site)):
            site: Site = self._sites[name]
            yield from self._shared(f"site {name} network", site.network, 1.0)

    def _shared(self, label: str, speed: Speed, amount: float) -> Iterator[tuple[str, Constraint]]:
        if speed is not None:
            yield label, Constraint(self._place(label, Capacity([], [bytes_per_second_of(speed)])), amount)

    def _place(self, label: str, capacity: Capacity) -> int:
        if label not in self._places:
            self._places[label] = len(self.labels)
            self.labels.append(label)
            self.capacities.append(capacity)
        return self._places[label]


def _own(label: str, speed: Speed, amount: float) -> Iterator[tuple[str, Constraint]]:
    """A limit of one transfer alone, of whose speed each byte takes `amount`."""
    if speed is not None and amount > 0:
        yield label, Constraint(None, bytes_per_second_of(speed) / amount)


def _site_of(ends: Ends) -> str:
    if ends.workload is not None:
        return ends.workload.site
    return (ends.source or ends.target).site


def _leg(named: list[tuple[str, Constraint]]) -> Leg:
    return Leg(tuple(constraint for _, constraint in named), tuple(label for label, _ in named))
