"""Holdings: which points of which workloads lie on which target."""

from collections import defaultdict
from collections.abc import Callable, Hashable, Iterator
from dataclasses import dataclass, field
from functools import partial
from typing import Any, NamedTuple, TypeVar

from shelf_core.design.document import Design, Opening
from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.routes import Copy, Route, Selection, StepDown
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.frame import Frame
from shelf_core.engine.holds import standing
from shelf_core.engine.lifecycle import CopyLife, Lifecycle
from shelf_core.engine.lives import Circumstances, CopyRules
from shelf_core.engine.memory import CopyMaker, Memory, Window
from shelf_core.engine.moves import Ground, StageRules
from shelf_core.engine.watching import MOST_POINTS, Watch, nobody

T = TypeVar("T")
Stock = dict[str, tuple[Opening, ...]]
"""Opening stock by copy."""


@dataclass(frozen=True, eq=False)
class Holding:
    """The points of one copy on one of its targets, for workloads that share its rules and all that bears on them.

    `stage` is 0 for the copy's own target, 1 for that of its first step-down, and so on; `whole` the copy over all stages.
    """

    route: str
    copy: str
    target: int
    stage: int
    whole: CopyLife
    workloads: tuple[Workload, ...]
    _known: dict[str, Any] = field(default_factory=dict)

    def once(self, name: str, compute: Callable[[], T]) -> T:
        """What is computed from this holding alone, computed once: the next forecast meets the same holding again."""
        if name not in self._known:
            self._known[name] = compute()
        found: T = self._known[name]
        return found

    @property
    def life(self) -> Lifecycle:
        """The points on this target."""
        return self.whole.stages[self.stage]

    def of(self, workload: Workload) -> "Holding":
        """The same points for one of the workloads alone."""
        return Holding(self.route, self.copy, self.target, self.stage, self.whole, (workload,))


class Group(NamedTuple):
    """Workloads of a route that share dates, holds, parts and opening stock."""

    window: Window
    about: Circumstances
    stock: Stock
    workloads: tuple[Workload, ...]


def days_beyond(design: Design) -> int:
    """How far past its end a design must be computed, so that every release that a step-down asks for is foreseen.

    Twice the longest minimum stay: claims within it may hang on moves that are decided within it.
    """
    minimum = {target.id: target.minimum_days for target in design.targets}
    steps = [step for route in design.routes for copy in route.copies for step in copy.step_downs if step.skip_if_short]
    return 2 * max((minimum[step.target] for step in steps), default=0)


def holdings_of(design: Design, frame: Frame, memory: Memory, watch: Watch = nobody) -> list[Holding]:
    """All holdings of a design, in the order of its routes, copies and stages. `frame` reaches as far as is foreseen.

    `watch` is told after each route how many are done, of all routes and targets. Raises DesignError, with the path of the
    copy, when its points cannot be computed or are more than MOST_POINTS with those before.
    """
    parts = _Parts(design, frame)
    found: list[Holding] = []
    points = 0
    for at, route in enumerate(design.routes):
        for group in parts.groups(route):
            maker = CopyMaker(memory, frame, group.window, group.about)
            who = tuple(workload.model_dump_json() for workload in group.workloads)
            lives: dict[str, CopyLife] = {}
            for place, copy in enumerate(route.copies):
                try:
                    whole = lives[copy.id] = _life(copy, group.stock.get(copy.id, ()), route, lives, parts, maker)
                    points = _within_limit(points + sum(len(stage) for stage in whole.stages))
                except ValueError as error:
                    raise DesignError([Fault(("routes", at, "copies", place), str(error))]) from None
                for stage, target in enumerate([copy.target, *(step.target for step in copy.step_downs)]):
                    lies = (route.id, copy.id, parts.places[target], stage, whole)
                    found.append(memory.get(("holding", *lies, who), partial(Holding, *lies, group.workloads)))
        watch(at + 1, len(design.routes) + len(design.targets))
    return found


def _within_limit(points: int) -> int:
    if points > MOST_POINTS:
        raise ValueError(f"expected at most {MOST_POINTS:,} points in a design, got {points:,} up to this copy")
    return points


def _life(
    copy: Copy, stock: tuple[Opening, ...], route: Route, lives: dict[str, CopyLife], parts: "_Parts", maker: CopyMaker
) -> CopyLife:
    rules = parts.rules(copy)
    if copy.from_ is None:
        return maker.first_copy(parts.cadences[copy.cadence or ""], rules, stock)
    source = lives[copy.from_]
    if copy.cadence is not None:
        return maker.reading_copy(source, parts.cadences[copy.cadence], rules, stock)
    source_copy = next(other for other in route.copies if other.id == copy.from_)
    off_snapshots = parts.targets[source_copy.target].media == "snapshot"
    return maker.following_copy(source, copy.take, copy.delay or "PT0S", rules, stock, off_snapshots=off_snapshots)


class _Parts:
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
        ground = Ground(target.packing == "shared", target.media == "snapshot")
        ladder = self._ladders[copy.ladder] if copy.ladder is not None else None
        return CopyRules(ladder, copy.rotation, copy.lock, copy.sweep, ground, stages)

    @staticmethod
    def _stage(target: Target, step: StepDown) -> StageRules:
        return StageRules(step, target.packing == "shared", target.minimum_days)

    def groups(self, route: Route) -> Iterator[Group]:
        """The workloads of a route, those together that nothing tells apart for its copies."""
        found: dict[Hashable, list[int]] = {}
        for place in self._selected(route.workloads):
            found.setdefault(self._what_tells_apart(route, place), []).append(place)
        for places in found.values():
            first = self._workloads[places[0]]
            holds = tuple(hold for hold, held in self._holds if places[0] in held and hold.begins < hold.ends)
            stock = {copy: tuple(points) for copy, points in self._opening.get((route.id, first.id), {}).items()}
            about = Circumstances(tuple(first.members), holds)
            yield Group((first.from_, first.until), about, stock, tuple(self._workloads[place] for place in places))

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
