"""Dates written out, as they stand in sentences."""

from datetime import datetime, timedelta

from shelf_core.design.patterns import DAY_NAMES, MONTH_NAMES


def written_day(local: int, *, with_time: bool = False) -> str:
    """Local seconds as `12 June 2027`, or as `Saturday 12 June 2027, 22:00`."""
    moment = datetime(1970, 1, 1) + timedelta(seconds=local)  # noqa: DTZ001 - a wall clock reading has no zone
    day = f"{moment.day} {MONTH_NAMES[moment.month - 1]} {moment.year}"
    return f"{DAY_NAMES[moment.weekday()]} {day}, {moment:%H:%M}" if with_time else day
