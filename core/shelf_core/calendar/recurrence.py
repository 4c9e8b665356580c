"""Recurrence rules of RFC 5545 (section 3.3.10) on arrays of days, bounded in time by the range that is asked for."""

from dataclasses import replace

import numpy as np

from shelf_core.arrays import Counts, Days, LocalSeconds, Mask, Numbers, begins_anew
from shelf_core.calendar.periods import weekdays
from shelf_core.calendar.rules import Rule
from shelf_core.calendar.zones import DAY
from shelf_core.digits import grouped

MOST_OCCURRENCES = 500_000
"""A rule that comes more often than this within a design is refused."""


def occurrences(rule: Rule, start: int, last_day: int) -> LocalSeconds:
    """The local seconds at which a rule occurs, in order.

    `start` is DTSTART in local seconds; it counts only if it matches. `last_day` is the last day number wanted. Raises
    ValueError when there are more than MOST_OCCURRENCES.
    """
    if rule.frequency in ("HOURLY", "MINUTELY"):
        found = _short_steps(rule, start, last_day)
    else:
        found = _day_steps(rule, start, last_day)
    found = found[found >= start]
    if rule.count is not None:
        found = found[: rule.count]
    if len(found) > MOST_OCCURRENCES:
        raise ValueError(f"expected at most {grouped(MOST_OCCURRENCES)} runs within the design, got {grouped(len(found))}")
    return found


