"""Charts of the cost of a design: what each part costs in each month, on top of each other."""

from collections.abc import Sequence

from shelf_core.cost.cost import Cost
from shelf_core.engine.schedule.frame import Frame
from shelf_core.forecast.charts import Drawing, month_begins, stacked


def months_drawing(frame: Frame, parts: Sequence[tuple[str, Sequence[float]]]) -> Drawing:
    """Amounts of each month, at its first day, the first part at the foot; each part has an outline."""
    return stacked(frame, month_begins(frame), parts, frame.days - 1)


def cost_drawing(frame: Frame, cost: Cost, names: dict[str, str]) -> Drawing:
    """What all targets and all that costs beside storage cost in each month; `names` are those of targets, by id."""
    targets = [(names.get(one.target, one.target), one.per_month().tolist()) for one in cost.targets]
    return months_drawing(frame, [*targets, *_beside(cost)])


def category_drawing(frame: Frame, cost: Cost) -> Drawing:
    """What each kind of cost comes to in each month, all targets together."""
    categories = [(name, amounts.tolist()) for name, amounts in cost.by_category().items()]
    return months_drawing(frame, [*categories, *_beside(cost)])


def _beside(cost: Cost) -> list[tuple[str, list[float]]]:
    return [(one.name, one.per_month.tolist()) for one in cost.beside]
