"""Routes and copies with all that they refer to, before any point is looked at.

Each copy has its rules, runs and targets at hand; the workloads of a route stand in groups that nothing tells apart for its
copies. What follows looks up no id and reads no text of the document.
"""

from collections import defaultdict
from collections.abc import Hashable, Iterator
from typing import NamedTuple

from shelf_core.design.cadences import Cadence
from shelf_core.design.document import Design, Opening
from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.replicas import is_replica
from shelf_core.design.routes import Copy, Route, Selection, StepDown, Take, TakeRungs
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.memory import Memory
from shelf_core.engine.retention.arrivals import ComesAs, Stock, stock_of
from shelf_core.engine.retention.holds import standing
from shelf_core.engine.retention.keys import Ruled, Window, rules_key, runs_key
from shelf_core.engine.retention.lives import Circumstances, CopyRules
from shelf_core.engine.retention.moves import StageRules, TargetTraits
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.runs import Runs, runs_of


class Group(NamedTuple):
    """Workloads of a route that share dates, holds, parts and opening stock, which is given by copy."""

    window: Window
    circumstances: Circumstances
    stock: dict[str, Stock]
    workloads: tuple[Workload, ...]


class CopyRuns(NamedTuple):
    """When a copy runs: its cadence, and the runs of it through the design."""

    cadence: Cadence
    runs: Runs


class ResolvedCopy(NamedTuple):
    """A copy with all that it refers to.

    `source` is the copy that it takes from (None: it takes its points itself), `own` what it runs by (None: it follows its
    source). `targets` are the places, in the design, of its own target and those of its step-downs.
    """

    id: str
    ruled: Ruled
    own: CopyRuns | None
    source: str | None
    take: Take | None
    delay: str
    comes_as: ComesAs
    targets: tuple[int, ...]


class ResolvedRoute(NamedTuple):
    """A route: its workloads in groups, and its copies in their order."""

    id: str
    groups: tuple[Group, ...]
    copies: tuple[ResolvedCopy, ...]


def resolved_routes(design: Design, frame: Frame, memory: Memory) -> list[ResolvedRoute]:
    """All routes, in the order of the design.

    Raises DesignError, with the path of the copy, when a run of it comes more often than the engine computes.
    """
    parts = _Parts(design, frame, memory)
    return [
        ResolvedRoute(route.id, tuple(parts.groups(route)), tuple(parts.copies(route, at)))
        for at, route in enumerate(design.routes)
    ]


class _Parts:
    """The parts of a design by id, workloads by tag as well, so that many routes over many workloads stay quick."""

    def __init__(self, design: Design, frame: Frame, memory: Memory) -> None:
        workloads = design.workloads
        self._frame, self._memory = frame, memory
        self._cadences = {cadence.id: cadence for cadence in design.cadences}
        self._ladders = {ladder.id: ladder for ladder in design.ladders}
        self._targets = {target.id: target for target in design.targets}
        self._places = {target.id: place for place, target in enumerate(design.targets)}
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

    def copies(self, route: Route, at: int) -> Iterator[ResolvedCopy]:
        """The copies of a route, which is the one `at` its place in the design."""
        for place, copy in enumerate(route.copies):
            comes_as, rules = self._comes_as(copy, route), self._rules(copy, route)
            targets = tuple(self._places[target] for target in (copy.target, *(step.target for step in copy.step_downs)))
            try:
                own = self._runs(copy)
            except ValueError as error:
                raise DesignError([Fault(("routes", at, "copies", place), str(error))]) from None
            ruled = Ruled(rules, rules_key(rules))
            yield ResolvedCopy(copy.id, ruled, own, copy.from_, copy.take, copy.delay or "PT0S", comes_as, targets)

    def _rules(self, copy: Copy, route: Route) -> CopyRules:
        target = self._targets[copy.target]
        stages = tuple(self._stage(self._targets[step.target], step) for step in copy.step_downs)
        on_snapshots, replica = target.media == "snapshot", is_replica(copy, target)
        traits = TargetTraits(target.packing == "shared", target.lock != "none", on_snapshots, replica)
        ladder = self._ladders[copy.ladder] if copy.ladder is not None else None
        return CopyRules(ladder, copy.rotation, copy.lock, copy.sweep, traits, stages, taken_rungs=_taken_rungs(copy, route))

    def _runs(self, copy: Copy) -> CopyRuns | None:
        if copy.cadence is None:
            return None
        cadence = self._cadences[copy.cadence]
        return CopyRuns(cadence, self._memory.get(runs_key(cadence, self._frame), lambda: runs_of(cadence, self._frame)))

    def _comes_as(self, copy: Copy, route: Route) -> ComesAs:
        source = next((other for other in route.copies if other.id == copy.from_), None)
        if source is None:
            return "taken"
        if self._targets[copy.target].media == "snapshot":
            return "snapshot"
        return "change" if self._targets[source.target].media == "snapshot" else "taken"

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
            opening = self._opening.get((route.id, first.id), {})
            stock = {copy: stock_of(points, self._frame) for copy, points in opening.items()}
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


def _taken_rungs(copy: Copy, route: Route) -> frozenset[str]:
    """The rungs of a copy that others take from."""
    takes = (other.take for other in route.copies if other.from_ == copy.id)
    return frozenset(name for take in takes if isinstance(take, TakeRungs) for name in take.rungs)
