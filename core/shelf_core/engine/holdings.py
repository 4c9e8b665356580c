"""Holdings: which points of which workloads lie on which target."""

from collections.abc import Hashable, Iterator
from dataclasses import dataclass

from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.routes import Selection
from shelf_core.design.workloads import Workload
from shelf_core.engine.frame import Frame
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.engine.memory import Memory


@dataclass(frozen=True, eq=False)
class Holding:
    """The points of one copy for workloads that share its rules and the dates between which they run."""

    route: str
    copy: str
    target: int
    life: Lifecycle
    workloads: tuple[Workload, ...]

    def content(self) -> tuple[Hashable, ...]:
        """What totals depend on, as a key: the lifecycle and the workloads."""
        return (self.life, tuple(workload.model_dump_json() for workload in self.workloads))


def holdings_of(design: Design, frame: Frame, memory: Memory) -> list[Holding]:
    """All holdings of a design, in the order of its routes and copies.

    Raises DesignError, with the path of the cadence, when a run comes too often to be computed.
    """
    cadences = {cadence.id: (place, cadence) for place, cadence in enumerate(design.cadences)}
    ladders = {ladder.id: ladder for ladder in design.ladders}
    targets = {target.id: place for place, target in enumerate(design.targets)}
    index = _Index(design.workloads)
    found = []
    for route in design.routes:
        groups = list(_by_dates(index.selected(route.workloads)))
        for copy in route.copies:
            place, cadence = cadences[copy.cadence or ""]
            target = targets[copy.target]
            for (begins, ends), workloads in groups:
                try:
                    life = memory.lifecycle(
                        cadence=cadence,
                        ladder=ladders[copy.ladder or ""],
                        sweep=copy.sweep,
                        shared=design.targets[target].packing == "shared",
                        frame=frame,
                        begins=begins,
                        ends=ends,
                    )
                except ValueError as error:
                    raise DesignError([Fault(("cadences", place), str(error))]) from None
                found.append(Holding(route.id, copy.id, target, life, workloads))
    return found


class _Index:
    """Workloads by id and by tag, so that many routes over many workloads stay quick."""

    def __init__(self, workloads: list[Workload]) -> None:
        self._workloads = workloads
        self._by_id = {workload.id: place for place, workload in enumerate(workloads)}
        self._by_tag: dict[str, list[int]] = {}
        for place, workload in enumerate(workloads):
            for tag in workload.tags:
                self._by_tag.setdefault(tag, []).append(place)

    def selected(self, selection: Selection) -> list[Workload]:
        places = {self._by_id[name] for name in selection.ids}
        for tag in selection.tags:
            places.update(self._by_tag.get(tag, ()))
        return [self._workloads[place] for place in sorted(places)]


Dates = tuple[str | None, str | None]


def _by_dates(workloads: list[Workload]) -> Iterator[tuple[Dates, tuple[Workload, ...]]]:
    groups: dict[Dates, list[Workload]] = {}
    for workload in workloads:
        groups.setdefault((workload.from_, workload.until), []).append(workload)
    for dates, members in groups.items():
        yield dates, tuple(members)
