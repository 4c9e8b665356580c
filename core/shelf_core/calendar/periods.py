"""Calendar periods of local times, and the days that `on` names within them."""

import re

import numpy as np
from numpy.typing import NDArray

from shelf_core.arrays import Days, LocalSeconds, Mask, Numbers
from shelf_core.calendar.names import WEEKDAYS
from shelf_core.calendar.zones import DAY

MONTHS = {"month": 1, "quarter": 3, "year": 12}
_EPOCH_WEEKDAY = 3
"""1970-01-01 was a Thursday; Monday is 0."""


def period_numbers(local: LocalSeconds, every: str, week_starts: str) -> Numbers:
    """The number of the period of each local time: equal numbers are the same period, later periods have larger ones."""
    if every == "hour":
        return local // 3600
    days = local // DAY
    if every == "day":
        return days
    if every == "week":
        return (days + _EPOCH_WEEKDAY - WEEKDAYS.index(week_starts)) // 7
    months = days.astype("datetime64[D]").astype("datetime64[M]").astype(np.int64)
    return months // MONTHS[every]


def period_ends(local: LocalSeconds, every: str, week_starts: str) -> LocalSeconds:
    """The local second at which the period of each local time is over."""
    number = period_numbers(local, every, week_starts) + 1
    if every == "hour":
        return number * 3600
    if every == "day":
        return number * DAY
    if every == "week":
        return (number * 7 - _EPOCH_WEEKDAY + WEEKDAYS.index(week_starts)) * DAY
    return _first_day((number * MONTHS[every]).astype("datetime64[M]")) * DAY


def on_or_after(local: LocalSeconds, every: str, on: str | int, week_starts: str) -> Mask:
    """Whether each local time lies on or after the day of its period that `on` names."""
    days = local // DAY
    if every == "week":
        start = WEEKDAYS.index(week_starts)
        return (weekdays(days) - start) % 7 >= (WEEKDAYS.index(str(on)) - start) % 7
    if every == "month":
        return days >= _day_of_month(days.astype("datetime64[D]").astype("datetime64[M]"), on)
    years = days.astype("datetime64[D]").astype("datetime64[Y]")
    month, day = (int(part) for part in str(on).split("-"))
    months = years.astype("datetime64[M]") + (month - 1)
    return days >= _clipped(months, np.full(len(days), day))


def weekdays(days: Days) -> Numbers:
    """The weekday of day numbers, Monday 0."""
    return (days + _EPOCH_WEEKDAY) % 7


def _day_of_month(months: NDArray[np.datetime64], on: str | int) -> Days:
    """The day number of `on` in each month. An n-th weekday that a month lacks never comes: it lies past its end."""
    match = re.fullmatch(r"(-?\d)([A-Z]{2})", str(on))
    if match is None:
        return _clipped(months, np.full(len(months), int(on)))
    nth, weekday = int(match[1]), WEEKDAYS.index(match[2])
    first, last = _first_day(months), _first_day(months + 1) - 1
    if nth > 0:
        return first + (weekday - weekdays(first)) % 7 + 7 * (nth - 1)
    found = last - (weekdays(last) - weekday) % 7 + 7 * (nth + 1)
    return np.where(found < first, last + 1, found)


def _clipped(months: NDArray[np.datetime64], day: Numbers) -> Days:
    first, last = _first_day(months), _first_day(months + 1) - 1
    return np.minimum(first + day - 1, last)


def _first_day(months: NDArray[np.datetime64]) -> Days:
    return months.astype("datetime64[D]").astype(np.int64)
