"""Holdings: which points of which workloads lie on which target."""

from collections.abc import Callable, Hashable, Iterator
from dataclasses import dataclass, field
from functools import partial
from typing import Any, TypeVar

from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.routes import Route
from shelf_core.design.workloads import Workload
from shelf_core.digits import grouped
from shelf_core.engine.memory import Memory, bytes_of_all
from shelf_core.engine.retention.copies import GroupInMaking, in_making, lives_on
from shelf_core.engine.retention.groups import DesignParts
from shelf_core.engine.retention.keys import holding_key
from shelf_core.engine.retention.lifecycle import CopyLife, Lifecycle
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.watching import BYTES_TO_ADD_UP, MOST_BYTES, MOST_POINTS, Watch, nobody

T = TypeVar("T")


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

    def of(self, *workloads: Workload) -> "Holding":
        """The same points for one or some of the workloads alone."""
        return Holding(self.route, self.copy, self.target, self.stage, self.whole, workloads)


def holdings_of(design: Design, frame: Frame, memory: Memory, watch: Watch = nobody) -> list[Holding]:
    """All holdings of a design, in the order of its routes, copies and stages. `frame` reaches as far as is foreseen.

    `watch` is told after each route how many are done, of all routes and targets. Raises DesignError, with the path of the
    copy, when its points cannot be computed or are more than MOST_POINTS with those before.
    """
    parts = DesignParts(design, frame)
    found: list[Holding] = []
    size = _Size()
    for at, route in enumerate(design.routes):
        groups = [in_making(group, frame, memory) for group in parts.groups(route)]
        for place, copy in enumerate(route.copies):
            try:
                for group, life in zip(groups, lives_on(copy, route, groups, parts), strict=True):
                    group.lives[copy.id] = life
                    size.add(life)
            except ValueError as error:
                raise DesignError([Fault(("routes", at, "copies", place), str(error))]) from None
        for group in groups:
            found += _holdings_of(group, route, parts, memory)
        watch(at + 1, len(design.routes) + len(design.targets))
    return found


def _holdings_of(group: GroupInMaking, route: Route, parts: DesignParts, memory: Memory) -> Iterator[Holding]:
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
        self._bytes += life.once("bytes", lambda: bytes_of_all([life])) + BYTES_TO_ADD_UP * points
        if self._points > MOST_POINTS:
            raise ValueError(
                f"expected at most {grouped(MOST_POINTS)} points in a design, got {grouped(self._points)} up to this copy"
            )
        if self._bytes > MOST_BYTES:
            raise ValueError(
                f"expected points that take at most {MOST_BYTES // 2**20} MB of memory with all that claims them, got more up "
                f"to this copy ({grouped(self._points)} points): take fewer points, or let more copies share their rules"
            )
