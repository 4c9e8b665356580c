"""What moves at an instant: bytes of alike transfers together, at rates that stay as they are between two events."""

import heapq
import math
from dataclasses import dataclass, field
from typing import NamedTuple

from shelf_core.nights.fair import Flow, fair_rates
from shelf_core.nights.resources import Leg, Resources

TOGETHER = 1e-6
"""Seconds within which two events are one: instants are floating-point numbers."""
BY_PRIORITY = " by priority"
MOST_KEPT = 50_000
Held = dict[str, float]
"""Seconds by the label of what held something."""


class Alike(NamedTuple):
    """What transfers have in common whose bytes move at the same rate."""

    priority: int
    leg: Leg


class Use(NamedTuple):
    """From when until when a resource carried so much, and how much it could."""

    begin: float
    end: float
    resource: int
    used: float
    capacity: float


@dataclass(eq=False)
class _Group:
    """Alike transfers whose bytes move now: each has moved what `moved` has grown by since it began.

    `until` are their numbers by the value of `moved` at which each is through; `seconds` how long what held them.
    """

    alike: Alike
    until: list[tuple[float, int]] = field(default_factory=list)
    moved: float = 0.0
    rate: float = 0.0
    label: str = ""
    seconds: Held = field(default_factory=dict)


class _Shares(NamedTuple):
    """The rate of each group and the label of what holds it, and all resources that they use."""

    rates: list[tuple[float, str]]
    used: set[int]


class Moving:
    """All that moves. Instants are seconds since the design's beginning, at the instant `begin`."""

    def __init__(self, resources: Resources, begin: int) -> None:
        self._resources, self._begin = resources, begin
        self._places: dict[Alike, int] = {}
        self._groups: dict[int, _Group] = {}
        self._since: dict[int, Held] = {}
        self._group_of: dict[int, int] = {}
        self._kept: dict[object, _Shares] = {}
        self._is_shared = False
        self._limit_changes = -math.inf
        self.use: list[Use] = []

    def begin_with(self, number: int, alike: Alike, amount: float) -> None:
        """So many bytes of a transfer begin to move."""
        place = self._places.setdefault(alike, len(self._places))
        group = self._groups.get(place)
        if group is None:
            group = self._groups[place] = _Group(alike)
        heapq.heappush(group.until, (group.moved + amount, number))
        self._since[number], self._group_of[number] = dict(group.seconds), place
        self._is_shared = False

    def next_event(self, now: float) -> float:
        """When the next bytes are through, or a limit of something in use begins or ends; inf for never."""
        if not self._groups:
            return math.inf
        self._share(now)
        soonest = self._limit_changes
        for one in self._groups.values():
            if one.rate > 0:
                left = one.until[0][0] - one.moved
                at = now + left / one.rate if left > 0 else now
                soonest = min(soonest, at)
        return soonest

    def advance(self, now: float, at: float, *, note_use: bool) -> None:
        """Let bytes move from one instant to another."""
        seconds = at - now
        if seconds <= 0 or not self._groups:
            return
        self._share(now)
        if note_use:
            self._note_use(now, at)
        for one in self._groups.values():
            one.moved += one.rate * seconds
            one.seconds[one.label] = one.seconds.get(one.label, 0.0) + seconds
        if at + TOGETHER >= self._limit_changes:
            self._is_shared = False

    def through(self) -> list[tuple[int, Held]]:
        """The transfers whose bytes have moved, each with what held it meanwhile."""
        found: list[tuple[int, Held]] = []
        for place, one in list(self._groups.items()):
            slack = math.inf if one.rate == math.inf else max(one.rate, 1.0) * TOGETHER
            limit = one.moved + slack
            if one.until[0][0] > limit:
                continue
            self._is_shared = False
            while one.until and one.until[0][0] <= limit:
                _, number = heapq.heappop(one.until)
                del self._group_of[number]
                before = self._since.pop(number)
                found.append((number, {label: seconds - before.get(label, 0.0) for label, seconds in one.seconds.items()}))
            if not one.until:
                del self._groups[place]
        return found

    def take_out(self, number: int) -> None:
        """The bytes of a transfer move no more."""
        place = self._group_of.pop(number, None)
        if place is None:
            return
        del self._since[number]
        group = self._groups[place]
        group.until = [entry for entry in group.until if entry[1] != number]
        heapq.heapify(group.until)
        if not group.until:
            del self._groups[place]
        self._is_shared = False

    def _share(self, now: float) -> None:
        """Give all that moves its rate, anew where something has changed."""
        if self._is_shared:
            return
        self._is_shared = True
        instant = now + self._begin + TOGETHER
        capacities = self._resources.capacities_at(instant)
        key = (tuple((place, len(one.until)) for place, one in self._groups.items()), capacities)
        shares = self._kept.get(key)
        if shares is None:
            if len(self._kept) > MOST_KEPT:
                self._kept.clear()
            shares = self._kept[key] = self._shared(capacities)
        for one, (rate, label) in zip(self._groups.values(), shares.rates, strict=True):
            one.rate, one.label = rate, label
        self._limit_changes = self._resources.next_change(shares.used, instant) - self._begin

    def _shared(self, capacities: tuple[float, ...]) -> _Shares:
        """The rate of each group with what holds it, and the resources that are used."""
        groups = list(self._groups.values())
        rates = fair_rates([Flow(one.alike.priority, one.alike.leg.constraints, len(one.until)) for one in groups], capacities)
        found = []
        for one, rate in zip(groups, rates, strict=True):
            label = "" if rate.held_by is None else one.alike.leg.labels[rate.held_by]
            found.append((rate.rate, label + (BY_PRIORITY if rate.by_priority and label else "")))
        used = {one.resource for group in groups for one in group.alike.leg.constraints if one.resource is not None}
        return _Shares(found, used)

    def _note_use(self, now: float, at: float) -> None:
        used: dict[int, float] = {}
        for one in self._groups.values():
            for constraint in one.alike.leg.constraints:
                if constraint.resource is not None:
                    used[constraint.resource] = used.get(constraint.resource, 0.0) + one.rate * constraint.amount * len(
                        one.until
                    )
        capacities = self._resources.capacities_at(now + self._begin + TOGETHER)
        self.use += [Use(now, at, place, amount, capacities[place]) for place, amount in used.items()]
