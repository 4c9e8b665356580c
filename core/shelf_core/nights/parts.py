"""All nights of a design, followed in stretches that can be followed apart.

A stretch begins idle some days before it counts: where it comes to the same quiet instant as the one before, the two go on
alike from there, and both are exact. Where they do not meet, all is followed in one go.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from shelf_core.calendar.zones import DAY
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.ended import LaneEnded, ended_of, put_together_ended
from shelf_core.nights.followed import NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.picture import AllNights, all_nights
from shelf_core.nights.quiet import BEGIN, Pending, Quiet, QuietInstants, name_of
from shelf_core.nights.sums import CopySums, asked_in, put_together, sums_of
from shelf_core.nights.tables import noons_of

STRETCH_DAYS = 365
LEAD_DAYS = 14
ALIKE = 1e-2
"""Seconds: instants are floating-point numbers, and a stretch that began elsewhere adds others up."""


@dataclass(frozen=True)
class NightsPart:
    """What a stretch comes to, its quiet instants, from those on which it may have met the one before, and what ended when."""

    sums: list[CopySums]
    quiet: QuietInstants
    ended: list[LaneEnded] | None = None


class NightsWork:
    """All nights of a design in stretches of a year, so that each can be followed by another worker."""

    def __init__(self, result: Forecast) -> None:
        self._result = result
        _, noons = noons_of(result)
        count = max(1, result.frame.days // STRETCH_DAYS)
        self._begins = [float(noons[number * STRETCH_DAYS]) if number else 0.0 for number in range(count)]
        self._counts = [float(noons[number * STRETCH_DAYS + LEAD_DAYS]) if number else -math.inf for number in range(count)]
        self._counts.append(math.inf)

    def __len__(self) -> int:
        return len(self._begins)

    def part(self, number: int) -> NightsPart:
        """Follow one stretch, and those before it that bear on it."""
        begin, end = self._counts[number], self._counts[number + 1]
        since = Quiet(self._begins[number]) if number else BEGIN
        return self._stretch(NightSpan(begin=math.inf, end=end, since=since, counts_from=begin))

    def joined(self, parts: Sequence[NightsPart]) -> AllNights:
        """The whole design. Where two stretches do not meet, all of it is followed again in one go."""
        if not all(self._meet(number, parts[number - 1].quiet, parts[number].quiet) for number in range(1, len(parts))):
            parts = [self._stretch(NightSpan(begin=math.inf))]
        sums = put_together([one.sums for one in parts], self._result)
        ended = [one.ended for one in parts if one.ended is not None]
        known = put_together_ended(ended) if len(ended) == len(parts) else None
        return all_nights(self._result, sums, self._quiet(parts), known)

    def _stretch(self, span: NightSpan) -> NightsPart:
        followed = follow(self._result, span)
        quiet = QuietInstants(tuple(name_of(lane) for lane in followed.lanes), tuple(followed.quiet))
        chosen = asked_in(followed, span.counts_from, span.end)
        return NightsPart(sums_of(followed, span.counts_from, span.end), quiet, ended_of(followed, chosen))

    def _meet(self, number: int, before: QuietInstants, after: QuietInstants) -> bool:
        """Whether two stretches come to the same quiet instant after the second began and a day before it counts."""
        begin, end = self._begins[number], self._counts[number] - DAY
        known = {one.instant: one for one in before.instants if begin < one.instant <= end}
        return any(
            _alike(known[one.instant], before, one, after)
            for one in after.instants
            if one.instant in known and one.instant > begin
        )

    def _quiet(self, parts: Sequence[NightsPart]) -> QuietInstants:
        """The quiet instants of all stretches, each from where it counts."""
        lanes = list(dict.fromkeys(name for part in parts for name in part.quiet.lanes))
        places = {name: place for place, name in enumerate(lanes)}
        found = [BEGIN]
        for number, part in enumerate(parts):
            begin = self._counts[number] if len(parts) > 1 else -math.inf
            end = self._counts[number + 1] if len(parts) > 1 else math.inf
            for one in part.quiet.instants:
                if begin <= one.instant < end:
                    pending = tuple(Pending(places[part.quiet.lanes[p.lane]], p.machine, p.place, p.asked) for p in one.pending)
                    found.append(Quiet(one.instant, pending))
        return QuietInstants(tuple(lanes), tuple(found))


def _alike(one: Quiet, names: QuietInstants, other: Quiet, other_names: QuietInstants) -> bool:
    """Whether the same is still to be asked for, at the same instants."""
    mine = {(names.lanes[p.lane], p.machine, p.place): p.asked for p in one.pending}
    theirs = {(other_names.lanes[p.lane], p.machine, p.place): p.asked for p in other.pending}
    return mine.keys() == theirs.keys() and all(abs(mine[key] - theirs[key]) < ALIKE for key in mine)
