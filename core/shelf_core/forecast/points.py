"""The list of points: what is there at a day's end, which rules claim it, in what state it is, how large it is."""

from collections.abc import Container, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.zones import local_text
from shelf_core.design.cadences import KINDS
from shelf_core.design.workloads import Workload
from shelf_core.engine.frame import FAR
from shelf_core.engine.holdings import Holding
from shelf_core.engine.ledger import WRITE, ticks
from shelf_core.engine.moved import moved_bytes
from shelf_core.engine.sizes import Bytes
from shelf_core.engine.snapshots import snapshot_bytes_at
from shelf_core.engine.states import DUE, KEPT, LOCKED, NEEDED, STATES, standing_on
from shelf_core.engine.totals import pieces_of
from shelf_core.forecast.forecast import Forecast

__all__ = [
    "DUE",
    "KEPT",
    "LOCKED",
    "NEEDED",
    "STATES",
    "Chosen",
    "PointRow",
    "PointsPage",
    "Shelf",
    "end_text",
    "points_on",
    "points_page",
    "shelves_on",
    "stored_of_points",
]


@dataclass(frozen=True, eq=False)
class Shelf:
    """The points of one holding that are there just before a midnight, oldest first.

    `places` are their places in the lifecycle, `states` numbers of STATES, `locked` the ends of their locks by then,
    `claimed` by label which points of the whole lifecycle a rule claims, `needed_by` the place of the oldest point there that
    needs each directly, -1 for none.
    """

    holding: Holding
    midnight: int
    places: NDArray[np.int64]
    states: NDArray[np.int8]
    locked: NDArray[np.int64]
    claimed: dict[str, NDArray[np.bool_]]
    needed_by: NDArray[np.int64]

    def claims(self, place: int) -> list[str]:
        """The labels of the rules that claim a point, sorted."""
        return sorted(label for label, claimed in self.claimed.items() if claimed[place])


@dataclass(frozen=True)
class PointRow:
    """One point as it is listed; `claims` are sorted labels, the ends local times, `forever` or `never`.

    `needed_by` is when the oldest point was taken that needs it directly, empty for none; `lock` says whose lock it is that
    runs longest: `own`, `what needs it`, or empty for none.
    The sizes are those of one of `count` alike: as it is stored (on shared packing what is there for its sake: the change
    since its older neighbour, or all of the oldest), and as it was moved to the target.
    """

    workload: str
    route: str
    copy: str
    target: str
    taken: str
    kind: str
    run: str
    claims: tuple[str, ...]
    state: str
    count: int
    claimed_until: str
    locked_until: str
    removed: str
    stored_bytes: float
    moved_bytes: float
    needed_by: str
    lock: str


def shelves_on(result: Forecast, day: str) -> list[Shelf]:
    """What is there at the end of a day, a shelf per holding. Raises ValueError for a day outside the design."""
    place = result.place_of(day)
    return [_shelf(result, holding, place) for holding in result.holdings]


@dataclass(frozen=True)
class Chosen:
    """Which points are listed: those of one target, route, copy, workload (by id) or state; None for all."""

    target: str | None = None
    route: str | None = None
    copy: str | None = None
    workload: str | None = None
    state: str | None = None


@dataclass(frozen=True)
class PointsPage:
    """Some rows of a list of points, and how many the whole list has."""

    total: int
    rows: list[PointRow]


def points_on(result: Forecast, day: str) -> Iterator[PointRow]:
    """The rows of the list of points at the end of a day: one per workload and point."""
    stored = stored_of_points(result, result.place_of(day), range(len(result.design.targets)))
    for number, shelf in enumerate(shelves_on(result, day)):
        rows = _Rows(result, shelf, number, stored)
        for at in range(len(shelf.places)):
            for workload in shelf.holding.workloads:
                yield rows.row(at, workload)


