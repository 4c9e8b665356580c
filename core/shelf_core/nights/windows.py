"""Windows in which transfers may start, and limits of links by the hour, as instants of the design."""

from bisect import bisect_left, bisect_right
from collections.abc import Sequence

import numpy as np

from shelf_core.arrays import Instants
from shelf_core.calendar.names import WEEKDAYS
from shelf_core.calendar.periods import weekdays
from shelf_core.calendar.zones import DAY, clock_seconds
from shelf_core.design.links import Link
from shelf_core.design.routes import CopyWindow
from shelf_core.design.values import bytes_per_second_of
from shelf_core.engine.schedule.frame import Frame

DAYS_BEYOND = 400
"""What has not ended with the design is followed so much further."""


class Openings:
    """When a window is open: from each of its openings to before the closing that follows.

    Instants are seconds since the design's beginning.
    """

    def __init__(self, window: CopyWindow, frame: Frame) -> None:
        days = _days(frame)
        opens, closes = clock_seconds(window.opens), clock_seconds(window.closes)
        after = closes if closes > opens else closes + DAY
        self.opens: list[float] = (frame.zone.instants(days * DAY + opens) - frame.begin).astype(float).tolist()
        self.closes: list[float] = (frame.zone.instants(days * DAY + after) - frame.begin).astype(float).tolist()

    def is_open(self, instant: float) -> bool:
        """Whether it is open at an instant; at a closing it is not, unless it opens then."""
        place = bisect_right(self.opens, instant) - 1
        return place >= 0 and instant < self.closes[place]

    def next_opening(self, instant: float) -> float | None:
        """The next opening after an instant."""
        place = bisect_right(self.opens, instant)
        return self.opens[place] if place < len(self.opens) else None

    def first_closing_after(self, instant: float) -> float | None:
        """The first closing after an instant."""
        place = bisect_right(self.closes, instant)
        return self.closes[place] if place < len(self.closes) else None

    def closed_seconds(self, begin: float, end: float) -> float:
        """How long it is closed between two instants."""
        opened = 0.0
        place = max(bisect_right(self.closes, begin), 0)
        while place < len(self.opens) and self.opens[place] < end:
            opened += max(0.0, min(end, self.closes[place]) - max(begin, self.opens[place]))
            place += 1
        return (end - begin) - opened


class Capacity:
    """What a resource carries through time: `speeds[n]` from `changes[n]` on, the first from ever."""

    def __init__(self, changes: Sequence[float], speeds: Sequence[float]) -> None:
        self.changes, self.speeds = list(changes), list(speeds)

    def at(self, instant: float) -> float:
        """What it carries from an instant on."""
        return self.speeds[bisect_right(self.changes, instant)]

    def next_change(self, instant: float) -> float | None:
        """When that changes next."""
        place = bisect_right(self.changes, instant)
        return self.changes[place] if place < len(self.changes) else None

    def bytes_between(self, begin: float, end: float) -> float:
        """What it can carry between two instants."""
        total, now = 0.0, begin
        place = bisect_left(self.changes, begin)
        while now < end:
            until = min(end, self.changes[place]) if place < len(self.changes) else end
            if until > now:
                total += self.at(now) * (until - now)
            now, place = until, place + 1
        return total


def capacity_of(link: Link, frame: Frame) -> Capacity | None:
    """What a link carries in each direction: the lowest of its speed, as far as it is usable, and the limits of the hour."""
    own = float("inf") if link.speed is None else bytes_per_second_of(link.speed) * link.usable_percent / 100
    spans = [span for limit in link.limits for span in _spans(limit.days, limit.from_, limit.to, frame, limit.speed)]
    if not spans:
        return None if np.isinf(own) else Capacity([], [own])
    at = sorted({edge for begin, end, _ in spans for edge in (begin, end)})
    lowest = np.full(len(at) + 1, own)
    edges = np.array(at)
    for begin, end, speed in spans:
        first, last = np.searchsorted(edges, [begin, end])
        lowest[first + 1 : last + 1] = np.minimum(lowest[first + 1 : last + 1], speed)
    real = np.flatnonzero(lowest[1:] != lowest[:-1])
    return Capacity(edges[real].tolist(), [float(lowest[0]), *lowest[1:][real].tolist()])


def _spans(
    days: Sequence[str] | None, begins: str | None, ends: str | None, frame: Frame, speed: str | int | float
) -> list[tuple[float, float, float]]:
    """From when until when a limit stands, day by day, and its bytes a second."""
    all_days = _days(frame)
    chosen = all_days if days is None else all_days[np.isin(weekdays(all_days), [WEEKDAYS.index(day) for day in days])]
    first = 0 if begins is None else clock_seconds(begins)
    last = DAY if ends is None else clock_seconds(ends)
    after = last if last > first else last + DAY
    begin, end = frame.zone.instants(chosen * DAY + first), frame.zone.instants(chosen * DAY + after)
    amount = bytes_per_second_of(speed)
    return [(float(one), float(other), amount) for one, other in zip(begin.tolist(), end.tolist(), strict=True) if one < other]


def _days(frame: Frame) -> Instants:
    """The days of the design, the two before it, and those for which it is followed beyond."""
    return np.arange(frame.first_day - 2, frame.first_day + frame.days + DAYS_BEYOND, dtype=np.int64)
