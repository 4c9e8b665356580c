"""Holdings: which points of which workloads lie on which target."""

from collections.abc import Hashable, Iterator
from dataclasses import dataclass

from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.routes import Copy, Selection
from shelf_core.design.workloads import Workload
from shelf_core.engine.frame import Frame
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.engine.lives import CopyRules
from shelf_core.engine.memory import Memory, Window


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

    Raises DesignError, with the path of the copy, when its points cannot be computed.
    """
    parts = _Parts(design)
    found = []
    for at, route in enumerate(design.routes):
        for window, workloads in _by_dates(parts.selected(route.workloads)):
            lives: dict[str, Lifecycle] = {}
            for place, copy in enumerate(route.copies):
                target = parts.targets[copy.target]
                shared = design.targets[target].packing == "shared"
                rules = CopyRules(parts.ladders[copy.ladder or ""], copy.lock, copy.sweep, shared)
                try:
                    lives[copy.id] = _lives(copy, rules, lives, window, parts, frame, memory)
                except ValueError as error:
                    raise DesignError([Fault(("routes", at, "copies", place), str(error))]) from None
                found.append(Holding(route.id, copy.id, target, lives[copy.id], workloads))
    return found


def _lives(
    copy: Copy, rules: CopyRules, lives: dict[str, Lifecycle], window: Window, parts: "_Parts", frame: Frame, memory: Memory
) -> Lifecycle:
    if copy.from_ is None:
        return memory.first_copy(parts.cadences[copy.cadence or ""], rules, window, frame)
    source = lives[copy.from_]
    if copy.cadence is None:
        return memory.following_copy(source, copy.take, copy.delay or "PT0S", rules, frame)
    return memory.reading_copy(source, parts.cadences[copy.cadence], rules, window, frame)


class _Parts:
    """The parts of a design by id, workloads by tag as well, so that many routes over many workloads stay quick."""

    def __init__(self, design: Design) -> None:
        workloads = design.workloads
        self.cadences = {cadence.id: cadence for cadence in design.cadences}
        self.ladders = {ladder.id: ladder for ladder in design.ladders}
        self.targets = {target.id: place for place, target in enumerate(design.targets)}
        self._workloads = workloads
        self._by_id = {workload.id: place for place, workload in enumerate(workloads)}
        self._by_tag: dict[str, list[int]] = {}
        for place, workload in enumerate(workloads):
            for tag in workload.tags:
                self._by_tag.setdefault(tag, []).append(place)

    def selected(self, selection: Selection) -> list[Workload]:
        """The workloads that a selection names, each once, in the order of the document."""
        places = {self._by_id[name] for name in selection.ids}
        for tag in selection.tags:
            places.update(self._by_tag.get(tag, ()))
        return [self._workloads[place] for place in sorted(places)]


def _by_dates(workloads: list[Workload]) -> Iterator[tuple[Window, tuple[Workload, ...]]]:
    groups: dict[Window, list[Workload]] = {}
    for workload in workloads:
        groups.setdefault((workload.from_, workload.until), []).append(workload)
    for dates, members in groups.items():
        yield dates, tuple(members)
