"""On which cartridges each machine's part of a point lies, and which of them are away (docs/model.md, Tape)."""

import math
from dataclasses import dataclass, field
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.design.targets import Target
from shelf_core.design.values import bytes_of
from shelf_core.engine.hardware.tape import closing_ticks
from shelf_core.engine.schedule.frame import AFTER_ALL
from shelf_core.engine.volume.ledger import PHASES, RECLAIM, WRITE, arrival_ticks, ticks
from shelf_core.engine.volume.pieces import separate_bytes
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.transfers import PRIORITY
from shelf_core.proof.lying import Lying


class _Write(NamedTuple):
    tick: int
    priority: int
    order: int
    machine: int
    place: int
    holding: int
    media_set: tuple[str, str, int, int]
    closes: int
    size: float
    workload: str


@dataclass
class _Open:
    """The cartridge of a media set that is written just now."""

    number: int
    room: float
    closes: int


@dataclass
class TapeLayout:
    """By (holding, workload, place, machine from 0) the numbers of cartridges; by number from when each is away.

    `closed_from` says by number from which tick nothing more is written to it: when its set closes, or it is full.
    """

    lies_on: dict[tuple[int, str, int, int], list[int]] = field(default_factory=dict)
    away_from: list[int] = field(default_factory=list)
    closed_from: list[int] = field(default_factory=list)

    def of(self, holding: int, workload: str, place: int, machine: int) -> list[int]:
        """The cartridges on which a machine's part of a point lies; none where no size of a cartridge is known."""
        return self.lies_on.get((holding, workload, place, machine), [])

    def leaves(self, lying: Lying, *, last: bool = True) -> Bytes:
        """When the last (else the first) cartridge of each point has left for the store, all machines together.

        Infinity for what lies on none, or never leaves. It is away at an instant t if it left before t.
        """
        found = np.full(len(lying.taken), math.inf)
        if lying.target.returns_after is None:
            return found
        chosen = max if last else min
        for place in range(len(found)):
            machines = range(lying.workload.count)
            numbers = {one for machine in machines for one in self.of(lying.number, lying.workload.id, place, machine)}
            tick = chosen((self.away_from[number] for number in numbers), default=AFTER_ALL)
            if tick < AFTER_ALL:
                found[place] = tick / PHASES
        return found

    def is_away(self, cartridge: int, instant: int) -> bool:
        """Whether it is away just before an instant."""
        return self.away_from[cartridge] < int(ticks(np.array([instant]), WRITE)[0])


class TapeLayouts:
    """How the points of each tape target lie on cartridges, found once."""

    def __init__(self, result: Forecast) -> None:
        self._result = result
        self._known: dict[str, TapeLayout] = {}

    def of(self, target: Target) -> TapeLayout:
        """How those of one target do; of what is no tape none lies on any."""
        if target.id not in self._known:
            self._known[target.id] = layout_of(self._result, target)
        return self._known[target.id]


def layout_of(result: Forecast, target: Target) -> TapeLayout:
    """How all points of a tape target lie on cartridges, each machine's part apart, in the order in which they are written."""
    layout = TapeLayout()
    if target.media != "tape" or target.cartridge is None:
        return layout
    capacity, leaves = bytes_of(target.cartridge), target.returns_after is not None
    open_ones: dict[tuple[str, str, int, int], _Open] = {}
    for write in sorted(_writes(result, target), key=lambda one: one[:6]):
        found: list[int] = []
        left = write.size
        while left > 0:
            there = open_ones.get(write.media_set)
            if there is None or there.room <= 0 or there.closes <= write.tick:
                there = open_ones[write.media_set] = _Open(len(layout.away_from), capacity, write.closes)
                layout.away_from.append(write.closes if leaves else AFTER_ALL)
                layout.closed_from.append(write.closes)
            part = min(left, there.room)
            there.room, left = there.room - part, left - part
            found.append(there.number)
            if there.room <= 0:
                layout.closed_from[there.number] = min(write.tick, layout.closed_from[there.number])
                layout.away_from[there.number] = layout.closed_from[there.number] if leaves else AFTER_ALL
        layout.lies_on[write.holding, write.workload, write.place, write.machine] = found
    return layout


def _writes(result: Forecast, target: Target) -> list[_Write]:
    copies = {(route.id, copy.id): copy for route in result.design.routes for copy in route.copies}
    orders = {workload.id: place for place, workload in enumerate(result.design.workloads)}
    found = []
    for number, holding in enumerate(result.holdings):
        if result.design.targets[holding.target] is not target:
            continue
        life, own = holding.life, copies[holding.route, holding.copy].priority
        sets = np.zeros(len(life), np.int64) if life.tape_set is None else life.tape_set
        rotates = life.tape_set is not None
        closes = ticks(life.written, RECLAIM) if rotates else closing_ticks(life.written, target, result.frame)
        for workload in holding.workloads:
            sizes = separate_bytes(life, (workload,), result.frame) / workload.count
            rank = (own or workload.priority or PRIORITY, orders[workload.id])
            columns = zip(arrival_ticks(life).tolist(), sets.tolist(), closes.tolist(), sizes.tolist(), strict=True)
            for place, (tick, which, closing, size) in enumerate(columns):
                media_set = (holding.route, holding.copy, holding.stage, which)
                found += [
                    _Write(tick, *rank, machine, place, number, media_set, closing, size, workload.id)
                    for machine in range(workload.count)
                ]
    return found
