"""What one more month of each rung would cost, from a second run of the engine and its bill."""

from collections.abc import Sequence
from dataclasses import dataclass

from shelf_core.cost.cost import cost_of
from shelf_core.design.faults import DesignError
from shelf_core.engine.divided import in_one_go
from shelf_core.engine.memory import Memory
from shelf_core.engine.watching import Watch, nobody
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.reasons.keeps import one_month_longer
from shelf_core.reasons.marginals import TargetDifference, differences


@dataclass(frozen=True)
class Longer:
    """A rung kept longer by what was `added`.

    `whole_cost` is what it costs more over the whole design, `monthly_cost` in a month of its last year on average,
    `differences` what it puts on each target at the end. `refused` says why it cannot be, else it is empty.
    """

    ladder: str
    rung: str
    added: str
    whole_cost: float
    monthly_cost: float
    differences: list[TargetDifference]
    refused: str


def one_more_month(result: Forecast, memory: Memory | None = None, watch: Watch = nobody) -> list[Longer]:
    """Every rung of the ladders that copies use, each kept a month longer alone. Rungs kept for good are left out."""
    return in_one_go(LongerWork(result, memory), watch)


class LongerWork:
    """Every rung kept a month longer alone; a part is a rung."""

    def __init__(self, result: Forecast, memory: Memory | None = None) -> None:
        self._result, self._memory = result, memory or Memory()
        used = {copy.ladder for route in result.design.routes for copy in route.copies}
        ladders = [ladder for ladder in result.design.ladders if ladder.id in used]
        self._asked = [(ladder.id, rung.name) for ladder in ladders for rung in ladder.rungs]

    def __len__(self) -> int:
        return len(self._asked)

    def part(self, number: int) -> Longer | None:
        """One rung; None where it is kept for good."""
        return _longer(self._result, *self._asked[number], self._memory)

    def joined(self, parts: Sequence[Longer | None]) -> list[Longer]:
        """Those that can be kept longer."""
        return [one for one in parts if one is not None]


def _longer(result: Forecast, ladder: str, rung: str, memory: Memory) -> Longer | None:
    changed = one_month_longer(result.design, ladder, rung)
    if changed is None:
        return None
    design, added = changed
    try:
        other = forecast(design, memory)
    except DesignError as error:
        return Longer(ladder, rung, added, 0.0, 0.0, [], str(error))
    more = cost_of(other, memory).per_month() - cost_of(result, memory).per_month()
    return Longer(
        ladder, rung, added, float(more.sum()), float(more[-12:].mean()), differences(result, other, result.frame.days - 1), ""
    )
