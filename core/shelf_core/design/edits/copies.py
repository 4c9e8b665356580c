"""Copies of a route are added, moved and taken out, step down, and begin with what is there already."""

from shelf_core.design.document import Design, Opening, Stock, selected
from shelf_core.design.editing import WHOLE, Change
from shelf_core.design.edits.finding import fresh_id, replaced, the
from shelf_core.design.faults import DesignError, fault, shown
from shelf_core.design.ladders import Ladder
from shelf_core.design.routes import Copy, Route, Selection, StepDown
from shelf_core.design.starting_points import FIRST_LADDER, NIGHTLY, SNAPSHOTS
from shelf_core.design.targets import Target

MOST_TAKEN_AT_ONCE = 20
"""So many workloads the first route of a design takes by itself."""
HALF_A_YEAR = "P6M"
"""After this a new step-down begins, until it is said otherwise."""


def adding_route(design: Design, target_id: str) -> list[Change]:
    """The changes that add a route with its first copy on a target; the first one takes what workloads there are.

    Where there are many they are for the person to choose: then it takes none.
    """
    number = len(design.routes) + 1
    key = fresh_id("route", design.routes)
    target = the("target", design.targets, target_id)
    is_plain = not design.routes and len(design.workloads) <= MOST_TAKEN_AT_ONCE
    taken = Selection(ids=[one.id for one in design.workloads]) if is_plain else Selection()
    return _with_new_copy(design, key, f"Route {number}", taken, [], target)


def adding_copy(design: Design, route_id: str, target_id: str) -> list[Change]:
    """The changes that put a copy of a route on a target; what it needs and the design has not comes first."""
    route = the("route", design.routes, route_id)
    target = the("target", design.targets, target_id)
    return _with_new_copy(design, route.id, route.name, route.workloads, route.copies, target)


def _with_new_copy(
    design: Design, key: str, name: str, workloads: Selection, copies: list[Copy], target: Target
) -> list[Change]:
    changes: list[Change] = []
    source = _source_for(target, design, copies)
    ladder = copies[0].ladder if copies else None
    if ladder is None:
        ladder = design.ladders[0].id if design.ladders else _add_ladder(changes, FIRST_LADDER)
    copy = Copy(
        id=fresh_id(target.id, copies),
        target=target.id,
        ladder=ladder,
        cadence=None if source is not None else _cadence_for(target, design, changes),
        from_=source.id if source is not None else None,
    )
    changes.append(Change("routes", key, Route(id=key, name=name, workloads=workloads, copies=[*copies, copy])))
    return changes


def _source_for(target: Target, design: Design, copies: list[Copy]) -> Copy | None:
    """What a new copy follows: the first copy; on snapshot space the first of snapshots at another site, to replicate it."""
    if target.media != "snapshot":
        return copies[0] if copies else None
    targets = {one.id: one for one in design.targets}
    elsewhere = (one for one in copies if targets[one.target].media == "snapshot" and targets[one.target].site != target.site)
    return next(elsewhere, None)


def _cadence_for(target: Target, design: Design, changes: list[Change]) -> str:
    """A cadence of snapshots for snapshot space, another for the rest; the first that there is, or a new one."""
    wanted = target.media == "snapshot"
    for cadence in design.cadences:
        if all(run.kind == "snapshot" for run in cadence.runs) == wanted:
            return cadence.id
    start = SNAPSHOTS if wanted else NIGHTLY
    new = start.model_copy(update={"id": fresh_id(start.id, design.cadences)})
    changes.append(Change("cadences", new.id, new))
    return new.id


def _add_ladder(changes: list[Change], ladder: Ladder) -> str:
    changes.append(Change("ladders", ladder.id, ladder))
    return ladder.id


def moving_copy(design: Design, route_id: str, copy_id: str, target_id: str) -> list[Change]:
    """The change that lets a copy lie on another target."""
    route = the("route", design.routes, route_id)
    copy = the("copy", route.copies, copy_id)
    target = the("target", design.targets, target_id)
    return [_with_copy(route, copy.model_copy(update={"target": target.id}))]


def adding_step_down(design: Design, route_id: str, copy_id: str, target_id: str) -> list[Change]:
    """The change that lets older points of a copy step down to another target."""
    route = the("route", design.routes, route_id)
    copy = the("copy", route.copies, copy_id)
    target = the("target", design.targets, target_id)
    if target.id == copy.target:
        raise DesignError([fault("target", message=f"expected another target than the copy's own, got {shown(target_id)}")])
    steps = [*copy.step_downs, StepDown(after=HALF_A_YEAR, target=target.id)]
    return [_with_copy(route, copy.model_copy(update={"step_downs": steps}))]


def _with_copy(route: Route, copy: Copy) -> Change:
    return Change("routes", route.id, route.model_copy(update={"copies": replaced(route.copies, copy)}))


def taking_copy_out(design: Design, route_id: str, copy_id: str) -> list[Change]:
    """The changes that take a copy out: what followed it follows its source; of a first one, the next takes its cadence."""
    route = the("route", design.routes, route_id)
    gone = the("copy", route.copies, copy_id)
    if len(route.copies) == 1:
        raise DesignError([fault("copy", message=f"expected a copy beside others, got {shown(copy_id)}, the only one")])
    source = gone.from_
    copies = []
    for copy in route.copies:
        if copy.id == gone.id:
            continue
        after = copy
        if copy.from_ == gone.id and source is not None:
            after = copy.model_copy(update={"from_": source})
        elif copy.from_ == gone.id:
            own = {"from_": None, "take": None, "delay": None, "cadence": copy.cadence or gone.cadence}
            after, source = copy.model_copy(update=own), copy.id
        copies.append(after)
    changes = [Change("routes", route.id, route.model_copy(update={"copies": copies}))]
    opening = [one for one in design.opening if (one.route, one.copy_) != (route.id, gone.id)]
    return changes if len(opening) == len(design.opening) else [*changes, _with_opening(design, opening)]


def seeding(design: Design, route_id: str, copy_id: str, taken: str | None) -> list[Change]:
    """The change that says which full of each workload of a copy is there when the design starts."""
    route = the("route", design.routes, route_id)
    copy = the("copy", route.copies, copy_id)
    others = [one for one in design.opening if (one.route, one.copy_) != (route.id, copy.id)]
    if taken is None:
        return [_with_opening(design, others)]
    workloads = selected(route.workloads, design.workloads)
    first = [Opening(route=route.id, copy_=copy.id, workload=one.id, taken=taken, kind="full") for one in workloads]
    return [_with_opening(design, [*others, *first])]


def _with_opening(design: Design, opening: list[Opening]) -> Change:
    return Change("stock", WHOLE, Stock(holds=design.holds, opening=opening, unknowns=design.unknowns))
