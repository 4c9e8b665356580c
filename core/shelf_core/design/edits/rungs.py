"""A rung gets another name, wherever it is named."""

from collections.abc import Callable
from typing import Any

from shelf_core.design.document import Design
from shelf_core.design.editing import Change
from shelf_core.design.edits.finding import the
from shelf_core.design.faults import DesignError, fault, shown
from shelf_core.design.ladders import Ladder, Rung
from shelf_core.design.reading import part_of
from shelf_core.design.routes import Copy, Lock, Route, StepDown, TakeRungs

Renamed = Callable[[str], str]


def renaming(design: Design, ladder_id: str, rung: str, name: str) -> list[Change]:
    """The changes that give a rung another name. Raises DesignError for a rung that there is not, and a name that cannot be."""
    ladder = the("ladder", design.ladders, ladder_id)
    names = [one.name for one in ladder.rungs]
    if rung not in names:
        known = ", ".join(names) or "none"
        raise DesignError([fault("rung", message=f"expected one of {known}, got {shown(rung)}")])
    if name != rung and name in names:
        raise DesignError([fault("name", message=f"expected a name that no other rung has, got {shown(name)}")])

    def other(one: str) -> str:
        return name if one == rung else one

    routes = [(route, _route_with(route, ladder_id, other)) for route in design.routes]
    changed = [Change("routes", route.id, after) for route, after in routes if after != route]
    return [Change("ladders", ladder_id, _ladder_with(ladder, other)), *changed]


def _ladder_with(ladder: Ladder, other: Renamed) -> Ladder:
    rungs = [_rung_with(one, other) for one in ladder.rungs]
    return ladder.model_copy(update={"rungs": rungs})


def _rung_with(rung: Rung, other: Renamed) -> Rung:
    # Read anew: a name that is a word of ours is refused as it is where it is typed.
    return part_of(Rung, {**rung.whole(), "name": other(rung.name), "from": other(rung.from_)})


def _route_with(route: Route, ladder: str, other: Renamed) -> Route:
    keeps_by_it = {copy.id for copy in route.copies if copy.ladder == ladder}
    return route.model_copy(update={"copies": [_copy_with(copy, keeps_by_it, other) for copy in route.copies]})


def _copy_with(copy: Copy, keeps_by_it: set[str], other: Renamed) -> Copy:
    update: dict[str, Any] = {}
    if copy.id in keeps_by_it:
        update = {"lock": _locks_with(copy.lock, other), "step_downs": [_step_with(one, other) for one in copy.step_downs]}
    if isinstance(copy.take, TakeRungs) and copy.from_ in keeps_by_it:
        update["take"] = TakeRungs(rungs=[other(one) for one in copy.take.rungs])
    return copy.model_copy(update=update)


def _step_with(step: StepDown, other: Renamed) -> StepDown:
    which = [other(one) for one in step.which] if isinstance(step.which, list) else step.which
    return step.model_copy(update={"which": which, "lock": _locks_with(step.lock, other)})


def _locks_with(locks: list[Lock], other: Renamed) -> list[Lock]:
    return [
        lock if lock.rungs is None else lock.model_copy(update={"rungs": [other(one) for one in lock.rungs]}) for lock in locks
    ]
