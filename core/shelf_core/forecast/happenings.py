"""What happens in a design and when, beside the runs of its cadences: copies, step-downs, tapes, targets that fill."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from shelf_core.arrays import Days, Instants
from shelf_core.calendar.zones import DAY
from shelf_core.design.routes import Copy, Route
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.rotations import set_words
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.tape import used_cartridges

Sort = Literal["copy", "step-down", "tape set", "cartridges", "full"]


@dataclass(frozen=True, eq=False)
class Happening:
    """Something that happens again and again, or once: at `instants`, or on whole days (`days`, numbers of local days).

    One of the two is empty. `key` tells it from all others of the design and stays while the design is edited.
    """

    sort: Sort
    key: str
    words: str
    instants: Instants
    days: Days


def happenings(result: Forecast) -> list[Happening]:
    """All that happens within the design, what never does left out."""
    found = [*_copies(result), *_tape_sets(result), *_cartridges(result), *_full(result)]
    return [one for one in found if len(one.instants) or len(one.days)]


NONE = np.zeros(0, np.int64)


def _copies(result: Forecast) -> list[Happening]:
    """Points that follow on a further copy, and those that step down; first-hand copies are runs of a cadence."""
    target_names = [target.name or target.id for target in result.design.targets]
    found = []
    for route, copy in _each_copy(result):
        for stage in range(len(copy.step_downs) + 1):
            if stage == 0 and copy.cadence is not None:
                continue
            mine = [one for one in result.holdings if (one.route, one.copy, one.stage) == (route.id, copy.id, stage)]
            if not mine:
                continue
            where, words = target_names[mine[0].target], f"{route.name or route.id}: {copy.name or copy.id}"
            does = f"follows on {where}" if stage == 0 else f"steps down to {where}"
            sort: Sort = "copy" if stage == 0 else "step-down"
            key = f"{sort} {route.id} {copy.id} {stage}"
            found.append(Happening(sort, key, f"{words} {does}", _written(mine, result), NONE))
    return found


def _each_copy(result: Forecast) -> list[tuple[Route, Copy]]:
    return [(route, copy) for route in result.design.routes for copy in route.copies]


def _written(holdings: list[Holding], result: Forecast) -> Instants:
    """When anything is written within the design, opening stock aside."""
    written = np.unique(np.concatenate([one.life.written for one in holdings]))
    return written[(written >= result.frame.begin) & (written < result.frame.end)]


def _tape_sets(result: Forecast) -> list[Happening]:
    """Which set of a rotation is to be in the drive, by day."""
    found = []
    for route, copy in _each_copy(result):
        mine = [one for one in result.holdings if (one.route, one.copy, one.stage) == (route.id, copy.id, 0)]
        if copy.rotation is None or not mine:
            continue
        written, sets = (np.concatenate(column) for column in zip(*(_in_turn(one) for one in mine), strict=True))
        inside = (written >= result.frame.begin) & (written < result.frame.end)
        days, sets = _local_days(result, written[inside]), sets[inside]
        words = f"{route.name or route.id}: {copy.name or copy.id}"
        for number in np.unique(sets).tolist():
            key = f"tape set {route.id} {copy.id} {number}"
            does = f"{words} is written to {set_words(copy.rotation, number)}"
            found.append(Happening("tape set", key, does, NONE, np.unique(days[sets == number])))
    return found


def _in_turn(holding: Holding) -> tuple[Instants, Instants]:
    """When each point of a rotation was written, and on which set."""
    life = holding.life
    return life.written, life.tape_set if life.tape_set is not None else np.zeros(len(life), np.int64)


def _cartridges(result: Forecast) -> list[Happening]:
    """The days at whose end more cartridges are in use than the day before, or fewer."""
    found = []
    for place, target in enumerate(result.design.targets):
        if target.media != "tape" or target.cartridge is None:
            continue
        mine = [one for one in result.holdings if one.target == place]
        in_use = np.r_[0, np.round(used_cartridges(result, target, mine).in_use.at_end)]
        name, change = target.name or target.id, np.diff(in_use)
        for which, words in ((change > 0, "more cartridges are in use"), (change < 0, "cartridges can be used again")):
            key = f"cartridges {target.id} {words}"
            days = result.frame.first_day + np.flatnonzero(which)
            found.append(Happening("cartridges", key, f"{name}: {words}", NONE, days))
    return found


def _full(result: Forecast) -> list[Happening]:
    found = []
    for one in result.targets:
        if one.full_on is not None:
            words = f"{one.target.name or one.target.id} is full"
            day = np.array([result.frame.first_day + one.full_on])
            found.append(Happening("full", f"full {one.target.id}", words, NONE, day))
    return found


def _local_days(result: Forecast, instants: Instants) -> Days:
    return result.frame.zone.local(instants) // DAY
