"""The list of points: what is there at a day's end, which rules claim it, and in what state it is."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.zones import local_text
from shelf_core.design.cadences import KINDS
from shelf_core.engine.frame import FAR
from shelf_core.engine.holdings import Holding
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.forecast.forecast import Forecast

STATES = ("kept", "locked", "needed", "due")
KEPT, LOCKED, NEEDED, DUE = range(4)


@dataclass(frozen=True, eq=False)
class Shelf:
    """The points of one holding that are there just before a midnight, oldest first.

    `places` are their places in the lifecycle, `states` numbers of STATES, `locked` the ends of their locks by then,
    `claimed` by label which points of the whole lifecycle a rule claims.
    """

    holding: Holding
    midnight: int
    places: NDArray[np.int64]
    states: NDArray[np.int64]
    locked: NDArray[np.int64]
    claimed: dict[str, NDArray[np.bool_]]

    def claims(self, place: int) -> list[str]:
        """The labels of the rules that claim a point, sorted."""
        return sorted(label for label, claimed in self.claimed.items() if claimed[place])


@dataclass(frozen=True)
class PointRow:
    """One point as it is listed; `claims` are sorted labels, the ends local times, `forever` or `never`."""

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


def shelves_on(result: Forecast, day: str) -> list[Shelf]:
    """What is there at the end of a day, a shelf per holding. Raises ValueError for a day outside the design."""
    midnight = int(result.frame.midnights[result.place_of(day) + 1])
    return [_shelf(holding, midnight) for holding in result.holdings]


def points_on(result: Forecast, day: str) -> Iterator[PointRow]:
    """The rows of the list of points at the end of a day: one per workload and point."""
    for shelf in shelves_on(result, day):
        life = shelf.holding.life
        until = life.claimed_until()
        local = result.frame.zone.local(life.taken)
        for place, state, locked in zip(shelf.places.tolist(), shelf.states.tolist(), shelf.locked.tolist(), strict=True):
            for workload in shelf.holding.workloads:
                yield PointRow(
                    workload.id,
                    shelf.holding.route,
                    shelf.holding.copy,
                    result.design.targets[shelf.holding.target].id,
                    local_text(local[place]),
                    KINDS[life.kind[place]],
                    life.run_ids[life.run[place]],
                    tuple(shelf.claims(place)),
                    STATES[state],
                    workload.count,
                    end_text(result, int(until[place])),
                    end_text(result, locked),
                    end_text(result, int(life.removed[place])),
                )


def end_text(result: Forecast, end: int) -> str:
    """The local time of an end; `forever` when it never comes, `never` when the claim was never made."""
    if end < 0:
        return "never"
    if end >= FAR:
        return "forever"
    return local_text(int(result.frame.zone.local(np.array([end]))[0]))


def _shelf(holding: Holding, midnight: int) -> Shelf:
    life = holding.life
    there = (life.written < midnight) & (life.removed >= midnight)
    places = np.flatnonzero(there)
    claimed = life.claims_at(midnight)
    kept = np.logical_or.reduce(list(claimed.values()))[places] & (life.moved_on[places] >= midnight)
    locked = life.locked_at(midnight)[places]
    needed = _needed(life, there)[places]
    states = np.select([kept, locked >= midnight, needed], [KEPT, LOCKED, NEEDED], DUE)
    return Shelf(holding, midnight, places, states, locked, claimed)


def _needed(life: Lifecycle, there: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Whether something that is there needs each point."""
    needed = np.zeros(len(life), bool)
    needed[life.parent[there & life.needs_parent]] = True
    return needed
