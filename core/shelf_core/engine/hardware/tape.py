"""Cartridges: which lie in use on a tape target, and what is stranded on them (docs/model.md, Tape).

Points go to cartridges one after another, per copy and media set. A cartridge can be used again when it is closed or full
and nothing on it is there as a point any more.
"""

import heapq
from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import count
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Instants
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.periods import period_ends
from shelf_core.design.targets import Target
from shelf_core.design.values import bytes_of, duration_of
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.schedule.frame import AFTER_ALL, Frame
from shelf_core.engine.volume.ledger import PHASES, RECLAIM, WRITE, Days, Ledger, arrival_ticks, departure_ticks, ticks
from shelf_core.engine.volume.pieces import separate_bytes

NEVER_CLOSES = "full"
ONLY_A_LOOK = 0
"""Instead of a point: a set closes, and its cartridges may be empty."""


class Cartridges(NamedTuple):
    """Through the days: cartridges in use, and the bytes of gone points that are stranded on them; `slots` of the library.

    `away` are those of them that are closed or full and have left for the store from which they return (none where
    `returns_after` is not given); `in_library` are the others; `in_use_through_time` is the ledger of those in use.
    """

    in_use: Days
    stranded_bytes: Days
    away: Days
    in_library: Days
    slots: int | None
    in_use_through_time: Ledger

    def free_at_end(self) -> Bytes | None:
        """Slots without a cartridge in use at the end of each day (below 0: so many lack), None without a number of slots."""
        return None if self.slots is None else self.slots - self.in_library.at_end

    def full_on(self) -> int | None:
        """The place of the first day on which more cartridges lie in the library than it has slots; None for never."""
        if self.slots is None:
            return None
        over = np.flatnonzero(self.in_library.peak > self.slots)
        return int(over[0]) if len(over) else None


@dataclass
class _Cartridge:
    """One cartridge since it was last put to use; `extents` are the bytes on it by point, `stranded` those of gone ones."""

    room: float
    closes: int
    extents: dict[int, float] = field(default_factory=dict)
    stranded: float = 0.0
    in_use: bool = True
    away: bool = False


class _Write(NamedTuple):
    """A point, or several alike ones, as it goes to a media set of a copy.

    `closes` is the tick at which the set closes, AFTER_ALL when it does so only when full; `rotates` says that a new session
    writes over all that was on the set.
    """

    tick: int
    media_set: tuple[str, str, int, int]
    closes: int
    rotates: bool
    bytes: float
    gone: int


def cartridges_of(target: Target, holdings: list[Holding], frame: Frame) -> Cartridges:
    """What a tape target needs.

    Raises ValueError for a target that does not say what a cartridge holds.
    """
    if target.cartridge is None:
        raise ValueError(f"expected a cartridge size on {target.id}, got none")
    library = _Library(bytes_of(target.cartridge), target, frame)
    writes = [write for holding in holdings for write in _writes(holding, target, frame)]
    for write in sorted(writes, key=lambda one: one.tick):
        library.write(write)
    return library.days()


def _writes(holding: Holding, target: Target, frame: Frame) -> Iterator[_Write]:
    life = holding.life
    sizes = separate_bytes(life, holding.workloads, frame)
    rotates = life.tape_set is not None
    media_set = np.zeros(len(life), np.int64) if life.tape_set is None else life.tape_set
    closes = ticks(life.written, RECLAIM) if rotates else closing_ticks(life.written, target, frame)
    columns = (arrival_ticks(life), media_set, closes, sizes, departure_ticks(life))
    for tick, which, closing, size, gone in zip(*(column.tolist() for column in columns), strict=True):
        yield _Write(tick, (holding.route, holding.copy, holding.stage, which), closing, rotates, size, gone)


def closing_ticks(written: Instants, target: Target, frame: Frame) -> Instants:
    """The tick at which the set of each point closes, AFTER_ALL for never."""
    closes = target.batch_closes or NEVER_CLOSES
    if closes == NEVER_CLOSES:
        return np.full(len(written), AFTER_ALL, np.int64)
    if closes == "run":
        return ticks(written, RECLAIM)
    ends = period_ends(frame.zone.local(written), closes, frame.week_starts)
    return ticks(frame.zone.instants(ends), WRITE)


