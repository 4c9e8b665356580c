"""What a design costs: per month and target by category (docs/model.md, Cost)."""

from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from shelf_core.arrays import Bytes, Money
from shelf_core.cost.beside import BesideCost, beside_of
from shelf_core.cost.cartridges import CartridgeDays, bought_per_month, cartridge_days, cartridge_months
from shelf_core.cost.early import early_byte_months
from shelf_core.cost.flows import requests_of
from shelf_core.cost.months import Months, months_of
from shelf_core.design.targets import Prices, Target
from shelf_core.design.values import TB
from shelf_core.engine.memory import Memory
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.keys import cost_key
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.volume.totals import stored_byte_seconds
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.moves import move_basis, moved_of
from shelf_core.forecast.tape import used_cartridges

Category = Literal["capacity", "requests", "retrieval", "traffic", "early deletion", "cartridges", "cartridge storage"]
CATEGORIES: tuple[Category, ...] = (
    "capacity",
    "requests",
    "retrieval",
    "traffic",
    "early deletion",
    "cartridges",
    "cartridge storage",
)


@dataclass(frozen=True, eq=False)
class TargetCost:
    """What one target costs in each month, by category, in the design's currency.

    `tb_months` are the stored bytes integrated over each month, in decimal TB; `cartridges` those of a tape target that says
    what one holds.
    """

    target: str
    by_category: dict[Category, Money]
    tb_months: Bytes
    cartridges: CartridgeDays | None

    def per_month(self) -> Money:
        """The sum of each month."""
        return np.sum(list(self.by_category.values()), axis=0)


@dataclass(frozen=True, eq=False)
class Cost:
    """The cost of all targets, in the order of the design, and what costs beside them.

    `months` are such as 2027-01; the first and last may be cut.
    """

    months: list[str]
    targets: list[TargetCost]
    beside: list[BesideCost] = field(default_factory=list)

    def per_month(self) -> Money:
        """The sum of all targets, and of all that costs beside them, in each month."""
        parts = [*(one.per_month() for one in self.targets), *(one.per_month for one in self.beside)]
        return np.sum([np.zeros(len(self.months)), *parts], axis=0)

    def by_category(self) -> dict[str, Money]:
        """The sum of all targets in each month, by category, those alone that ever cost anything."""
        found: dict[str, Money] = {}
        for name, amounts in (part for one in self.targets for part in one.by_category.items()):
            if amounts.any():
                found[name] = found.get(name, np.zeros(len(self.months))) + amounts
        return found

    def month_of(self, day: str) -> int:
        """The place of the month that an ISO date lies in. Raises ValueError for a date outside the design."""
        if day[:7] not in self.months:
            raise ValueError(f"expected a date from {self.months[0]} to {self.months[-1]}, got {day}")
        return self.months.index(day[:7])


def cost_of(result: Forecast, memory: Memory | None = None) -> Cost:
    """The cost of a forecast; `memory` keeps that of targets on which and around which nothing changes."""
    memory = memory or Memory()
    months = months_of(result.frame)
    costs = []
    for place, target in enumerate(result.design.targets):
        here = [one for one in result.holdings if one.target == place]
        readers = readers_of(result, target)
        around = tuple((one, result.design.targets[one.target].site) for one in readers)
        moves = tuple(move_basis(result, one) for one in (*here, *readers))
        key = cost_key(target, here, result.frame, around, moves)
        question = Question(result, target, here, readers, months)
        costs.append(memory.get(key, question.answer))
    return Cost(months.names, costs, beside_of(result))


def readers_of(result: Forecast, target: Target) -> list[Holding]:
    """The holdings whose points are read from a target that costs something."""
    return [one for one in result.holdings if result.before(one) is target and _is_read(one, target, result)]


def _is_read(holding: Holding, target: Target, result: Forecast) -> bool:
    return target.prices is not None and result.design.targets[holding.target] is not target


@dataclass(frozen=True)
class Question:
    """What one target costs: `here` lies on it, `readers` were read from it."""

    result: Forecast
    target: Target
    here: list[Holding]
    readers: list[Holding]
    months: Months

    def answer(self) -> TargetCost:
        """All of it, month by month."""
        prices = self.target.prices or Prices()
        byte_seconds = stored_byte_seconds(self.target, self.here, self.months.edges, self._frame)
        tb_months = np.maximum(byte_seconds, 0.0) / TB / self.months.seconds
        tapes = used_cartridges(self.result, self.target, self.here) if self.target.cartridge is not None else None
        days = cartridge_days(tapes, self._frame) if tapes is not None else None
        none = np.zeros(len(self.months.names))
        early = early_byte_months(self.target, self.here, self.months, self._frame) / TB
        by_category: dict[Category, Money] = {
            "capacity": prices.capacity_tb_month * tb_months,
            **self.moves(),
            "early deletion": prices.capacity_tb_month * early,
            "cartridges": prices.cartridge * bought_per_month(days, self.months, self._frame) if days else none,
            "cartridge storage": prices.cartridge_month * cartridge_months(tapes, self.months, self._frame) if tapes else none,
        }
        return TargetCost(self.target.id, by_category, tb_months, days)

    def moves(self) -> dict[Category, Money]:
        """What moving points costs: each of them has its own part of it."""
        prices, none = self.target.prices or Prices(), np.zeros(len(self.months.names))
        return {
            "requests": prices.requests_thousand / 1000 * self._requests() if prices.requests_thousand else none,
            "retrieval": prices.retrieval_tb * self._read_tb(elsewhere=False) if prices.retrieval_tb else none,
            "traffic": prices.traffic_tb * self._read_tb(elsewhere=True) if prices.traffic_tb else none,
        }

    @property
    def _frame(self) -> Frame:
        return self.result.frame

    def _requests(self) -> Bytes:
        """The requests of each month: to write what comes, and to read what goes on to other targets."""
        total = np.zeros(len(self.months.names))
        for one in [*self.here, *self.readers]:
            total += self._by_month(one, requests_of(self.result, one, self.target))
        return total

    def _read_tb(self, *, elsewhere: bool) -> Bytes:
        """The decimal TB read in each month by other targets; with `elsewhere` only by those of other sites."""
        total = np.zeros(len(self.months.names))
        for one in self.readers:
            there = self.result.design.targets[one.target]
            if not elsewhere or there.site != self.target.site:
                total += self._by_month(one, moved_of(self.result, one)) / TB
        return total

    def _by_month(self, holding: Holding, amounts: Bytes) -> Bytes:
        written = holding.life.written
        inside = (written >= self._frame.begin) & (written < self._frame.end)
        return np.bincount(self.months.of(written[inside]), amounts[inside], len(self.months.names)).astype(float).astype(float)
