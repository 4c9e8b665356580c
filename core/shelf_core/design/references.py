"""Checks that span parts of a document: ids that are unique, references that lead somewhere, parts that fit."""

from collections.abc import Iterable, Iterator, Sequence

from shelf_core.design.document import Design, selected
from shelf_core.design.faults import Fault, Path, shown
from shelf_core.design.ladders import Ladder
from shelf_core.design.routes import Copy, Route, TakeRungs

LISTS = (
    "sites",
    "links",
    "targets",
    "workloads",
    "cadences",
    "ladders",
    "routes",
    "recovery_plans",
    "loss_cases",
    "duties",
    "costs",
)


def reference_faults(design: Design) -> list[Fault]:
    """All faults that only show when the parts are seen together, in the order of the document."""
    return [
        *_double_ids(design),
        *_sites(design),
        *_cadences(design),
        *_ladders(design),
        *_routes(design),
        *_stock(design),
        *_standing(design),
        *_costs(design),
    ]


def _double_ids(design: Design) -> Iterator[Fault]:
    for name in LISTS:
        yield from _repeated((name,), [part.id for part in getattr(design, name)])
    for place, cadence in enumerate(design.cadences):
        yield from _repeated(("cadences", place, "runs"), [run.id for run in cadence.runs])
    for place, route in enumerate(design.routes):
        yield from _repeated(("routes", place, "copies"), [copy.id for copy in route.copies])


def _repeated(path: Path, ids: Sequence[str]) -> Iterator[Fault]:
    seen: dict[str, int] = {}
    for place, name in enumerate(ids):
        if name in seen:
            yield Fault((*path, place, "id"), f"expected an id of its own, got {shown(name)}, which [{seen[name]}] has")
        seen.setdefault(name, place)


def _known(path: Path, what: str, name: str, known: Iterable[str]) -> Iterator[Fault]:
    if name not in known:
        yield Fault(path, f"expected the id of a {what}, got {shown(name)}, which there is not")


def _sites(design: Design) -> Iterator[Fault]:
    known = {site.id for site in design.sites}
    for place, link in enumerate(design.links):
        for at, name in enumerate(link.sites):
            yield from _known(("links", place, "sites", at), "site", name, known)
    for place, target in enumerate(design.targets):
        yield from _known(("targets", place, "site"), "site", target.site, known)
        if target.away_site is not None:
            yield from _known(("targets", place, "away_site"), "site", target.away_site, known)
    for place, workload in enumerate(design.workloads):
        yield from _known(("workloads", place, "site"), "site", workload.site, known)


def _cadences(design: Design) -> Iterator[Fault]:
    for place, cadence in enumerate(design.cadences):
        for at, run in enumerate(cadence.runs):
            if run.from_ and run.until and run.until < run.from_:
                yield Fault(("cadences", place, "runs", at, "until"), f"expected a date from {run.from_} on, got {run.until}")


def _ladders(design: Design) -> Iterator[Fault]:
    for place, ladder in enumerate(design.ladders):
        firsts: set[str] = set()
        seen: set[str] = set()
        for at, rung in enumerate(ladder.rungs):
            path: Path = ("ladders", place, "rungs", at)
            if rung.name in seen:
                yield Fault((*path, "name"), f"expected a name of its own, got {shown(rung.name)} again")
            if rung.from_ not in ("self-contained", "any") and rung.from_ not in firsts:
                wanted = "self-contained, any, or the name of an earlier rung that picks first"
                yield Fault((*path, "from"), f"expected {wanted}, got {shown(rung.from_)}")
            seen.add(rung.name)
            if rung.pick == "first":
                firsts.add(rung.name)


def _routes(design: Design) -> Iterator[Fault]:
    workloads = {workload.id for workload in design.workloads}
    for place, route in enumerate(design.routes):
        for at, name in enumerate(route.workloads.ids):
            yield from _known(("routes", place, "workloads", "ids", at), "workload", name, workloads)
        for at in range(len(route.copies)):
            yield from _copy(design, route, at, ("routes", place, "copies", at))


def _copy(design: Design, route: Route, at: int, path: Path) -> Iterator[Fault]:
    copy = route.copies[at]
    targets = {target.id: target for target in design.targets}
    cadences = {cadence.id: cadence for cadence in design.cadences}
    ladders = {ladder.id: ladder for ladder in design.ladders}
    yield from _known((*path, "target"), "target", copy.target, targets)
    if copy.cadence is not None:
        yield from _known((*path, "cadence"), "cadence", copy.cadence, cadences)
    if copy.ladder is not None:
        yield from _known((*path, "ladder"), "ladder", copy.ladder, ladders)
    earlier = [other.id for other in route.copies[:at]]
    if copy.from_ is not None and copy.from_ not in earlier:
        yield Fault((*path, "from"), f"expected a copy earlier in this route, got {shown(copy.from_)}")
    for down, step in enumerate(copy.step_downs):
        yield from _known((*path, "step_downs", down, "target"), "target", step.target, targets)
    yield from _names_of_copy(copy, route, ladders.get(copy.ladder or ""), ladders, path)


