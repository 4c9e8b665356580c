"""Rotations: which set of tapes each session is written to, and so how long it lives (docs/model.md, Tape)."""

from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants, Places
from shelf_core.calendar.names import WEEKDAYS
from shelf_core.calendar.periods import weekdays
from shelf_core.calendar.zones import DAY
from shelf_core.design.patterns import MONTH_NAMES
from shelf_core.design.routes import Rotation
from shelf_core.engine.schedule.frame import AFTER_ALL, Frame

ROTATION = "rotation"
"""The label of what a rotation claims."""
_WEEKLY, _MONTHLY, _YEARLY = 10, 20, 100
"""Where the numbers of the gfs sets begin: those of weekdays at 0."""
DAY_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


class Turns(NamedTuple):
    """The set that each point of a copy lies on, and when that set is next written to; AFTER_ALL where that never comes."""

    tape_set: Places
    ends: Instants


def turns_of(rotation: Rotation, written: Instants, sessions: Instants, frame: Frame) -> Turns:
    """Where points lie that are written at these instants, and until when.

    `sessions` are the instants, ascending, at which the copy writes anything, of whatever workload; each of `written` is one.
    """
    sets = sets_of(rotation, sessions, frame)
    ends = np.full(len(sessions), AFTER_ALL, np.int64)
    order = np.lexsort((sessions, sets))
    again = sets[order[1:]] == sets[order[:-1]]
    ends[order[:-1][again]] = sessions[order[1:][again]]
    place = np.searchsorted(sessions, written)
    return Turns(sets[place], ends[place])


def sets_of(rotation: Rotation, sessions: Instants, frame: Frame) -> Places:
    """The number of the set that each session is written to. Sessions are instants, ascending."""
    count = np.arange(1, len(sessions) + 1)
    if rotation.scheme == "fifo":
        return (count - 1) % (rotation.sets or 1)
    if rotation.scheme == "hanoi":
        ruler = np.log2(count & -count).astype(np.int64) + 1
        return np.minimum(rotation.sets or 1, ruler)
    return _generations(rotation, frame.zone.local(sessions) // DAY)


def set_words(rotation: Rotation, number: int) -> str:
    """What a set is called, by the number that `sets_of` gives it."""
    if rotation.scheme in ("fifo", "hanoi"):
        # The sets of hanoi count from 1, as the ruler sequence does.
        return f"set {number + (rotation.scheme == 'fifo')}"
    if number < _WEEKLY:
        return f"the {DAY_NAMES[number]} set"
    if number < _MONTHLY:
        return f"weekly set {number - _WEEKLY + 1}"
    if number < _YEARLY:
        return f"the {MONTH_NAMES[number - _MONTHLY]} set"
    return f"yearly set {number - _YEARLY + 1}"


def _generations(rotation: Rotation, days: Places) -> Places:
    weekday = weekdays(days)
    dates = days.astype("datetime64[D]")
    months = dates.astype("datetime64[M]")
    day_of_month = days - months.astype("datetime64[D]").astype(np.int64)
    month = months.astype(np.int64) % 12
    is_weekly = weekday == WEEKDAYS.index(rotation.weekly_on or "FR")
    is_last = (dates + 7).astype("datetime64[M]") != months
    is_years_last = is_weekly & is_last & (month == 11) & bool(rotation.years)
    sets = np.where(is_weekly, np.where(is_last, _MONTHLY + month, _WEEKLY + day_of_month // 7), weekday)
    # Several sessions on the last such day of a year are of one year.
    year = dates.astype("datetime64[Y]").astype(np.int64)
    which = np.unique(year[is_years_last], return_inverse=True)[1] % (rotation.years or 1)
    sets[is_years_last] = _YEARLY + which
    return sets
