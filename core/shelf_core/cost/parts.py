"""What a design costs, told apart by routes, workloads, or workloads with the same tags (docs/model.md, Cost)."""

from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from shelf_core.arrays import Bytes, Money
from shelf_core.cost.beside import due_for
from shelf_core.cost.cost import Cost, Question, TargetCost, readers_of
from shelf_core.cost.months import Months, months_of
from shelf_core.design.machines import workload_of
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.digits import grouped
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.volume.totals import stored_byte_seconds
from shelf_core.forecast.forecast import Forecast

PartOfCost = Literal["route", "workload", "tag"]
PARTS_OF_COST: tuple[PartOfCost, ...] = get_args(PartOfCost)
THE_DESIGN = "the design as a whole"
NO_TAG = "no tag"
MOST_WORKLOADS = 2_000
"""So many may be told apart one by one."""
_MOVES = ("requests", "retrieval", "traffic")

Part = dict[int, tuple[Workload, ...]]
"""Of each holding, by its place in the forecast, the workloads that belong to a part."""


@dataclass(frozen=True, eq=False)
class CostOfPart:
    """What a part comes to in each month: its key (an id, or tags) and the words for it."""

    key: str
    name: str
    per_month: Money


def cost_by(result: Forecast, cost: Cost, by: PartOfCost) -> list[CostOfPart]:
    """The parts of a cost, the dearest first; they add up to all of it.

    What is moved is paid by whose points move, and what costs beside storage by the workloads it is paid for. The rest of a
    target's cost is divided by the bytes that each part has stored there, through the month, as if the others were not there.
    What nobody's bytes stand for, and what is paid once, is that of the design as a whole. Raises ValueError for more than
    MOST_WORKLOADS told apart one by one.
    """
    parts, names = _parts(result, by)
    months = months_of(result.frame)
    found: dict[str, Money] = defaultdict(lambda: np.zeros(len(months.names)))
    for target, whole in zip(result.design.targets, cost.targets, strict=True):
        if not whole.per_month().any():
            continue
        for key, amounts in _of_target(result, target, whole, parts, months).items():
            found[key] += amounts
    for key, amounts in _beside(result, by).items():
        found[key] += amounts
    # What is left is nobody's own: it is found as what is missing, so that all adds up.
    rest = cost.per_month() - np.sum([np.zeros(len(months.names)), *found.values()], axis=0)
    found[THE_DESIGN] += np.where(np.abs(rest) > 1e-9 * max(1.0, float(np.abs(cost.per_month()).max(initial=0.0))), rest, 0.0)
    told = [CostOfPart(key, names.get(key, key), amounts) for key, amounts in found.items() if amounts.any()]
    return sorted(told, key=lambda one: -float(one.per_month.sum()))


def _parts(result: Forecast, by: PartOfCost) -> tuple[dict[str, Part], dict[str, str]]:
    """Which workloads of which holdings belong to each part, and what people call the parts."""
    design = result.document
    if by == "workload" and len(design.workloads) > MOST_WORKLOADS:
        most, got = grouped(MOST_WORKLOADS), grouped(len(design.workloads))
        raise ValueError(f"expected at most {most} workloads to be told apart, got {got}: tell apart by tag")
    parts: dict[str, Part] = defaultdict(dict)
    for place, holding in enumerate(result.holdings):
        for key, workloads in _within(holding, by).items():
            parts[key][place] = workloads
    names = {one.id: one.name or one.id for one in (design.routes if by == "route" else design.workloads)}
    return parts, names if by != "tag" else {}


def _within(holding: Holding, by: PartOfCost) -> dict[str, tuple[Workload, ...]]:
    if by == "route":
        return {holding.route: holding.workloads}
    key_of = _key_of(by)
    found: dict[str, list[Workload]] = defaultdict(list)
    for workload in holding.workloads:
        found[key_of(workload)].append(workload)
    return {key: tuple(workloads) for key, workloads in found.items()}


def _key_of(by: PartOfCost) -> Callable[[Workload], str]:
    if by == "tag":
        return lambda workload: ", ".join(sorted(workload.tags)) or NO_TAG
    return lambda workload: workload_of(workload.id)


def _of_target(result: Forecast, target: Target, whole: TargetCost, parts: dict[str, Part], months: Months) -> dict[str, Money]:
    """What a target costs, by part: what each one's moves cost, and its share of the rest by what it has stored."""
    place = result.design.targets.index(target)
    readers = readers_of(result, target)
    number = {id(one): at for at, one in enumerate(result.holdings)}
    here = [number[id(one)] for one in result.holdings if one.target == place]
    read = [number[id(one)] for one in readers]
    found: dict[str, Money] = {}
    stored: dict[str, Bytes] = {}
    for key, part in parts.items():
        mine, mine_read = _of_part(result, part, here), _of_part(result, part, read)
        if mine or mine_read:
            moves = Question(result, target, mine, mine_read, months).moves()
            found[key] = np.sum(list(moves.values()), axis=0)
            stored[key] = np.maximum(stored_byte_seconds(target, mine, months.edges, result.frame), 0.0)
    standing = np.sum([amounts for name, amounts in whole.by_category.items() if name not in _MOVES], axis=0)
    total = np.sum([np.zeros(len(months.names)), *stored.values()], axis=0)
    for key, amounts in stored.items():
        found[key] = found[key] + standing * np.divide(amounts, total, out=np.zeros_like(total), where=total > 0)
    return found


def _of_part(result: Forecast, part: Part, places: list[int]) -> list[Holding]:
    return [
        result.holdings[at] if len(part[at]) == len(result.holdings[at].workloads) else result.holdings[at].of(*part[at])
        for at in places
        if at in part
    ]


def _beside(result: Forecast, by: PartOfCost) -> dict[str, Money]:
    """What costs beside storage, by the workloads it is paid for; of routes, nothing is paid for a workload through one."""
    found: dict[str, Money] = {}
    if by == "route":
        return found
    key_of = _key_of(by)
    for cost in result.design.costs:
        for workload, amounts in due_for(cost, result):
            key = key_of(workload)
            found[key] = found.get(key, 0.0) + amounts
    return found


def dearest(parts: list[CostOfPart], most: int) -> list[CostOfPart]:
    """The first parts, and the rest together as the last one.

    >>> some = [CostOfPart(name, name, np.array([cost])) for name, cost in (("a", 5.0), ("b", 2.0), ("c", 1.0))]
    >>> [(one.name, float(one.per_month[0])) for one in dearest(some, 2)]
    [('a', 5.0), ('2 others', 3.0)]
    """
    if len(parts) <= most:
        return parts
    rest = parts[most - 1 :]
    together = np.sum([one.per_month for one in rest], axis=0)
    return [*parts[: most - 1], CostOfPart("", f"{grouped(len(rest))} others", together)]
