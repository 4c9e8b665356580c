"""What a change comes to for each copy: points and bytes before and after, from two forecasts."""

from collections.abc import Iterator
from dataclasses import dataclass

from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.splits import Part, split

NOTHING = (0, 0.0, 0.0)


@dataclass(frozen=True)
class Effect:
    """One copy on one target: points and stored bytes at the end of a day, and its own largest peak, before and after."""

    route: str
    copy: str
    target: str
    points_before: int
    points_after: int
    stored_before: float
    stored_after: float
    peak_before: float
    peak_after: float


def effects(before: Forecast, after: Forecast, day: str) -> list[Effect]:
    """The copies that differ between two forecasts of the same days, in the order of the targets of the later one.

    Copies whose points and bytes are the same on that day and at their peaks are left out. Raises ValueError for a day
    outside of either.
    """
    found: list[Effect] = []
    targets = list(dict.fromkeys([one.target.id for one in [*after.targets, *before.targets]]))
    for target in targets:
        was, now = (_figures(result, target, day) for result in (before, after))
        for name in sorted({*was, *now}):
            old, new = was.get(name, NOTHING), now.get(name, NOTHING)
            if old != new:
                route, _, copy = name.partition(" / ")
                found.append(Effect(route, copy, target, old[0], new[0], old[1], new[1], old[2], new[2]))
    return found


def _figures(result: Forecast, target: str, day: str) -> dict[str, tuple[int, float, float]]:
    place = result.place_of(day)
    if all(one.target.id != target for one in result.targets):
        return {}
    return {name: _at(part, place) for name, part in _copies(result, target)}


def _copies(result: Forecast, target: str) -> Iterator[tuple[str, Part]]:
    yield from ((name, part) for name, part in split(result, target, "copy").items() if " / " in name)


def _at(part: Part, place: int) -> tuple[int, float, float]:
    largest = part.stored_bytes if part.peak_bytes is None else part.peak_bytes
    return int(part.points[place]), float(part.stored_bytes[place]), float(largest.max(initial=0.0))
