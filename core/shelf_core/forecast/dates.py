"""Dates written out, as they stand in sentences."""

from datetime import datetime, timedelta

from shelf_core.design.patterns import DAY_NAMES, MONTH_NAMES


def written_day(local: int, *, with_time: bool = False) -> str:
    """Local seconds as `12 June 2027`, or as `Saturday 12 June 2027, 22:00`."""
    moment = _moment(local)
    return f"{DAY_NAMES[moment.weekday()]} {written_moment(local)}" if with_time else _day(moment)


def written_moment(local: int) -> str:
    """Local seconds as `12 June 2027, 22:00`."""
    moment = _moment(local)
    return f"{_day(moment)}, {moment:%H:%M}"


def _moment(local: int) -> datetime:
    return datetime(1970, 1, 1) + timedelta(seconds=local)  # noqa: DTZ001 - a wall clock reading has no zone


def _day(moment: datetime) -> str:
    return f"{moment.day} {MONTH_NAMES[moment.month - 1]} {moment.year}"