def points_page(result: Forecast, day: str, chosen: Chosen, first: int, most: int) -> PointsPage:
    """`most` rows from `first` on of the list of points, of what is chosen; only these are put together.

    Raises ValueError for a day outside the design.
    """
    place = result.place_of(day)
    wanted: list[tuple[int, Shelf, NDArray[np.int64], list[Workload], range]] = []
    total = 0
    for number, shelf in enumerate(shelves_on(result, day)):
        at = _chosen_points(result, shelf, chosen)
        workloads = [one for one in shelf.holding.workloads if chosen.workload in (None, one.id)]
        count = len(at) * len(workloads)
        part = range(max(first - total, 0), min(first + most - total, count))
        if part:
            wanted.append((number, shelf, at, workloads, part))
        total += count
    stored = stored_of_points(result, place, {shelf.holding.target for _, shelf, *_ in wanted})
    found: list[PointRow] = []
    for number, shelf, at, workloads, part in wanted:
        rows = _Rows(result, shelf, number, stored)
        found += [rows.row(int(at[k // len(workloads)]), workloads[k % len(workloads)]) for k in part]
    return PointsPage(total, found)


def _chosen_points(result: Forecast, shelf: Shelf, chosen: Chosen) -> NDArray[np.int64]:
    """The places among a shelf's points of those that are chosen, whatever their workload."""
    holding = shelf.holding
    is_of = (
        chosen.target in (None, result.design.targets[holding.target].id)
        and chosen.route in (None, holding.route)
        and chosen.copy in (None, holding.copy)
    )
    if not is_of:
        return np.zeros(0, np.int64)
    if chosen.state is None:
        return np.arange(len(shelf.places))
    return np.flatnonzero(shelf.states == STATES.index(chosen.state))


class _Rows:
    """Makes the rows of one shelf; `number` is its holding's among all."""

    def __init__(self, result: Forecast, shelf: Shelf, number: int, stored: dict[tuple[int, str], Bytes]) -> None:
        self._result, self._shelf, self._number, self._stored = result, shelf, number, stored
        self._until = shelf.holding.life.claimed_until()
        self._local = result.frame.zone.local(shelf.holding.life.taken)
        self._moved: dict[str, Bytes] = {}

    def row(self, at: int, workload: Workload) -> PointRow:
        """The row of the point at a place of the shelf, for one of its workloads."""
        shelf, result = self._shelf, self._result
        holding, life = shelf.holding, shelf.holding.life
        place, locked, needer = int(shelf.places[at]), int(shelf.locked[at]), int(shelf.needed_by[at])
        return PointRow(
            workload.id,
            holding.route,
            holding.copy,
            result.design.targets[holding.target].id,
            local_text(int(self._local[place])),
            KINDS[life.kind[place]],
            life.run_ids[life.run[place]],
            tuple(shelf.claims(place)),
            STATES[shelf.states[at]],
            workload.count,
            end_text(result, int(self._until[place])),
            end_text(result, locked),
            end_text(result, int(life.removed[place])),
            float(self._stored[self._number, workload.id][place]) / workload.count,
            float(self._moved_of(workload)[place]) / workload.count,
            local_text(int(self._local[needer])) if needer >= 0 else "",
            _whose_lock(int(life.locked[place]), locked),
        )

    def _moved_of(self, workload: Workload) -> Bytes:
        if workload.id not in self._moved:
            holding, result = self._shelf.holding, self._result
            target = result.design.targets[holding.target]
            self._moved[workload.id] = moved_bytes(holding.of(workload), result.before(holding), target, result.frame)
        return self._moved[workload.id]


def _whose_lock(own: int, longest: int) -> str:
    if longest < 0:
        return ""
    return "own" if own == longest else "what needs it"


def end_text(result: Forecast, end: int) -> str:
    """The local time of an end; `forever` when it never comes, `never` when the claim was never made."""
    if end < 0:
        return "never"
    if end >= FAR:
        return "forever"
    return local_text(int(result.frame.zone.local(np.array([end]))[0]))


def _shelf(result: Forecast, holding: Holding, day: int) -> Shelf:
    midnight = int(result.frame.midnights[day + 1])
    there = standing_on(holding.life, result.frame, np.array([day]))
    return Shelf(holding, midnight, there.place, there.state, there.locked, holding.life.claims_at(midnight), there.needed_by)


def stored_of_points(result: Forecast, day: int, targets: Container[int]) -> dict[tuple[int, str], Bytes]:
    """The bytes that are there for the sake of each point just before the end of a day, by holding and workload.

    Only for the targets whose places are named.
    """
    at = int(ticks(result.frame.midnights[day + 1 : day + 2], WRITE)[0])
    found = {
        (number, workload.id): np.zeros(len(holding.life))
        for number, holding in enumerate(result.holdings)
        if holding.target in targets
        for workload in holding.workloads
    }
    for target_place, target in enumerate(result.design.targets):
        if target_place not in targets:
            continue
        numbers = [number for number, holding in enumerate(result.holdings) if holding.target == target_place]
        holdings = [result.holdings[number] for number in numbers]
        if target.media == "snapshot":
            for number, holding in zip(numbers, holdings, strict=True):
                for workload in holding.workloads:
                    found[number, workload.id] += snapshot_bytes_at(holding.life, workload, at, result.frame)
            continue
        for pieces in pieces_of(target, holdings, result.frame, by_workload=True):
            there = (pieces.begin < at) & (at <= pieces.end)
            for holding_number in np.unique(pieces.holding[there]).tolist():
                mine = there & (pieces.holding == holding_number)
                sizes = found[numbers[holding_number], pieces.workload or ""]
                np.add.at(sizes, pieces.place[mine], pieces.stored_bytes[mine])
    return found
