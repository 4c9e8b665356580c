"""Machines that come later: each lot of them stands as a workload of its own, right after the one that it is added to."""

from typing import Any

from shelf_core.design.document import Design
from shelf_core.design.routes import Selection
from shelf_core.design.workloads import Workload


def with_added_machines(design: Design) -> Design:
    """The design with a workload for each of the `count_steps`: alike in everything, `from` its date, of so many machines.

    >>> from shelf_core.design.reading import design_of
    >>> plain = {"format": "rested-shelf-design", "version": 2, "name": "House", "timezone": "UTC", "starts": "2027-01-01",
    ...     "years": 1, "sites": [{"id": "a"}], "workloads": [{"id": "w", "site": "a", "size": "1 TB", "count": 3,
    ...     "count_steps": [{"on": "2027-03-01", "add": 2}]}]}
    >>> [(one.id, one.count, one.from_) for one in with_added_machines(design_of(plain)).workloads]
    [('w', 3, None), ('w@2027-03-01', 2, '2027-03-01')]
    """
    later = {one.id: _later_machines(one) for one in design.workloads if one.count_steps}
    if not later:
        return design
    workloads = [part for one in design.workloads for part in lots_of(one)]
    names = {name: [one.id for one in lots] for name, lots in later.items()}
    update: dict[str, Any] = {"workloads": workloads}
    for field in ("routes", "holds", "duties", "unknowns", "costs"):
        update[field] = [_also_for(part, names) for part in getattr(design, field)]
    plans = [
        plan.model_copy(update={"groups": [_also_for(group, names) for group in plan.groups]}) for plan in design.recovery_plans
    ]
    return design.model_copy(update={**update, "recovery_plans": plans})


def workload_of(lot: str) -> str:
    """The id of the workload that a lot of machines belongs to: a lot has it, and the date from which it is there.

    >>> workload_of("w@2027-03-01"), workload_of("w")
    ('w', 'w')
    """
    return lot.partition("@")[0]


def lots_of(workload: Workload) -> list[Workload]:
    """A workload as it begins, and each lot of its machines that come later."""
    return [_as_now(workload), *_later_machines(workload)]


def _as_now(workload: Workload) -> Workload:
    """Without its later machines, so that a design that has been through this once is the same when it goes through again."""
    return workload.model_copy(update={"count_steps": []}) if workload.count_steps else workload


def _later_machines(workload: Workload) -> list[Workload]:
    found = []
    for number, step in enumerate(workload.count_steps):
        again = sum(one.on == step.on for one in workload.count_steps[:number])
        key = f"{workload.id}@{step.on}{f'.{again + 1}' if again else ''}"
        name = f"{workload.name or workload.id}, from {step.on}"
        changes = {"id": key, "name": name, "from_": step.on, "count": step.add, "count_steps": []}
        found.append(workload.model_copy(update=changes))
    return found


def _also_for(part: Any, names: dict[str, list[str]]) -> Any:
    """A part of the document whose selection names the later machines beside those that it names."""
    selection: Selection = part.workloads
    ids = [one for name in selection.ids for one in (name, *names.get(name, ()))]
    return (
        part
        if len(ids) == len(selection.ids)
        else part.model_copy(update={"workloads": selection.model_copy(update={"ids": ids})})
    )
