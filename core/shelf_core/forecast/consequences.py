"""What a design comes to on each target at a date: the figures of the consequence panel."""

from dataclasses import dataclass

from shelf_core.design.values import bytes_of
from shelf_core.forecast.forecast import Forecast, TargetForecast


@dataclass(frozen=True)
class Consequence:
    """One target: points and stored bytes at the end of a day, the peak of the whole design, and when it is full.

    `room_bytes` is what the target has for us on that day, None without a capacity; dates are ISO.
    """

    target: str
    name: str
    points: int
    stored_bytes: float
    peak_bytes: float
    peak_on: str
    room_bytes: float | None
    capacity_bytes: float | None
    full_on: str | None


def consequences(result: Forecast, day: str) -> list[Consequence]:
    """The figures of every target at the end of a day. Raises ValueError for a day outside the design."""
    place = result.place_of(day)
    return [_consequence(result, one, place) for one in result.targets]


def _consequence(result: Forecast, one: TargetForecast, place: int) -> Consequence:
    top = int(one.totals.peak_bytes.argmax())
    return Consequence(
        target=one.target.id,
        name=one.target.name or one.target.id,
        points=int(one.totals.points[place]),
        stored_bytes=float(one.totals.stored_bytes[place]),
        peak_bytes=float(one.totals.peak_bytes[top]),
        peak_on=result.day(top),
        room_bytes=None if one.room_bytes is None else float(one.room_bytes[place]),
        capacity_bytes=None if one.target.capacity is None else bytes_of(one.target.capacity),
        full_on=None if one.full_on is None else result.day(one.full_on),
    )
