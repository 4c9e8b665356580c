"""What the bytes of a restore pass: from where a point lies, over the way, to the place where it is put."""

from collections.abc import Iterator
from dataclasses import dataclass

from shelf_core.design.document import Design
from shelf_core.design.links import Link
from shelf_core.design.targets import Target
from shelf_core.design.values import bytes_per_second_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.schedule.frame import Frame
from shelf_core.nights.fair import Constraint
from shelf_core.nights.resources import Leg
from shelf_core.nights.ways import Hop, way_between
from shelf_core.nights.windows import Capacity, capacity_of


@dataclass(frozen=True)
class Passage:
    """From where to where a restore goes: read by a device (None: the workload's own storage), put at a site.

    `written` are the bytes that are written for each that is read.
    """

    workload: Workload
    device: Target | None
    place: str
    written: float

    @property
    def begins(self) -> str:
        """The site at which it is read."""
        return self.workload.site if self.device is None else self.device.site


class Passages:
    """All that restores share, each with a place, a label and what it carries through time."""

    def __init__(self, design: Design, frame: Frame, lost_sites: frozenset[str] = frozenset()) -> None:
        self._sites = {site.id: site for site in design.sites}
        self._links: list[Link] = [link for link in design.links if not lost_sites.intersection(link.sites)]
        self._has_links = bool(design.links)
        self._frame = frame
        self._places: dict[str, int] = {}
        self.capacities: list[Capacity] = []
        self._of_links: dict[str, Capacity | None] = {}
        self._ways: dict[tuple[str, str], tuple[Hop, ...] | None] = {}

    def way(self, begins: str, ends: str) -> tuple[Hop, ...] | None:
        """The way between two sites over what is left of the lines; None for no way."""
        if (begins, ends) not in self._ways:
            no_line = self._has_links and not self._links and begins != ends
            self._ways[begins, ends] = None if no_line else way_between(self._links, begins, ends)
        return self._ways[begins, ends]

    def leg(self, passage: Passage) -> Leg:
        """What each byte that is read passes."""
        named = [
            *self._ends(passage),
            *self._hops(passage),
            *self._shared(f"site {passage.place} write", self._sites[passage.place].write_speed, passage.written),
            *self._networks(passage),
        ]
        return Leg(tuple(constraint for _, constraint in named), tuple(label for label, _ in named))

    def at(self, instant: float) -> list[float]:
        """What each resource carries from an instant on."""
        return [one.at(instant) for one in self.capacities]

    def next_change(self, instant: float) -> float | None:
        """When one of them carries another amount next."""
        changes = [one.next_change(instant) for one in self.capacities if one.changes]
        return min((one for one in changes if one is not None), default=None)

    def _ends(self, passage: Passage) -> Iterator[tuple[str, Constraint]]:
        workload, device = passage.workload, passage.device
        yield from _own("machine", workload.write_speed, passage.written)
        if device is None:
            yield from _own("machine", workload.read_speed, 1.0)
            yield from self._shared(f"site {workload.site} read", self._sites[workload.site].read_speed, 1.0)
            return
        yield from self._shared(f"target {device.id} read", device.read_speed, 1.0)
        yield from _own(f"stream of {device.id}", device.stream_speed, 1.0)

    def _hops(self, passage: Passage) -> Iterator[tuple[str, Constraint]]:
        for hop in self.way(passage.begins, passage.place) or ():
            name = f"link {hop.link.id}" if hop.link.shared else f"link {hop.link.id} {hop.begin}-{hop.end}"
            if hop.link.id not in self._of_links:
                self._of_links[hop.link.id] = capacity_of(hop.link, self._frame)
            capacity = self._of_links[hop.link.id]
            if capacity is not None:
                yield name, Constraint(self._place(name, capacity), 1.0)
            yield from _own(f"stream of link {hop.link.id}", hop.link.stream_speed, 1.0)

    def _networks(self, passage: Passage) -> Iterator[tuple[str, Constraint]]:
        for name in dict.fromkeys((passage.begins, passage.place)):
            yield from self._shared(f"site {name} network", self._sites[name].network, 1.0)

    def _shared(self, label: str, speed: str | float | None, amount: float) -> Iterator[tuple[str, Constraint]]:
        if speed is not None and amount > 0:
            yield label, Constraint(self._place(label, Capacity([], [bytes_per_second_of(speed)])), amount)

    def _place(self, label: str, capacity: Capacity) -> int:
        if label not in self._places:
            self._places[label] = len(self.capacities)
            self.capacities.append(capacity)
        return self._places[label]


def _own(label: str, speed: str | float | None, amount: float) -> Iterator[tuple[str, Constraint]]:
    if speed is not None and amount > 0:
        yield label, Constraint(None, bytes_per_second_of(speed) / amount)
