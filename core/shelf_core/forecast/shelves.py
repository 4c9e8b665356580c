"""What is there of each holding at the end of a day, and why and until when each point of it stays."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from shelf_core.arrays import Instants, Mask, Places
from shelf_core.calendar.zones import DAY
from shelf_core.design.values import LONGEST_YEARS
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.states import standing_on
from shelf_core.engine.schedule.frame import AFTER_ALL
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.point_words import Stay


@dataclass(frozen=True, eq=False)
class Shelf:
    """The points of one holding that are there just before a midnight, oldest first.

    `places` are their places in the lifecycle, `states` numbers of STATES, `locked` the ends of their locks by then,
    `claimed` by label which points of the whole lifecycle a rule claims, `needed_by` the place of the oldest point there that
    needs each directly, -1 for none.
    """

    holding: Holding
    midnight: int
    places: Places
    states: NDArray[np.int8]
    locked: Instants
    claimed: dict[str, Mask]
    needed_by: Places

    def claims(self, place: int) -> list[str]:
        """The labels of the rules that claim a point, sorted."""
        return sorted(label for label, claimed in self.claimed.items() if claimed[place])


def shelves_on(result: Forecast, day: str) -> list[Shelf]:
    """What is there at the end of a day, a shelf per holding. Raises ValueError for a day outside the design."""
    return shelves_on_days(result, [day])[0]


def shelves_on_days(result: Forecast, days: Sequence[str]) -> list[list[Shelf]]:
    """The same for several days, in their order, which costs little more than for one.

    Raises ValueError for a day outside the design.
    """
    places = np.array([result.place_of(day) for day in days], np.int64)
    ascending, which = np.unique(places, return_inverse=True)
    by_holding = [_shelves(result, holding, ascending) for holding in result.holdings]
    return [[shelves[at] for shelves in by_holding] for at in which.tolist()]


def stays_of(result: Forecast, shelf: Shelf, at: Places | None = None) -> Iterator[Stay]:
    """Why and until when each point of a shelf stays; with `at` only those at some of its places, in their order."""
    life = shelf.holding.life
    at = np.arange(len(shelf.places)) if at is None else at
    places, needers = shelf.places[at], shelf.needed_by[at]
    columns = zip(
        places.tolist(),
        shelf.states[at].tolist(),
        _local_ends(result, life.claimed_until()[places]),
        _local_ends(result, shelf.locked[at]),
        _local_ends(result, life.removed[places]),
        _local_ends(result, np.where(needers < 0, AFTER_ALL, life.taken[needers])),
        strict=True,
    )
    for place, state, claimed, locked, removed, needed_by in columns:
        yield Stay(state, shelf.claims(place), claimed, locked, removed, needed_by)


def _local_ends(result: Forecast, ends: Instants) -> list[int | None]:
    """Local seconds of each end, None for what does not end or never was."""
    known = np.minimum(ends, result.frame.end + LONGEST_YEARS * 366 * DAY)
    local = result.frame.zone.local(known).tolist()
    return [None if end < 0 or end >= AFTER_ALL else at for end, at in zip(ends.tolist(), local, strict=True)]


def _shelves(result: Forecast, holding: Holding, days: Places) -> list[Shelf]:
    """What is there of a holding at the ends of ascending days."""
    life = holding.life
    there = standing_on(life, result.frame, days)
    bounds = np.searchsorted(there.day, np.append(days, days[-1] + 1)).tolist()
    found = []
    for midnight, begin, end in zip(result.frame.midnights[days + 1].tolist(), bounds[:-1], bounds[1:], strict=True):
        here = slice(begin, end)
        found.append(
            Shelf(
                holding,
                midnight,
                there.place[here],
                there.state[here],
                there.locked[here],
                life.claims_at(midnight),
                there.needed_by[here],
            )
        )
    return found
