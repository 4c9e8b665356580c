"""The workloads of a route in groups that nothing tells apart for its copies, and the parts of a design by id."""

from collections import defaultdict
from collections.abc import Hashable, Iterator
from typing import NamedTuple

from shelf_core.design.document import Design, Opening
from shelf_core.design.replicas import is_replica
from shelf_core.design.routes import Copy, Route, Selection, StepDown
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.holds import standing
from shelf_core.engine.retention.keys import Window
from shelf_core.engine.retention.lives import Circumstances, CopyRules
from shelf_core.engine.retention.moves import StageRules, TargetTraits
from shelf_core.engine.schedule.frame import Frame

Stock = dict[str, tuple[Opening, ...]]
"""Opening stock by copy."""


class Group(NamedTuple):
    """Workloads of a route that share dates, holds, parts and opening stock."""

    window: Window
    circumstances: Circumstances
    stock: Stock
    workloads: tuple[Workload, ...]


class DesignParts:
    """The parts of a design by id, workloads by tag as well, so that many routes over many workloads stay quick."""

    def __init__(self, design: Design, frame: Frame) -> None:
        workloads = design.workloads
        self.cadences = {cadence.id: cadence for cadence in design.cadences}
        self._ladders = {ladder.id: ladder for ladder in design.ladders}
        self.targets = {target.id: target for target in design.targets}
        self.places = {target.id: place for place, target in enumerate(design.targets)}
        self._workloads = workloads
        self._by_id = {workload.id: place for place, workload in enumerate(workloads)}
        self._by_tag: dict[str, list[int]] = {}
        for place, workload in enumerate(workloads):
            for tag in workload.tags:
                self._by_tag.setdefault(tag, []).append(place)
        self._holds = [(standing(hold, frame), set(self._selected(hold.workloads))) for hold in design.holds]
        self._opening: dict[tuple[str, str], dict[str, list[Opening]]] = defaultdict(lambda: defaultdict(list))
        for point in design.opening:
            self._opening[point.route, point.workload][point.copy_].append(point)

    def rules(self, copy: Copy) -> CopyRules:
        """The rules of a copy with all that it refers to."""
        target = self.targets[copy.target]
        stages = tuple(self._stage(self.targets[step.target], step) for step in copy.step_downs)
        on_snapshots, replica = target.media == "snapshot", is_replica(copy, target)
        traits = TargetTraits(target.packing == "shared", target.lock != "none", on_snapshots, replica)
        ladder = self._ladders[copy.ladder] if copy.ladder is not None else None
        return CopyRules(ladder, copy.rotation, copy.lock, copy.sweep, traits, stages)

    @staticmethod
    def _stage(target: Target, step: StepDown) -> StageRules:
        return StageRules(step, target.packing == "shared", target.minimum_days, target.lock != "none")

    def groups(self, route: Route) -> Iterator[Group]:
        """The workloads of a route, those together that nothing tells apart for its copies."""
        found: dict[Hashable, list[int]] = {}
        for place in self._selected(route.workloads):
            found.setdefault(self._what_tells_apart(route, place), []).append(place)
        for places in found.values():
            first = self._workloads[places[0]]
            holds = tuple(hold for hold, held in self._holds if places[0] in held and hold.begins < hold.ends)
            stock = {copy: tuple(points) for copy, points in self._opening.get((route.id, first.id), {}).items()}
            circumstances = Circumstances(tuple(first.members), holds)
            yield Group((first.from_, first.until), circumstances, stock, tuple(self._workloads[place] for place in places))

    def _what_tells_apart(self, route: Route, place: int) -> Hashable:
        workload = self._workloads[place]
        members = tuple(member.model_dump_json() for member in workload.members)
        holds = tuple(at for at, (_, held) in enumerate(self._holds) if place in held)
        stock = self._opening.get((route.id, workload.id), {})
        opening = tuple(
            (copy, tuple(point.model_dump_json(exclude={"workload"}) for point in points)) for copy, points in stock.items()
        )
        return (workload.from_, workload.until, members, holds, opening)

    def _selected(self, selection: Selection) -> list[int]:
        """The places of the workloads that a selection names, each once, in the order of the document."""
        places = {self._by_id[name] for name in selection.ids}
        for tag in selection.tags:
            places.update(self._by_tag.get(tag, ()))
        return sorted(places)
