"""The list of points: what is there at a day's end, which rules claim it, in what state it is, how large it is."""

from collections.abc import Container, Iterator
from dataclasses import dataclass, replace

import numpy as np

from shelf_core.arrays import Bytes, Mask, Places
from shelf_core.calendar.zones import DAY, day_number, local_text
from shelf_core.design.cadences import KINDS
from shelf_core.design.values import check_day
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.states import STATES
from shelf_core.engine.volume.ledger import WRITE, ticks
from shelf_core.engine.volume.ledgers import pieces_of
from shelf_core.engine.volume.snapshots import snapshot_bytes_at
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.moves import moved_of
from shelf_core.forecast.point_words import why_it_stays
from shelf_core.forecast.restores import RestoreWords
from shelf_core.forecast.shelves import Shelf, shelves_on, stays_of

FOREVER = "forever"
NEVER = "never"


@dataclass(frozen=True)
class PointRow:
    """One point as it is listed; `claims` are sorted labels, the ends local times, `forever` or `never`.

    `needed_by` is when the oldest point was taken that needs it directly, empty for none; `lock` says whose lock it is that
    runs longest: `own`, `what needs it`, or empty for none; `why` says in a sentence why it is there and until when.
    The sizes are those of one of `count` alike: as it is stored (on shared packing what is there for its sake: the change
    since its older neighbour, or all of the oldest), and as it was moved to the target. `restore` says in a sentence what
    restoring it takes; it is empty in whole lists, which are too long for it.
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
    why: str
    restore: str = ""


@dataclass(frozen=True)
class Chosen:
    """Which points are listed; None for all.

    Those of one target, route, copy, workload (each by id), state, kind or run (by id), those that one rule claims (by its
    label), those taken on or after one local date and on or before another.
    """

    target: str | None = None
    route: str | None = None
    copy: str | None = None
    workload: str | None = None
    state: str | None = None
    kind: str | None = None
    run: str | None = None
    rule: str | None = None
    taken_from: str | None = None
    taken_to: str | None = None

    def __post_init__(self) -> None:
        """Raises ValueError for a date that is none."""
        for name in ("taken_from", "taken_to"):
            if getattr(self, name) is not None:
                check_day(getattr(self, name))


@dataclass(frozen=True)
class PointsPage:
    """Some rows of a list of points, and how many the whole list has.

    `rules` and `runs` are those that a point may be chosen by: the labels of the rules that claim any, the ids of the runs
    that took any, of what is there on the chosen target, route and copy.
    """

    total: int
    rows: list[PointRow]
    rules: list[str]
    runs: list[str]


def points_on(result: Forecast, day: str, chosen: Chosen | None = None) -> Iterator[PointRow]:
    """The rows of the list of points at the end of a day, made as they are asked for: one per workload and point.

    Raises ValueError for a day outside the design, or a date that is none.
    """
    chosen = chosen or Chosen()
    parts = list(_chosen_of(result, day, chosen))
    stored = stored_of_points(result, result.place_of(day), {part.shelf.holding.target for part in parts})
    for part in parts:
        rows = _Rows(result, part, part.at, stored)
        for which in range(len(part.at)):
            for workload in part.workloads:
                yield rows.row(which, workload)


def points_page(result: Forecast, day: str, chosen: Chosen, first: int, most: int) -> PointsPage:
    """`most` rows from `first` on of the list of points, of what is chosen; only these are put together.

    Raises ValueError for a day outside the design, or a date that is none.
    """
    wanted: list[tuple[_Part, range]] = []
    total = 0
    rules: set[str] = set()
    runs: set[str] = set()
    for part in _chosen_of(result, day, chosen):
        life, places = part.shelf.holding.life, part.shelf.places
        rules |= {label for label, claimed in part.shelf.claimed.items() if claimed[places].any()}
        runs |= {life.run_ids[run] for run in np.unique(life.run[places]).tolist()}
        count = len(part.at) * len(part.workloads)
        rows_here = range(max(first - total, 0), min(first + most - total, count))
        if rows_here:
            wanted.append((part, rows_here))
        total += count
    stored = stored_of_points(result, result.place_of(day), {part.shelf.holding.target for part, _ in wanted})
    found: list[PointRow] = []
    for part, rows_here in wanted:
        # A point has a row for each workload, one after the other.
        many = len(part.workloads)
        begin = rows_here[0] // many
        rows = _Rows(result, part, part.at[begin : rows_here[-1] // many + 1], stored)
        found += [rows.row_with_restore(row // many - begin, part.workloads[row % many]) for row in rows_here]
    return PointsPage(total, found, sorted(rules), sorted(runs))


@dataclass(frozen=True, eq=False)
class _Part:
    """What is chosen of one shelf: places among its points, and workloads. `number` is its holding's among all."""

    number: int
    shelf: Shelf
    at: Places
    workloads: list[Workload]


