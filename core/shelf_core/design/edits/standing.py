"""What plans, cases and duties name, when an entry that they name is replaced or taken out."""

from collections.abc import Iterator
from typing import Any

from shelf_core.design.document import Design
from shelf_core.design.editing import Change
from shelf_core.design.routes import Selection
from shelf_core.design.standing import Ask


def with_another(design: Design, part: str, key: str, instead: str) -> Iterator[Change]:
    """The changes that name another site or target wherever plans, cases and duties name one."""
    for plan in design.recovery_plans:
        if part == "sites" and plan.place == key:
            yield Change("recovery_plans", plan.id, plan.model_copy(update={"place": instead}))
    for case in design.loss_cases:
        named: list[str] = getattr(case.lost, part)
        if key in named:
            lost = case.lost.model_copy(update={part: _replaced(named, key, instead)})
            yield Change("loss_cases", case.id, case.model_copy(update={"lost": lost}))
    for duty in design.duties:
        asks = [_ask_with(ask, part, key, instead) for ask in duty.asks]
        if asks != duty.asks:
            yield Change("duties", duty.id, duty.model_copy(update={"asks": asks}))


def _replaced(names: list[str], key: str, instead: str) -> list[str]:
    return list(dict.fromkeys(instead if name == key else name for name in names))


def _ask_with(ask: Ask, part: str, key: str, instead: str) -> Ask:
    if ask.counted is None:
        return ask
    fields = ("sites",) if part == "sites" else ("targets", "not_targets")
    update: dict[str, Any] = {}
    for name in fields:
        named = getattr(ask.counted, name)
        if named is not None and key in named:
            update[name] = _replaced(named, key, instead)
    return ask.model_copy(update={"counted": ask.counted.model_copy(update=update)}) if update else ask


def without_workload(design: Design, key: str) -> Iterator[Change]:
    """The changes that no longer name a workload by its id in plans and duties."""
    for plan in design.recovery_plans:
        groups = [group.model_copy(update={"workloads": _without(group.workloads, key)}) for group in plan.groups]
        if groups != plan.groups:
            yield Change("recovery_plans", plan.id, plan.model_copy(update={"groups": groups}))
    for duty in design.duties:
        if key in duty.workloads.ids:
            yield Change("duties", duty.id, duty.model_copy(update={"workloads": _without(duty.workloads, key)}))
    for cost in design.costs:
        if key in cost.workloads.ids:
            yield Change("costs", cost.id, cost.model_copy(update={"workloads": _without(cost.workloads, key)}))


def _without(chosen: Selection, key: str) -> Selection:
    return chosen.model_copy(update={"ids": [name for name in chosen.ids if name != key]}) if key in chosen.ids else chosen
