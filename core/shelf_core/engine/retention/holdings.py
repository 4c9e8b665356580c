"""Holdings: which points of which workloads lie on which target."""

from collections.abc import Iterator
from functools import partial

from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError, Fault
from shelf_core.engine.memory import Memory
from shelf_core.engine.retention.copies import GroupInMaking, in_making, lives_on
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.keys import holding_key
from shelf_core.engine.retention.resolved import ResolvedRoute, resolved_routes
from shelf_core.engine.retention.size_limit import SizeLimit
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.watching import Watch, nobody


def holdings_of(design: Design, frame: Frame, memory: Memory, watch: Watch = nobody) -> list[Holding]:
    """All holdings of a design, in the order of its routes, copies and stages. `frame` reaches as far as is foreseen.

    `watch` is told after each route how many are done, of all routes and targets. Raises DesignError, with the path of the
    copy, when its points cannot be computed or are more than MOST_POINTS with those before.
    """
    routes = resolved_routes(design, frame, memory)
    found: list[Holding] = []
    size = SizeLimit()
    for at, route in enumerate(routes):
        groups = [in_making(group, frame, memory) for group in route.groups]
        for place, copy in enumerate(route.copies):
            try:
                for group, life in zip(groups, lives_on(copy, groups), strict=True):
                    group.lives[copy.id] = life
                    size.add(life)
            except ValueError as error:
                raise DesignError([Fault(("routes", at, "copies", place), str(error))]) from None
        for group in groups:
            found += _holdings_of(group, route, memory)
        watch(at + 1, len(routes) + len(design.targets))
    return found


def _holdings_of(group: GroupInMaking, route: ResolvedRoute, memory: Memory) -> Iterator[Holding]:
    """The holdings of a group in the order of copies and stages."""
    who = tuple(workload.model_dump_json() for workload in group.group.workloads)
    for copy in route.copies:
        for stage, target in enumerate(copy.targets):
            lies = (route.id, copy.id, target, stage, group.lives[copy.id])
            yield memory.get(holding_key(*lies, who), partial(Holding, *lies, group.group.workloads))
