"""The geometry of charts through time: a round top, what is marked on both axes, and shapes in a box of their own.

A page and a report draw the same shapes, each stretched to the size that it has.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from shelf_core.calendar.zones import day_text
from shelf_core.engine.schedule.frame import Frame

MONTHS_BELOW = 3
"""Where fewer Januaries than this are in sight, the months are named instead of the years."""
MOST_YEARS, MOST_MONTHS = 10, 7
"""More names than these would touch each other."""


@dataclass(frozen=True)
class Box:
    """Where a chart is drawn, in the units of a picture: its left, right, upper and lower edge."""

    left: float
    right: float
    top: float
    foot: float

    def across(self, share: float) -> float:
        """Where a share of the time lies, from left to right."""
        return self.left + share * (self.right - self.left)

    def down(self, share: float) -> float:
        """Where a share of the height lies, from the foot up."""
        return self.foot - share * (self.foot - self.top)


BOX = Box(0, 1000, 0, 1000)
"""The box of the shapes that the API sends."""


@dataclass(frozen=True)
class DayMark:
    """A day that is named along the foot of a chart: its place, and its year or month, such as 2027 or 2027-04."""

    place: int
    text: str


@dataclass(frozen=True)
class Outline:
    """A line through time, or what lies between two: shares of the width and of the height, `lower` None for a line."""

    name: str
    across: list[float]
    upper: list[float]
    lower: list[float] | None = None

    def path(self, box: Box) -> str:
        """The outline as the data of an SVG path in a box."""
        line = _points(box, self.across, self.upper)
        if self.lower is None:
            return f"M{line}"
        return f"M{line}L{_points(box, self.across[::-1], self.lower[::-1])}Z"


@dataclass(frozen=True)
class Axes:
    """What a chart through time spans, and what is marked on it.

    `first` and `last` are the places of the days at its edges, `top` what its upper edge stands for, `marks` the amounts from 0
    to `top` with a line each.
    """

    first: int
    last: int
    top: float
    marks: list[float]
    days: list[DayMark]


@dataclass(frozen=True)
class Drawing(Axes):
    """A chart before it has a size."""

    outlines: list[Outline]

    def across(self, place: float) -> float:
        """The share of the width at which the day of a place lies."""
        return (place - self.first) / max(1, self.last - self.first)


@dataclass(frozen=True)
class Shape:
    """A line or an area as the data of an SVG path, in a box of 1000 by 1000: its foot is nothing, its upper edge `top`."""

    name: str
    path: str


@dataclass(frozen=True)
class Chart(Axes):
    """A chart as it is sent: its shapes lie in a box of 1000 by 1000 that is stretched to any size."""

    shapes: list[Shape]


def chart_of(drawing: Drawing) -> Chart:
    """A drawing with its shapes in the box that is sent."""
    shapes = [Shape(one.name, one.path(BOX)) for one in drawing.outlines]
    return Chart(drawing.first, drawing.last, drawing.top, drawing.marks, drawing.days, shapes)


def lines_and_areas(
    frame: Frame,
    places: Sequence[int],
    lines: Mapping[str, Sequence[float]],
    areas: Mapping[str, Sequence[float]] | None = None,
) -> Drawing:
    """Amounts at the days of `places`: areas from nothing up, and lines; what is below nothing is drawn at nothing."""
    areas = areas or {}
    top = round_top(max((max(amounts, default=0.0) for amounts in (*areas.values(), *lines.values())), default=0.0))
    across = _across(places)
    outlines = [Outline(name, across, _up(amounts, top), [0.0] * len(across)) for name, amounts in areas.items()]
    outlines += [Outline(name, across, _up(amounts, top)) for name, amounts in lines.items()]
    return _drawn(frame, places, top, outlines)


def stacked(frame: Frame, places: Sequence[int], parts: Sequence[tuple[str, Sequence[float]]], last: int) -> Drawing:
    """Parts of a whole on top of each other, at the days of `places`; the chart goes on to the day `last`."""
    sums = [[0.0] * len(places)]
    for _, amounts in parts:
        sums.append([below + float(more) for below, more in zip(sums[-1], amounts, strict=True)])
    top = round_top(max(sums[-1], default=0.0))
    across = _across([*places, last])[: len(places)]
    heights = [_up(one, top) for one in sums]
    outlines = [Outline(name, across, heights[at + 1], heights[at]) for at, (name, _) in enumerate(parts)]
    return _drawn(frame, [*places, last], top, outlines)


def round_top(highest: float) -> float:
    """The first round number from `highest` on that four parts divide roundly: what the upper edge of a chart stands for.

    >>> round_top(9.3)
    10.0
    """
    if highest <= 0:
        return 1.0
    power = 10.0 ** math.floor(math.log10(highest / 4))
    step = next(one * power for one in (1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10) if one * power * 4 >= highest * (1 - 1e-9))
    return 4 * step


@lru_cache(maxsize=64)
def month_begins(frame: Frame) -> tuple[int, ...]:
    """The places of the days on which months begin, and of the first day, whatever it is."""
    return tuple(place for place in range(frame.days) if place == 0 or _day(frame, place).endswith("-01"))


def day_marks(frame: Frame, first: int, last: int) -> list[DayMark]:
    """The days that are named between two places: Januaries, or months where there are few of these, and not too many."""
    begins = [place for place in month_begins(frame) if first <= place <= last]
    januaries = [place for place in begins if _day(frame, place)[5:7] == "01"]
    by_month = len(januaries) < MONTHS_BELOW
    named = begins if by_month else januaries
    step = max(1, math.ceil(len(named) / (MOST_MONTHS if by_month else MOST_YEARS)))
    return [DayMark(place, _day(frame, place)[: 7 if by_month else 4]) for place in named[::step]]


def _drawn(frame: Frame, places: Sequence[int], top: float, outlines: list[Outline]) -> Drawing:
    first, last = places[0], places[-1]
    return Drawing(first, last, top, [top * part / 4 for part in range(5)], day_marks(frame, first, last), outlines)


def _day(frame: Frame, place: int) -> str:
    return day_text(frame.first_day + place)


def _across(places: Sequence[int]) -> list[float]:
    first, length = places[0], max(1, places[-1] - places[0])
    return [(place - first) / length for place in places]


def _up(amounts: Sequence[float], top: float) -> list[float]:
    return [max(0.0, float(amount)) / top for amount in amounts]


def _points(box: Box, across: Sequence[float], up: Sequence[float]) -> str:
    return "L".join(f"{box.across(x):.1f},{box.down(y):.1f}" for x, y in zip(across, up, strict=True))