def _names_of_copy(copy: Copy, route: Route, ladder: Ladder | None, ladders: dict[str, Ladder], path: Path) -> Iterator[Fault]:
    rungs = _rung_names(ladder)
    for place, lock in enumerate(copy.lock):
        firsts = {rung.name for rung in ladder.rungs if rung.pick == "first"} if ladder else set()
        yield from _all_known((*path, "lock", place, "rungs"), "rung of its ladder that picks first", lock.rungs, firsts)
    for place, step in enumerate(copy.step_downs):
        named = step.which if isinstance(step.which, list) else None
        yield from _all_known((*path, "step_downs", place, "which"), "rung of its ladder", named, rungs)
    if isinstance(copy.take, TakeRungs):
        source = next((other for other in route.copies if other.id == copy.from_), None)
        picked = _rung_names(ladders.get(source.ladder or "") if source else None)
        yield from _all_known((*path, "take", "rungs"), "rung of the source's ladder", copy.take.rungs, picked)


def _rung_names(ladder: Ladder | None) -> set[str]:
    return {rung.name for rung in ladder.rungs} if ladder else set()


def _all_known(path: Path, what: str, names: list[str] | None, known: set[str]) -> Iterator[Fault]:
    for name in names or ():
        yield from _known(path, what, name, known)


def _stock(design: Design) -> Iterator[Fault]:
    copies = {(route.id, copy.id) for route in design.routes for copy in route.copies}
    workloads = {workload.id for workload in design.workloads}
    for place, opening in enumerate(design.opening):
        if (opening.route, opening.copy_) not in copies:
            yield Fault(("opening", place, "copy"), f"expected a copy of a route, got {opening.route} / {opening.copy_}")
        yield from _known(("opening", place, "workload"), "workload", opening.workload, workloads)
    named = [(("holds", place), hold.workloads) for place, hold in enumerate(design.holds)]
    named += [(("unknowns", place), unknown.workloads) for place, unknown in enumerate(design.unknowns)]
    for path, chosen in named:
        for at, key in enumerate(chosen.ids):
            yield from _known((*path, "workloads", "ids", at), "workload", key, workloads)
    yield from _repeated(("unknowns",), [unknown.id for unknown in design.unknowns])


def _standing(design: Design) -> Iterator[Fault]:
    """What plans, cases, duties and rehearsals name."""
    sites, targets = {one.id for one in design.sites}, {one.id for one in design.targets}
    workloads, plans = {one.id for one in design.workloads}, {one.id for one in design.recovery_plans}
    cases = {one.id for one in design.loss_cases}
    for place, plan in enumerate(design.recovery_plans):
        path: Path = ("recovery_plans", place)
        yield from _all_known((*path, "place"), "site", [plan.place] if plan.place else None, sites)
        for at, group in enumerate(plan.groups):
            yield from _all_known((*path, "groups", at, "workloads", "ids"), "workload", group.workloads.ids, workloads)
        yield from _in_one_group(design, place)
    for place, case in enumerate(design.loss_cases):
        path = ("loss_cases", place)
        yield from _all_known((*path, "lost", "sites"), "site", case.lost.sites, sites)
        yield from _all_known((*path, "lost", "targets"), "target", case.lost.targets, targets)
        yield from _all_known((*path, "plan"), "recovery plan", [case.plan] if case.plan else None, plans)
    for place, duty in enumerate(design.duties):
        path = ("duties", place)
        yield from _all_known((*path, "workloads", "ids"), "workload", duty.workloads.ids, workloads)
        for at, ask in enumerate(duty.asks):
            inside: Path = (*path, "asks", at)
            yield from _all_known((*inside, "stands"), "loss case", [ask.stands] if ask.stands else None, cases)
            if ask.counted is not None:
                for name in ("targets", "not_targets"):
                    yield from _all_known((*inside, "counted", name), "target", getattr(ask.counted, name), targets)
                yield from _all_known((*inside, "counted", "sites"), "site", ask.counted.sites, sites)
    for place, rehearsal in enumerate(design.rehearsals):
        yield from _known(("rehearsals", place, "plan"), "recovery plan", rehearsal.plan, plans)


def _costs(design: Design) -> Iterator[Fault]:
    workloads = {one.id for one in design.workloads}
    for place, cost in enumerate(design.costs):
        yield from _all_known(("costs", place, "workloads", "ids"), "workload", cost.workloads.ids, workloads)


def _in_one_group(design: Design, place: int) -> Iterator[Fault]:
    """A workload stands in one group of a plan only."""
    seen: dict[str, int] = {}
    for at, group in enumerate(design.recovery_plans[place].groups):
        for workload in selected(group.workloads, design.workloads):
            if workload.id in seen:
                path = ("recovery_plans", place, "groups", at, "workloads")
                yield Fault(
                    path, f"expected each workload in one group, got {shown(workload.id)}, which [{seen[workload.id]}] has"
                )
            seen.setdefault(workload.id, at)