def _short_steps(rule: Rule, start: int, last_day: int) -> LocalSeconds:
    step = (3600 if rule.frequency == "HOURLY" else 60) * rule.interval
    end = (last_day + 1) * DAY
    if (end - start) // step > 20 * MOST_OCCURRENCES:
        raise ValueError(
            f"expected a rule with at most {grouped(20 * MOST_OCCURRENCES)} steps within the design,"
            f" got {grouped((end - start) // step)}"
        )
    if rule.positions:
        raise ValueError("expected BYSETPOS only with FREQ=DAILY and longer")
    times = np.arange(start, end, step, dtype=np.int64)
    times = times[_day_filter(rule, times // DAY)]
    if rule.hours:
        times = times[np.isin(times // 3600 % 24, rule.hours)]
    if rule.minutes:
        if rule.frequency == "HOURLY":
            hours = times // 3600 * 3600 + start % 60
            return (hours[:, None] + 60 * np.array(sorted(set(rule.minutes)))).ravel()
        times = times[np.isin(times // 60 % 60, rule.minutes)]
    return times


def _day_steps(rule: Rule, start: int, last_day: int) -> LocalSeconds:
    first_day = start // DAY
    # Whole years, so that positions and ordinals are counted within complete periods; a week may begin before them.
    begin = _year_start(first_day) - 7
    days = np.arange(begin, _year_start(last_day + 366) + 7, dtype=np.int64)
    rule = _with_defaults(rule, first_day)
    period = _period(rule, days)
    anchor = int(_period(rule, np.array([first_day]))[0])
    chosen = _day_filter(rule, days) & ((period - anchor) % rule.interval == 0) & (period >= anchor)
    if rule.frequency == "WEEKLY" and rule.positions:
        # RFC 5545 leaves open whether positions of the first week count days before DTSTART; the usual reading does not.
        chosen &= days >= first_day
    days, period = days[chosen], period[chosen]
    hours = np.array(sorted(set(rule.hours)) or [start // 3600 % 24])
    minutes = np.array(sorted(set(rule.minutes)) or [start // 60 % 60])
    clock = (hours[:, None] * 3600 + minutes[None, :] * 60).ravel() + start % 60
    times = (days[:, None] * DAY + clock[None, :]).ravel()
    if rule.positions:
        times = times[_at_positions(np.repeat(period, len(clock)), rule.positions)]
    return times[times < (last_day + 1) * DAY]


def _with_defaults(rule: Rule, first_day: int) -> Rule:
    """What DTSTART stands for where a rule names no day."""
    if rule.weekdays or rule.month_days or rule.year_days or rule.week_numbers or rule.frequency == "DAILY":
        return rule
    day = np.array([first_day])
    if rule.frequency == "WEEKLY":
        return replace(rule, weekdays=((0, int(weekdays(day)[0])),))
    month_day = (int(_day_in_month(day)[0]) + 1,)
    if rule.frequency == "YEARLY" and not rule.months:
        return replace(rule, months=(int(_month_of_year(day)[0]),), month_days=month_day)
    return replace(rule, month_days=month_day)


def _period(rule: Rule, days: Days) -> Numbers:
    if rule.frequency == "DAILY":
        return days
    if rule.frequency == "WEEKLY":
        return (days + 3 - rule.week_start) // 7
    months = days.astype("datetime64[D]").astype("datetime64[M]").astype(np.int64)
    return months if rule.frequency == "MONTHLY" else months // 12


def _day_filter(rule: Rule, days: Days) -> Mask:
    keep = np.ones(len(days), bool)
    if rule.months:
        keep &= np.isin(_month_of_year(days), rule.months)
    if rule.month_days:
        keep &= _counted(_day_in_month(days), _month_length(days), rule.month_days)
    if rule.year_days:
        keep &= _counted(_day_in_year(days), _year_length(days), rule.year_days)
    if rule.week_numbers:
        keep &= _in_weeks(days, rule)
    if rule.weekdays:
        keep &= _on_weekdays(days, rule)
    return keep


def _on_weekdays(days: Days, rule: Rule) -> Mask:
    weekday = weekdays(days)
    within_month = rule.frequency == "MONTHLY" or bool(rule.months)
    index = _day_in_month(days) if within_month else _day_in_year(days)
    length = _month_length(days) if within_month else _year_length(days)
    keep = np.zeros(len(days), bool)
    for nth, wanted in rule.weekdays:
        right = weekday == wanted
        if nth > 0:
            right &= index // 7 == nth - 1
        elif nth < 0:
            right &= (length - 1 - index) // 7 == -nth - 1
        keep |= right
    return keep


def _in_weeks(days: Days, rule: Rule) -> Mask:
    """Whether the week of a day has one of the numbers: week 1 is the first with four days in the year."""
    week_begin = days - (weekdays(days) - rule.week_start) % 7
    year_of_week = _year_start_array(week_begin + 3)
    first_week = _first_week(year_of_week, rule.week_start)
    number = (week_begin - first_week) // 7
    count = (_first_week(_year_start_array(year_of_week + 370), rule.week_start) - first_week) // 7
    return _counted(number, count, rule.week_numbers)


def _first_week(year_start: Days, week_start: int) -> Days:
    fourth = year_start + 3
    return fourth - (weekdays(fourth) - week_start) % 7


def _at_positions(period: Numbers, positions: tuple[int, ...]) -> Mask:
    starts = np.flatnonzero(begins_anew(period))
    lengths = np.diff(np.r_[starts, len(period)])
    index = np.arange(len(period)) - np.repeat(starts, lengths)
    return _counted(index, np.repeat(lengths, lengths), positions)


def _counted(index: Numbers, length: Numbers, numbers: tuple[int, ...]) -> Mask:
    """Whether a place (from 0, in a whole of `length`) is one of the numbers, which count from 1, or from the end."""
    return np.isin(index + 1, numbers) | np.isin(index - length, numbers)


def _month_of_year(days: Days) -> Numbers:
    return days.astype("datetime64[D]").astype("datetime64[M]").astype(np.int64) % 12 + 1


def _day_in_month(days: Days) -> Numbers:
    return days - days.astype("datetime64[D]").astype("datetime64[M]").astype("datetime64[D]").astype(np.int64)


def _month_length(days: Days) -> Counts:
    months = days.astype("datetime64[D]").astype("datetime64[M]")
    return (months + 1).astype("datetime64[D]").astype(np.int64) - months.astype("datetime64[D]").astype(np.int64)


def _day_in_year(days: Days) -> Numbers:
    return days - _year_start_array(days)


def _year_length(days: Days) -> Counts:
    years = days.astype("datetime64[D]").astype("datetime64[Y]")
    return (years + 1).astype("datetime64[D]").astype(np.int64) - years.astype("datetime64[D]").astype(np.int64)


def _year_start_array(days: Days) -> Days:
    return days.astype("datetime64[D]").astype("datetime64[Y]").astype("datetime64[D]").astype(np.int64)


def _year_start(day: int) -> int:
    return int(_year_start_array(np.array([day], np.int64))[0])
