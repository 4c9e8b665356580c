"""Points as spines on a shelf: where each stands on the axis of age, how tall it is, and why it is there."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Numbers
from shelf_core.calendar.zones import DAY
from shelf_core.design.cadences import KINDS
from shelf_core.design.ladders import Ladder
from shelf_core.design.vocabulary import HEIGHTS, LOWEST
from shelf_core.engine.retention.states import STATES
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.point_words import why_it_stays
from shelf_core.forecast.shelves import Shelf, shelves_on, shelves_on_days, stays_of


@dataclass(frozen=True)
class Spine:
    """A point of one copy, for all workloads that share its rules.

    `height` is 0 for what no rule claims, else 1 (recent) to 6 (a rung every year); `count` how many such points lie on
    the target; `why` a sentence; `parent` the place among the spines of the shelf of what it builds on, None for nothing there.
    """

    age_days: float
    height: int
    state: str
    kind: str
    count: int
    taken: str
    claims: list[str]
    why: str
    parent: int | None


@dataclass(frozen=True)
class SpineRow:
    """The spines of one copy on a target in columns, to be drawn small: how old in days, how tall, in which state."""

    route: str
    copy: str
    target: str
    age_days: list[float]
    height: list[int]
    state: list[str]


@dataclass(frozen=True)
class ShelfOfCopy:
    """The spines of one copy on a target, the oldest first."""

    route: str
    copy: str
    target: str
    workloads: int
    spines: list[Spine]


def spines_on(result: Forecast, day: str, ladder: str | None = None) -> list[ShelfOfCopy]:
    """The shelves at the end of a day, one per copy and group of workloads; with `ladder` only those that it rules.

    Raises ValueError for a day outside the design.
    """
    ladders = _ladders(result)
    each = [(shelf, ladders[shelf.holding.route, shelf.holding.copy]) for shelf in shelves_on(result, day)]
    return [_shelf(result, shelf, rule) for shelf, rule in each if ladder is None or (rule is not None and ladder == rule.id)]


def spine_rows_on(result: Forecast, days: Sequence[str]) -> list[list[SpineRow]]:
    """For each day the shelves at its end without a word about any spine, one row for each copy on a target.

    Raises ValueError for a day outside the design.
    """
    ladders = _ladders(result)
    return [_spine_rows(result, shelves, ladders) for shelves in shelves_on_days(result, days)]


def _spine_rows(result: Forecast, shelves: list[Shelf], ladders: dict[tuple[str, str], Ladder | None]) -> list[SpineRow]:
    rows: dict[tuple[str, str, int], SpineRow] = {}
    for shelf in shelves:
        holding = shelf.holding
        new = SpineRow(holding.route, holding.copy, result.design.targets[holding.target].id, [], [], [])
        row = rows.setdefault((holding.route, holding.copy, holding.target), new)
        ages = (shelf.midnight - holding.life.taken[shelf.places]) / DAY
        row.age_days.extend(np.round(ages, 3).tolist())
        row.height.extend(_heights(shelf, ladders[holding.route, holding.copy]).tolist())
        row.state.extend([STATES[state] for state in shelf.states.tolist()])
    return [row for row in rows.values() if row.age_days]


def _heights(shelf: Shelf, ladder: Ladder | None) -> Numbers:
    """How tall each spine of a shelf is: as its longest claim says, 0 without any."""
    by_label = {rung.name: HEIGHTS[rung.every] for rung in (ladder.rungs if ladder else ())}
    found = np.zeros(len(shelf.places), np.int64)
    for label, claimed in shelf.claimed.items():
        found = np.maximum(found, np.where(claimed[shelf.places], by_label.get(label, LOWEST), 0))
    return found


def _ladders(result: Forecast) -> dict[tuple[str, str], Ladder | None]:
    """The ladder of each copy, None where a rotation rules."""
    by_id = {ladder.id: ladder for ladder in result.design.ladders}
    return {(route.id, copy.id): by_id.get(copy.ladder or "") for route in result.design.routes for copy in route.copies}


def _shelf(result: Forecast, shelf: Shelf, ladder: Ladder | None) -> ShelfOfCopy:
    holding, life = shelf.holding, shelf.holding.life
    heights = _heights(shelf, ladder).tolist()
    count = sum(workload.count for workload in holding.workloads)
    local = result.frame.zone.local
    ages = ((shelf.midnight - life.taken[shelf.places]) / DAY).tolist()
    taken = local(life.taken[shelf.places]).tolist()
    parents = _parents_there(shelf)
    spines = [
        Spine(
            age_days=ages[at],
            height=heights[at],
            state=STATES[stay.state],
            kind=KINDS[life.kind[shelf.places[at]]],
            count=count,
            taken=written_day(taken[at], with_time=True),
            claims=stay.claims,
            why=why_it_stays(stay),
            parent=parents[at],
        )
        for at, stay in enumerate(stays_of(result, shelf))
    ]
    return ShelfOfCopy(holding.route, holding.copy, result.design.targets[holding.target].id, count, spines)


def _parents_there(shelf: Shelf) -> list[int | None]:
    """Where on the shelf the parent of each point stands, None for a point that needs none or whose parent is not there."""
    life = shelf.holding.life
    at = np.full(len(life) + 1, -1, np.int64)
    at[shelf.places] = np.arange(len(shelf.places))
    found = np.where(life.needs_parent[shelf.places], at[life.parent[shelf.places]], -1).tolist()
    return [None if place < 0 else place for place in found]