class _Library:
    """All cartridges of a target through time."""

    def __init__(self, capacity: float, target: Target, frame: Frame) -> None:
        self._capacity = capacity
        self._returns_after = duration_of(target.returns_after) if target.returns_after else None
        self._frame = frame
        self._slots = target.slots
        self._sets: dict[tuple[str, str, int, int], list[_Cartridge]] = {}
        self._agenda: list[tuple[int, int, int, _Cartridge]] = []
        self._entries = count()
        self._points = 0
        self._in_use: list[tuple[int, float]] = []
        self._stranded: list[tuple[int, float]] = []
        self._away: list[tuple[int, float]] = []

    def write(self, write: _Write) -> None:
        """A point goes to the open cartridge of its set, and on to others as far as it spans."""
        self._until(write.tick)
        cartridges = self._sets.setdefault(write.media_set, [])
        if cartridges and cartridges[-1].closes <= write.tick:
            if write.rotates:
                self._write_over(cartridges, write.tick)
            cartridges.clear()
        left, self._points = write.bytes, self._points + 1
        while left > 0:
            if not cartridges or cartridges[-1].room <= 0 or not cartridges[-1].in_use:
                cartridges.append(self._another(write))
            part = min(left, cartridges[-1].room)
            cartridges[-1].extents[self._points] = part
            cartridges[-1].room -= part
            left -= part
            if cartridges[-1].room <= 0:
                self._send_away(cartridges[-1], write.tick)
            self._note(write.gone, self._points, cartridges[-1])

    def days(self) -> Cartridges:
        """The sums through the days of the design."""
        self._until(ticks(np.array([AFTER_ALL]), RECLAIM)[0])
        left = [(tick, -amount) for tick, amount in self._away]
        frame = self._frame
        in_use = _ledger(self._in_use)
        stranded, away, here = (_ledger(all_of) for all_of in (self._stranded, self._away, [*self._in_use, *left]))
        return Cartridges(in_use.days(frame), stranded.days(frame), away.days(frame), here.days(frame), self._slots, in_use)

    def _note(self, tick: int, point: int, cartridge: _Cartridge) -> None:
        # The running number keeps the order of notes of one tick.
        heapq.heappush(self._agenda, (tick, next(self._entries), point, cartridge))

    def _another(self, write: _Write) -> _Cartridge:
        self._in_use.append((write.tick, 1.0))
        cartridge = _Cartridge(self._capacity, write.closes)
        if self._returns_after is not None and write.closes < AFTER_ALL:
            self._note(write.closes, ONLY_A_LOOK, cartridge)
        return cartridge

    def _send_away(self, cartridge: _Cartridge, tick: int) -> None:
        if self._returns_after is not None and cartridge.in_use and not cartridge.away:
            cartridge.away = True
            self._away.append((tick, 1.0))

    def _write_over(self, cartridges: list[_Cartridge], tick: int) -> None:
        for cartridge in cartridges:
            cartridge.extents.clear()
            if cartridge.in_use:
                self._give_back(cartridge, tick)

    def _until(self, tick: int) -> None:
        """Let go what is gone before a tick, and give back what is empty and closed by then."""
        while self._agenda and self._agenda[0][0] < tick:
            now, _, point, cartridge = heapq.heappop(self._agenda)
            amount = cartridge.extents.pop(point, 0.0)
            if amount:
                cartridge.stranded += amount
                self._stranded.append((now, amount))
            if cartridge.closes <= now:
                self._send_away(cartridge, now)
            if cartridge.extents or not cartridge.in_use:
                continue
            if cartridge.room <= 0 or cartridge.closes <= now:
                self._give_back(cartridge, self._returned_at(now))
            elif cartridge.closes < AFTER_ALL:
                self._note(cartridge.closes, ONLY_A_LOOK, cartridge)

    def _returned_at(self, tick: int) -> int:
        if self._returns_after is None:
            return tick
        instant = np.array([tick // PHASES])
        return int(ticks(add_to_instants(instant, self._returns_after, self._frame.zone), RECLAIM)[0])

    def _give_back(self, cartridge: _Cartridge, at: int) -> None:
        cartridge.in_use = False
        self._in_use.append((at, -1.0))
        self._stranded.append((at, -cartridge.stranded))
        if cartridge.away:
            self._away.append((at, -1.0))


def _ledger(entries: list[tuple[int, float]]) -> Ledger:
    ledger = Ledger()
    at = np.array([tick for tick, _ in entries], np.int64)
    ledger.add(at, np.array([amount for _, amount in entries], float))
    return ledger
