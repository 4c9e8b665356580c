"""What each rule is worth: the forecast without it, beside the one with it (docs/model.md, What a rule is worth)."""

from collections.abc import Sequence
from dataclasses import dataclass

from shelf_core.design.faults import DesignError
from shelf_core.engine.divided import in_one_go
from shelf_core.engine.memory import Memory
from shelf_core.engine.watching import Watch, nobody
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.reasons.rules import SingleRule, rules_of, without


@dataclass(frozen=True)
class TargetDifference:
    """How much less there would be on a target without a rule: points and bytes at the end of a day, and at the peak."""

    target: str
    points: int
    stored_bytes: float
    peak_bytes: float
    full_on: str | None


@dataclass(frozen=True)
class Marginal:
    """A rule and the targets that would differ without it. `refused` says why the design cannot be without it, else empty."""

    rule: SingleRule
    differences: list[TargetDifference]
    refused: str


def marginals(result: Forecast, day: str, memory: Memory | None = None, watch: Watch = nobody) -> list[Marginal]:
    """What each rule of a design is worth at the end of a day, each from a second run of the engine without it.

    They do not add up to what is there: what two rules claim stays when either goes. `watch` is told after each rule how
    many are done. Raises ValueError for a day outside the design.
    """
    return in_one_go(MarginalsWork(result, day, memory), watch)


class MarginalsWork:
    """What each rule is worth; a part is a rule."""

    def __init__(self, result: Forecast, day: str, memory: Memory | None = None) -> None:
        self._result, self._place, self._memory = result, result.place_of(day), memory or Memory()
        self._rules = rules_of(result.design)

    def __len__(self) -> int:
        return len(self._rules)

    def part(self, number: int) -> Marginal:
        """One rule."""
        return _marginal(self._result, self._rules[number], self._place, self._memory)

    def joined(self, parts: Sequence[Marginal]) -> list[Marginal]:
        """All rules in their order."""
        return list(parts)


def _marginal(result: Forecast, rule: SingleRule, place: int, memory: Memory) -> Marginal:
    try:
        other = forecast(without(result.design, rule), memory)
    except DesignError as error:
        return Marginal(rule, [], str(error))
    return Marginal(rule, differences(other, result, place), "")


def differences(before: Forecast, after: Forecast, place: int) -> list[TargetDifference]:
    """How much more `after` has than `before`, target by target, where they differ; `full_on` is that of `before`."""
    found = []
    for old, new in zip(before.targets, after.targets, strict=True):
        points = int(new.totals.points[place] - old.totals.points[place])
        stored = float(new.totals.stored_bytes[place] - old.totals.stored_bytes[place])
        highest = float(new.totals.peak_bytes.max())
        peak = highest - float(old.totals.peak_bytes.max())
        # Sums of many sizes leave rounding dust.
        if points or max(abs(stored), abs(peak)) > 1e-9 * highest:
            full_on = None if old.full_on is None else before.day(old.full_on)
            found.append(TargetDifference(new.target.id, points, stored, peak, full_on))
    return found
