"""An entry is taken out, with another in its place wherever it is referred to."""

from collections.abc import Iterator
from typing import Any, TypeVar

from shelf_core.design.document import Design, Hold, Stock
from shelf_core.design.editing import REPLACEABLE, WHOLE, Change, entry_of
from shelf_core.design.edits import standing
from shelf_core.design.faults import DesignError, fault, shown
from shelf_core.design.routes import Copy
from shelf_core.design.unknowns import Unknown

Naming = TypeVar("Naming", Hold, Unknown)


def replacing(design: Design, part: str, key: str, instead: str | None) -> list[Change]:
    """The changes that take an entry out, with another of its list in its place wherever it is referred to.

    Without `instead`, workloads are taken out of what names them by id and routes lose their opening stock; other entries
    are just taken out, which only goes well when nothing refers to them. Raises DesignError for an `instead` that there is
    not or that cannot stand in.
    """
    if instead is not None and (part not in REPLACEABLE or instead == key or entry_of(design, part, instead) is None):
        known = ", ".join(one.id for one in getattr(design, part) if one.id != key) if part in REPLACEABLE else "none"
        raise DesignError([fault("instead", message=f"expected another id of {part} ({known}), got {shown(instead)}")])
    found: list[Change] = []
    if instead is not None:
        found += _with_another(design, part, key, instead)
    elif part == "workloads":
        found += _without_workload(design, key)
    if part in ("workloads", "routes"):
        found += _without_opening(design, part, key)
    return [*found, Change(part, key, None)]


def _with_another(design: Design, part: str, key: str, instead: str) -> Iterator[Change]:
    if part == "sites":
        yield from _links_from_another(design, key, instead)
        for target in design.targets:
            update = {name: instead for name in ("site", "away_site") if getattr(target, name) == key}
            if update:
                yield Change("targets", target.id, target.model_copy(update=update))
        for workload in design.workloads:
            if workload.site == key:
                yield Change("workloads", workload.id, workload.model_copy(update={"site": instead}))
        yield from standing.with_another(design, part, key, instead)
        return
    if part == "targets":
        yield from standing.with_another(design, part, key, instead)
    for route in design.routes:
        copies = [_copy_with(copy, part, key, instead) for copy in route.copies]
        if copies != route.copies:
            yield Change("routes", route.id, route.model_copy(update={"copies": copies}))


def _links_from_another(design: Design, key: str, instead: str) -> Iterator[Change]:
    """Links of a site begin at another one; what would join that with itself goes."""
    for link in design.links:
        if key in link.sites:
            sites = [instead if site == key else site for site in link.sites]
            yield Change("links", link.id, None if sites[0] == sites[1] else link.model_copy(update={"sites": sites}))


def _copy_with(copy: Copy, part: str, key: str, instead: str) -> Copy:
    field = part.removesuffix("s")
    update: dict[str, Any] = {field: instead} if getattr(copy, field) == key else {}
    if part == "targets" and any(step.target == key for step in copy.step_downs):
        steps = [step.model_copy(update={"target": instead}) if step.target == key else step for step in copy.step_downs]
        update["step_downs"] = steps
    return copy.model_copy(update=update) if update else copy


def _without_workload(design: Design, key: str) -> Iterator[Change]:
    for route in design.routes:
        if key in route.workloads.ids:
            ids = [name for name in route.workloads.ids if name != key]
            chosen = route.workloads.model_copy(update={"ids": ids})
            yield Change("routes", route.id, route.model_copy(update={"workloads": chosen}))
    yield from standing.without_workload(design, key)


def _without_opening(design: Design, part: str, key: str) -> Iterator[Change]:
    opening = [one for one in design.opening if (one.workload if part == "workloads" else one.route) != key]
    holds = [_not_naming(hold, key) if part == "workloads" else hold for hold in design.holds]
    unknowns = [_not_naming(unknown, key) if part == "workloads" else unknown for unknown in design.unknowns]
    before = Stock(**{name: getattr(design, name) for name in Stock.model_fields})
    stock = before.model_copy(update={"holds": holds, "opening": opening, "unknowns": unknowns})
    if stock != before:
        yield Change("stock", WHOLE, stock)


def _not_naming(entry: Naming, key: str) -> Naming:
    """A hold or an unknown without a workload that it names."""
    if key not in entry.workloads.ids:
        return entry
    ids = [one for one in entry.workloads.ids if one != key]
    return entry.model_copy(update={"workloads": entry.workloads.model_copy(update={"ids": ids})})
