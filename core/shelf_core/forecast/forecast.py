"""The forecast: what every target holds on every day of a design, and when it is full."""

from dataclasses import dataclass
from functools import partial

import numpy as np

from shelf_core.arrays import Bytes, Mask
from shelf_core.calendar.zones import day_text
from shelf_core.design.document import Design
from shelf_core.design.machines import with_added_machines
from shelf_core.design.targets import Target
from shelf_core.design.values import bytes_of
from shelf_core.engine.hardware.tape import cartridges_of
from shelf_core.engine.memory import Memory
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.holdings import holdings_of
from shelf_core.engine.retention.keys import slots_key, totals_key
from shelf_core.engine.schedule.frame import Frame, frames_of
from shelf_core.engine.volume.sizes import YEAR_DAYS
from shelf_core.engine.volume.totals import Totals, totals_of
from shelf_core.engine.watching import Watch, nobody


@dataclass(frozen=True, eq=False)
class TargetForecast:
    """One target through the days of the design; `room_bytes` is what it has for us each day, None without capacity."""

    target: Target
    totals: Totals
    room_bytes: Bytes | None
    full_on: int | None
    """The place of the first day whose peak does not fit, or on which a tape library has more cartridges than slots."""


@dataclass(frozen=True, eq=False)
class Forecast:
    """All targets of a design in its order, and the holdings they were computed from.

    `document` is the design as it was given; in `design` the machines that come later stand as workloads of their own.
    """

    document: Design
    design: Design
    frame: Frame
    holdings: list[Holding]
    targets: list[TargetForecast]

    def day(self, place: int) -> str:
        """The ISO date of a day of the design."""
        return day_text(self.frame.first_day + place)

    def before(self, holding: Holding) -> Target | None:
        """The target that the points of a holding come from: that of the stage or the copy before, None for the source."""
        targets = {target.id: target for target in self.design.targets}
        route = next(route for route in self.design.routes if route.id == holding.route)
        copy = next(copy for copy in route.copies if copy.id == holding.copy)
        if holding.stage == 0:
            return next((targets[other.target] for other in route.copies if other.id == copy.from_), None)
        return targets[[copy.target, *(step.target for step in copy.step_downs)][holding.stage - 1]]

    def place_of(self, day: str) -> int:
        """The place of a date among the design's days. Raises ValueError for a date outside of them."""
        return self.frame.place_of(day)


def forecast(design: Design, memory: Memory | None = None, watch: Watch = nobody) -> Forecast:
    """Compute a design. `memory` keeps what the next forecast can use again.

    `watch` is told how many parts are done and how many there are; what it raises, such as Stopped, stops the forecast.
    Raises DesignError, with the place in the document, when the design asks for more than the engine computes.
    """
    document, design = design, with_added_machines(design)
    frame, reaching = frames_of(design)
    memory = memory or Memory()
    holdings = holdings_of(design, reaching, memory, watch)
    on_target: list[list[Holding]] = [[] for _ in design.targets]
    for holding in holdings:
        on_target[holding.target].append(holding)
    targets = []
    for place, target in enumerate(design.targets):
        there = on_target[place]
        # What lies on a target is added up once, as long as nothing of it changes.
        totals = memory.get(totals_key(target, there, frame), partial(totals_of, target, there, frame))
        watch(len(design.routes) + place + 1, len(design.routes) + len(design.targets))
        room = room_bytes(target, frame)
        full = [] if room is None else [_first(totals.peak_bytes > room)]
        full.append(_slots_full(target, there, frame, memory))
        targets.append(TargetForecast(target, totals, room, min((day for day in full if day is not None), default=None)))
    return Forecast(document, design, frame, holdings, targets)


def _slots_full(target: Target, holdings: list[Holding], frame: Frame, memory: Memory) -> int | None:
    if target.slots is None or target.cartridge is None:
        return None
    key = slots_key(target, holdings, frame)
    full: int | None = memory.get(key, lambda: cartridges_of(target, holdings, frame).full_on())
    return full


def room_bytes(target: Target, frame: Frame) -> Bytes | None:
    """What a target has for us on each day: its capacity less the reserve and what others use as that day begins."""
    if target.capacity is None:
        return None
    whole = bytes_of(target.capacity) * (1 - target.reserve_percent / 100)
    use = target.used_otherwise
    if use is None:
        return np.full(frame.days, whole)
    days = np.arange(frame.days)
    return whole - bytes_of(use.size) * (1 + use.annual_growth_percent / 100) ** (days / YEAR_DAYS)


def _first(true: Mask) -> int | None:
    places = np.flatnonzero(true)
    return int(places[0]) if len(places) else None
