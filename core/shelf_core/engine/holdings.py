"""Holdings: which points of which workloads lie on which target."""

from collections import defaultdict
from collections.abc import Callable, Hashable, Iterator
from dataclasses import dataclass, field
from functools import partial
from typing import Any, NamedTuple, TypeVar

import numpy as np

from shelf_core.design.document import Design, Opening
from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.routes import Copy, Route, Selection, StepDown, TakeRungs
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.copies import Brought, CopyMaker
from shelf_core.engine.frame import Frame
from shelf_core.engine.holds import standing
from shelf_core.engine.keys import Window, holding_key
from shelf_core.engine.lifecycle import CopyLife, Lifecycle
from shelf_core.engine.lives import Circumstances, CopyRules
from shelf_core.engine.memory import Memory, bytes_of_all
from shelf_core.engine.moves import Ground, StageRules
from shelf_core.engine.watching import BYTES_TO_ADD_UP, MOST_BYTES, MOST_POINTS, Watch, nobody

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
    _known: dict[str, tuple[Hashable, Any]] = field(default_factory=dict)

    def once(self, name: str, compute: Callable[[], T], depends: Hashable = None) -> T:
        """What is computed from this holding and what it `depends` on beside, computed once.

        The next forecast meets the same holding again; what depends on something else then is computed anew.
        """
        if name not in self._known or self._known[name][0] != depends:
            self._known[name] = (depends, compute())
        found: T = self._known[name][1]
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
    size = _Size()
    for at, route in enumerate(design.routes):
        groups = [_InGroup(group, CopyMaker(memory, frame, group.window, group.about), {}) for group in parts.groups(route)]
        for place, copy in enumerate(route.copies):
            try:
                for group, life in zip(groups, _lives_on(copy, route, groups, parts), strict=True):
                    group.lives[copy.id] = life
                    size.add(life)
            except ValueError as error:
                raise DesignError([Fault(("routes", at, "copies", place), str(error))]) from None
        for group in groups:
            found += _holdings_of(group, route, parts, memory)
        watch(at + 1, len(design.routes) + len(design.targets))
    return found


class _InGroup(NamedTuple):
    """A group of workloads while the copies of its route are made, and what has been made of them."""

    group: Group
    maker: CopyMaker
    lives: dict[str, CopyLife]


def _holdings_of(group: _InGroup, route: Route, parts: "_Parts", memory: Memory) -> Iterator[Holding]:
    """The holdings of a group in the order of copies and stages."""
    who = tuple(workload.model_dump_json() for workload in group.group.workloads)
    for copy in route.copies:
        for stage, target in enumerate([copy.target, *(step.target for step in copy.step_downs)]):
            lies = (route.id, copy.id, parts.places[target], stage, group.lives[copy.id])
            yield memory.get(holding_key(*lies, who), partial(Holding, *lies, group.group.workloads))


class _Size:
    """How large a design is so far: points, and the memory that they take with all their claims."""

    def __init__(self) -> None:
        self._points, self._bytes = 0, 0

    def add(self, life: CopyLife) -> None:
        """Count the points of a copy. Raises ValueError when they are too many with those before."""
        points = sum(len(stage) for stage in life.stages)
        self._points += points
        self._bytes += bytes_of_all([life]) + BYTES_TO_ADD_UP * points
        if self._points > MOST_POINTS:
            raise ValueError(f"expected at most {MOST_POINTS:,} points in a design, got {self._points:,} up to this copy")
        if self._bytes > MOST_BYTES:
            raise ValueError(
                f"expected points that take at most {MOST_BYTES // 2**20} MB of memory with all that claims them, got more up "
                f"to this copy ({self._points:,} points): take fewer points, or let more copies share their rules"
            )


def _lives_on(copy: Copy, route: Route, groups: list[_InGroup], parts: "_Parts") -> Iterator[CopyLife]:
    """The points of a copy, group by group. Under a rotation all groups share the copy's sessions."""
    rules = parts.rules(copy)._replace(taken_rungs=_taken_rungs(copy, route))
    stocks = [one.group.stock.get(copy.id, ()) for one in groups]
    if copy.rotation is not None:
        written = [
            one.maker.written(_brought(copy, route, one, parts), stock) for one, stock in zip(groups, stocks, strict=True)
        ]
        rules = rules._replace(sessions=np.unique(np.concatenate([np.zeros(0, np.int64), *written])))
    for one, stock in zip(groups, stocks, strict=True):
        if copy.from_ is not None and copy.cadence is not None:
            yield one.maker.reading_life(one.lives[copy.from_], parts.cadences[copy.cadence], rules, stock)
        else:
            yield one.maker.life(_brought(copy, route, one, parts), rules, stock)


def _taken_rungs(copy: Copy, route: Route) -> frozenset[str]:
    takes = (other.take for other in route.copies if other.from_ == copy.id)
    return frozenset(name for take in takes if isinstance(take, TakeRungs) for name in take.rungs)


def _brought(copy: Copy, route: Route, one: _InGroup, parts: "_Parts") -> Brought:
    if copy.from_ is None:
        return one.maker.taken(parts.cadences[copy.cadence or ""])
    source = one.lives[copy.from_]
    if copy.cadence is not None:
        return one.maker.read(source, parts.cadences[copy.cadence])
    source_copy = next(other for other in route.copies if other.id == copy.from_)
    off_snapshots = parts.targets[source_copy.target].media == "snapshot"
    return one.maker.followed(source, copy.take, copy.delay or "PT0S", off_snapshots=off_snapshots)


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
        ground = Ground(target.packing == "shared", target.lock != "none", target.media == "snapshot")
        ladder = self._ladders[copy.ladder] if copy.ladder is not None else None
        return CopyRules(ladder, copy.rotation, copy.lock, copy.sweep, ground, stages)

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