def _chosen_of(result: Forecast, day: str, chosen: Chosen) -> Iterator[_Part]:
    for number, shelf in enumerate(shelves_on(result, day)):
        if _is_of(result, shelf, chosen):
            workloads = [one for one in shelf.holding.workloads if chosen.workload in (None, one.id)]
            yield _Part(number, shelf, np.flatnonzero(_chosen_points(result, shelf, chosen)), workloads)


def _is_of(result: Forecast, shelf: Shelf, chosen: Chosen) -> bool:
    holding = shelf.holding
    return (
        chosen.target in (None, result.design.targets[holding.target].id)
        and chosen.route in (None, holding.route)
        and chosen.copy in (None, holding.copy)
    )


def _chosen_points(result: Forecast, shelf: Shelf, chosen: Chosen) -> Mask:
    """Which of a shelf's points are chosen, whatever their workload."""
    life, places = shelf.holding.life, shelf.places
    found = np.ones(len(places), bool)
    if chosen.state is not None:
        found &= shelf.states == STATES.index(chosen.state)
    if chosen.kind is not None:
        found &= life.kind[places] == KINDS.index(chosen.kind)
    if chosen.run is not None:
        found &= life.run[places] == (life.run_ids.index(chosen.run) if chosen.run in life.run_ids else -1)
    if chosen.rule is not None:
        found &= shelf.claimed[chosen.rule][places] if chosen.rule in shelf.claimed else False
    days = result.frame.zone.local(life.taken[places]) // DAY
    if chosen.taken_from is not None:
        found &= days >= day_number(chosen.taken_from)
    if chosen.taken_to is not None:
        found &= days <= day_number(chosen.taken_to)
    return found


class _Rows:
    """Makes rows of one shelf; `at` are the places among its points that are wanted."""

    def __init__(self, result: Forecast, part: _Part, at: Places, stored: dict[tuple[int, str], Bytes]) -> None:
        self._result, self._shelf, self._number, self._stored, self._at = result, part.shelf, part.number, stored, at
        shelf = part.shelf
        self._stays = list(stays_of(result, shelf, self._at))
        self._taken = result.frame.zone.local(shelf.holding.life.taken[shelf.places[self._at]]).tolist()
        self._was_claimed = shelf.holding.life.claimed_until()[shelf.places[self._at]] >= 0
        self._moved: dict[str, Bytes] = {}
        self._restores: dict[str, RestoreWords] = {}

    def row_with_restore(self, which: int, workload: Workload) -> PointRow:
        """The same with what restoring it takes."""
        holding = self._shelf.holding
        if workload.id not in self._restores:
            target = self._result.design.targets[holding.target]
            self._restores[workload.id] = RestoreWords(holding.life, target, workload, self._result.frame)
        said = self._restores[workload.id].of(int(self._shelf.places[int(self._at[which])]))
        return replace(self.row(which, workload), restore=said)

    def row(self, which: int, workload: Workload) -> PointRow:
        """The row of one of the wanted points, for one of its workloads."""
        shelf, stay = self._shelf, self._stays[which]
        holding, life = shelf.holding, shelf.holding.life
        at = int(self._at[which])
        place, locked = int(shelf.places[at]), int(shelf.locked[at])
        return PointRow(
            workload.id,
            holding.route,
            holding.copy,
            self._result.design.targets[holding.target].id,
            local_text(self._taken[which]),
            KINDS[life.kind[place]],
            life.run_ids[life.run[place]],
            tuple(stay.claims),
            STATES[stay.state],
            workload.count,
            _end_text(stay.claimed, known=bool(self._was_claimed[which])),
            _end_text(stay.locked, known=locked >= 0),
            _end_text(stay.removed),
            float(self._stored[self._number, workload.id][place]) / workload.count,
            float(self._moved_of(workload)[place]) / workload.count,
            "" if stay.needed_by is None else local_text(stay.needed_by),
            _whose_lock(int(life.locked[place]), locked),
            why_it_stays(stay),
        )

    def _moved_of(self, workload: Workload) -> Bytes:
        if workload.id not in self._moved:
            self._moved[workload.id] = moved_of(self._result, self._shelf.holding.of(workload))
        return self._moved[workload.id]


def _whose_lock(own: int, longest: int) -> str:
    if longest < 0:
        return ""
    return "own" if own == longest else "what needs it"


def _end_text(local: int | None, *, known: bool = True) -> str:
    """The local time of an end; `forever` when it never comes, `never` when nothing has begun."""
    if local is None:
        return FOREVER if known else NEVER
    return local_text(local)


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
