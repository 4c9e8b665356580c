"""Changes of a design: entries replaced, added or taken out, several at once, and what else must change with them."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from shelf_core.design.base import Part
from shelf_core.design.document import Design, Settings, Stock
from shelf_core.design.faults import DesignError, fault, shown
from shelf_core.design.references import LISTS
from shelf_core.design.routes import Copy, Route
from shelf_core.design.soundness import design_faults

WHOLES: dict[str, type[Part]] = {"settings": Settings, "stock": Stock}
"""Parts of a design that are one entry each, with the key WHOLE, beside its lists."""
WHOLE = "design"
PARTS = ("settings", *LISTS, "stock")
REPLACEABLE = ("sites", "targets", "cadences", "ladders")
"""The lists an entry of which another can stand in for."""


@dataclass(frozen=True)
class Change:
    """One entry as it should be; None takes it out. A new one goes to its `place` in the list, the end for None."""

    part: str
    key: str
    value: Part | None
    place: int | None = None


@dataclass(frozen=True)
class Mention:
    """An entry that refers to another: where it stands, and the words for it."""

    part: str
    key: str
    words: str


def entry_of(design: Design, part: str, key: str) -> Part | None:
    """An entry by its part and key, None where there is none. Raises KeyError for an unknown part."""
    if part in WHOLES:
        kind = WHOLES[part]
        return kind(**{name: getattr(design, name) for name in kind.model_fields}) if key == WHOLE else None
    if part not in LISTS:
        raise KeyError(part)
    return next((one for one in getattr(design, part) if one.id == key), None)


def with_changes(design: Design, changes: Sequence[Change]) -> Design:
    """The design with all changes made, each entry in its place, new ones at the end.

    Raises DesignError when the result would be unsound, or a change contradicts itself.
    """
    update: dict[str, Any] = {}
    by_part: dict[str, dict[str, Change]] = {}
    for place, change in enumerate(changes):
        _check(change, by_part.setdefault(change.part, {}), place)
        by_part[change.part][change.key] = change
    for part, of_part in by_part.items():
        if part in WHOLES:
            whole = of_part[WHOLE].value
            update |= {name: getattr(whole, name) for name in WHOLES[part].model_fields}
        else:
            update[part] = _changed_list(getattr(design, part), of_part)
    changed = design.model_copy(update=update)
    faults = design_faults(changed)
    if faults:
        raise DesignError(faults)
    return changed


def _changed_list(entries: list[Any], changes: dict[str, Change]) -> list[Any]:
    there = {one.id for one in entries}
    changed = [changes[one.id].value if one.id in changes else one for one in entries]
    kept = [one for one in changed if one is not None]
    added = [change for key, change in changes.items() if key not in there and change.value is not None]
    for change in sorted(added, key=lambda one: len(entries) + len(added) if one.place is None else one.place):
        kept.insert(len(kept) if change.place is None else change.place, change.value)
    return kept


def _check(change: Change, earlier: dict[str, Change], place: int) -> None:
    if change.key in earlier:
        message = f"expected each entry once, got {shown(change.key)} twice"
    elif change.part in WHOLES and (change.value is None or change.key != WHOLE):
        message = f'expected the {change.part} under the key "{WHOLE}", got {shown(change.key)}'
    elif change.value is not None and change.part in LISTS and change.value.id != change.key:  # type: ignore[attr-defined]
        message = f"expected the id of its value, got {shown(change.key)}"
    else:
        return
    raise DesignError([fault("changes", place, "key", message=message)])


def mentions_of(design: Design, part: str, key: str) -> list[Mention]:
    """Everything that refers to an entry, in the order of the document."""
    return list(_MENTIONS[part](design, key)) if part in _MENTIONS else []


def _of_site(design: Design, key: str) -> Iterator[Mention]:
    for link in design.links:
        if key in link.sites:
            yield Mention("links", link.id, f"the link {link.name or link.id} ends there")
    for one in design.targets:
        if one.away_site == key:
            yield Mention("targets", one.id, f"cartridges of the target {one.name or one.id} are away there")
        if one.site == key:
            yield Mention("targets", one.id, f"the target {one.name or one.id} stands there")
    for workload in design.workloads:
        if workload.site == key:
            yield Mention("workloads", workload.id, f"the workload {workload.name or workload.id} is there")
    yield from _restored_or_lost_at(design, key)
    yield from _of_counted(design, key, ("sites",))


def _restored_or_lost_at(design: Design, key: str) -> Iterator[Mention]:
    for plan in design.recovery_plans:
        if plan.place == key:
            yield Mention("recovery_plans", plan.id, f"the recovery plan {plan.name or plan.id} restores there")
    for case in design.loss_cases:
        if key in case.lost.sites:
            yield Mention("loss_cases", case.id, f"the case {case.name or case.id} loses it")


def _of_counted(design: Design, key: str, fields: tuple[str, ...]) -> Iterator[Mention]:
    """Duties that say of points that count where these lie, or do not lie."""
    for duty in design.duties:
        named = [name for ask in duty.asks if ask.counted for field in fields for name in getattr(ask.counted, field) or ()]
        if key in named:
            yield Mention("duties", duty.id, f"the duty {duty.name or duty.id} names it")


def _of_target(design: Design, key: str) -> Iterator[Mention]:
    yield from _of_copies(_target_words)(design, key)
    for case in design.loss_cases:
        if key in case.lost.targets:
            yield Mention("loss_cases", case.id, f"the case {case.name or case.id} loses it")
    yield from _of_counted(design, key, ("targets", "not_targets"))


def _of_plan(design: Design, key: str) -> Iterator[Mention]:
    for case in design.loss_cases:
        if case.plan == key:
            yield Mention("loss_cases", case.id, f"the case {case.name or case.id} is brought back by it")
    held = sum(one.plan == key for one in design.rehearsals)
    if held:
        yield Mention("stock", WHOLE, f"{held} rehearsals of it are on record")


def _of_case(design: Design, key: str) -> Iterator[Mention]:
    for duty in design.duties:
        if any(ask.stands == key for ask in duty.asks):
            yield Mention("duties", duty.id, f"the duty {duty.name or duty.id} asks to stand it")


def _of_copies(says: Callable[[Copy, str], str]) -> Callable[[Design, str], Iterator[Mention]]:
    def mentions(design: Design, key: str) -> Iterator[Mention]:
        for route in design.routes:
            for copy in route.copies:
                words = says(copy, key)
                if words:
                    yield Mention("routes", route.id, f"the copy {copy.name or copy.id} of {route.name or route.id} {words}")

    return mentions


def _target_words(copy: Copy, key: str) -> str:
    if copy.target == key:
        return "lies on it"
    return "steps down to it" if any(step.target == key for step in copy.step_downs) else ""


def _of_workload(design: Design, key: str) -> Iterator[Mention]:
    for route in design.routes:
        if key in route.workloads.ids:
            yield Mention("routes", route.id, f"{_route_name(route)} names it")
    yield from _planned_or_owed(design, key)
    yield from _in_stock(design, key)


def _planned_or_owed(design: Design, key: str) -> Iterator[Mention]:
    for plan in design.recovery_plans:
        if any(key in group.workloads.ids for group in plan.groups):
            yield Mention("recovery_plans", plan.id, f"the recovery plan {plan.name or plan.id} names it")
    for duty in design.duties:
        if key in duty.workloads.ids:
            yield Mention("duties", duty.id, f"the duty {duty.name or duty.id} names it")
    for cost in design.costs:
        if key in cost.workloads.ids:
            yield Mention("costs", cost.id, f"the cost {cost.name or cost.id} counts it")


def _in_stock(design: Design, key: str) -> Iterator[Mention]:
    opening = sum(one.workload == key for one in design.opening)
    if opening:
        yield Mention("stock", WHOLE, f"{opening} of its points are opening stock")
    if any(key in hold.workloads.ids for hold in design.holds):
        yield Mention("stock", WHOLE, "a hold names it")
    if any(key in unknown.workloads.ids for unknown in design.unknowns):
        yield Mention("stock", WHOLE, "a range of what is not known names it")


def _of_route(design: Design, key: str) -> Iterator[Mention]:
    opening = sum(one.route == key for one in design.opening)
    if opening:
        yield Mention("stock", WHOLE, f"{opening} points of opening stock are on its copies")


def _route_name(route: Route) -> str:
    return f"the route {route.name or route.id}"


_MENTIONS: dict[str, Callable[[Design, str], Iterator[Mention]]] = {
    "sites": _of_site,
    "targets": _of_target,
    "cadences": _of_copies(lambda copy, key: "runs by it" if copy.cadence == key else ""),
    "ladders": _of_copies(lambda copy, key: "keeps by it" if copy.ladder == key else ""),
    "workloads": _of_workload,
    "routes": _of_route,
    "recovery_plans": _of_plan,
    "loss_cases": _of_case,
}
