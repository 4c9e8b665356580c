"""The sum behind a number of points: how many by each rule, by two at once, locked, needed, due; the extra at the peak."""

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.calendar.zones import local_second
from shelf_core.digits import grouped
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.states import KEPT, STATES
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.forecast import Forecast, TargetForecast
from shelf_core.forecast.points import stored_of_points
from shelf_core.forecast.shelves import Shelf, shelves_on


@dataclass(frozen=True)
class Summand:
    """Points, no logs, and stored bytes (those of logs among them) of one rule, several together, or one state."""

    names: list[str]
    points: int
    stored_bytes: float


@dataclass(frozen=True)
class Explanation:
    """Why so many points are on a target, or of one copy on it, at the end of a day.

    `by_rule` counts each rule's points alone, so what two rules claim is in both; `together` what two or more claim at once,
    by these rules; `counted_too_often` is by how much the rules together count more than is kept. `states` adds up to all.
    On `peak_on`, the day of the highest sum, `points_at_peak` are there after a write and before anything goes,
    `points_after_peak` at its end. `sentences` say it.
    """

    target: str
    copy: str | None
    on: str
    points: int
    stored_bytes: float
    by_rule: list[Summand]
    together: list[Summand]
    counted_too_often: int
    states: list[Summand]
    peak_on: str
    points_at_peak: int
    points_after_peak: int
    sentences: list[str]


def explain(result: Forecast, target: str, day: str, copy: str | None = None) -> Explanation:
    """The sum behind the points of a target at the end of a day; with `copy` such as `files / house` of that one alone.

    Raises KeyError for an unknown target, ValueError for an unknown copy or a day outside the design.
    """
    place = next((at for at, one in enumerate(result.design.targets) if one.id == target), None)
    if place is None:
        raise KeyError(target)
    names = sorted({_name(one) for one in result.holdings if one.target == place})
    if copy is not None and copy not in names:
        raise ValueError(f'expected a copy on this target ({", ".join(names)}), got "{copy}"')
    stored = stored_of_points(result, result.place_of(day), {place})
    claims: dict[tuple[str, ...], _Sum] = {}
    states: dict[str, _Sum] = {}
    for number, shelf in enumerate(shelves_on(result, day)):
        if shelf.holding.target != place or copy not in (None, _name(shelf.holding)):
            continue
        sizes = sum(stored[number, workload.id] for workload in shelf.holding.workloads)
        for at, point, amount in _points(shelf, np.asarray(sizes)):
            states.setdefault(STATES[shelf.states[at]], _Sum()).add(point, amount)
            if shelf.states[at] == KEPT:
                claims.setdefault(tuple(shelf.claims(int(shelf.places[at]))), _Sum()).add(point, amount)
    peak = _peak_points(result, result.targets[place], copy)
    return _explanation(result, target, copy, day, claims, states, peak)


@dataclass
class _Sum:
    points: int = 0
    stored_bytes: float = 0.0

    def add(self, points: int, stored_bytes: float) -> None:
        self.points += points
        self.stored_bytes += stored_bytes


def _name(holding: Holding) -> str:
    return f"{holding.route} / {holding.copy}"


def _points(shelf: Shelf, sizes: Bytes) -> Iterator[tuple[int, int, float]]:
    """The place on the shelf, points (0 for a log) and bytes of each."""
    count = sum(workload.count for workload in shelf.holding.workloads)
    logs = shelf.holding.life.stored_as[shelf.places] == LOG
    for at, place in enumerate(shelf.places.tolist()):
        yield at, 0 if logs[at] else count, float(sizes[place])


def _peak_points(result: Forecast, one: TargetForecast, copy: str | None) -> tuple[int, int, int]:
    """The place of the day of the highest sum, the most points on it after a write, and those at its end."""
    day = int(one.totals.peak_bytes.argmax())
    begin, end = result.frame.midnights[day], result.frame.midnights[day + 1]
    lives = [
        (one_here.life, sum(workload.count for workload in one_here.workloads))
        for one_here in result.holdings
        if result.design.targets[one_here.target] is one.target and copy in (None, _name(one_here))
    ]
    instants = np.unique(np.concatenate([[begin], *(life.written for life, _ in lives)]))
    instants = instants[(instants >= begin) & (instants < end)]
    most, at_end = np.zeros(len(instants), np.int64), 0
    for life, count in lives:
        counted = life.stored_as != LOG
        written, removed = np.sort(life.written[counted]), np.sort(life.removed[counted])
        here = np.searchsorted(written, instants, side="right") - np.searchsorted(removed, instants)
        most += count * here
        at_end += count * int(np.searchsorted(written, end) - np.searchsorted(removed, end))
    return day, int(most.max(initial=at_end)), at_end


def _explanation(
    result: Forecast,
    target: str,
    copy: str | None,
    day: str,
    claims: dict[tuple[str, ...], _Sum],
    states: dict[str, _Sum],
    peak: tuple[int, int, int],
) -> Explanation:
    alone: dict[str, _Sum] = {}
    for labels, part in claims.items():
        for label in labels:
            alone.setdefault(label, _Sum()).add(part.points, part.stored_bytes)
    by_rule = _ordered({(label,): part for label, part in alone.items()})
    together = _ordered({labels: part for labels, part in claims.items() if len(labels) > 1})
    of_states = [Summand([name], states[name].points, states[name].stored_bytes) for name in STATES if name in states]
    total, stored = sum(one.points for one in of_states), sum(one.stored_bytes for one in of_states)
    kept = sum(one.points for one in of_states if one.names == [STATES[KEPT]])
    too_often = sum(one.points for one in by_rule) - kept
    peak_on = result.day(peak[0])
    sentences = list(_sentences(total, by_rule, together, too_often, of_states, peak_on, peak))
    return Explanation(
        target, copy, day, total, stored, by_rule, together, too_often, of_states, peak_on, peak[1], peak[2], sentences
    )


def _ordered(parts: dict[tuple[str, ...], _Sum]) -> list[Summand]:
    found = [Summand(list(labels), part.points, part.stored_bytes) for labels, part in parts.items()]
    return sorted(found, key=lambda one: (-one.points, -one.stored_bytes, one.names))


def _sentences(
    total: int,
    by_rule: list[Summand],
    together: list[Summand],
    too_often: int,
    states: list[Summand],
    peak_on: str,
    peak: tuple[int, int, int],
) -> Iterator[str]:
    counts = Counter({one.names[0]: one.points for one in states})
    kept = counts["kept"]
    counted_by = [f"{grouped(one.points)} by {one.names[0]}" for one in by_rule if one.points]
    if counted_by:
        yield f"Rules claim {_and(counted_by)}."
        twice = sum(one.points for one in together)
        if twice:
            often = "once" if too_often == 1 else f"{grouped(too_often)} times"
            yield (
                f"{grouped(twice)} of them are claimed by more than one rule, so counted {often} too often:"
                f" {grouped(kept)} are kept."
            )
    rest = {"locked": "only locked", "needed": "only needed by newer ones", "due": "due at the next sweep"}
    words = [f"{grouped(counts[name])} {text}" for name, text in rest.items() if counts[name]]
    if words:
        yield f"With {_and(words)} there are {grouped(total)} points."
    else:
        yield f"That makes {grouped(total)} points; none is there for another reason."
    _, most, at_end = peak
    day = written_day(local_second(f"{peak_on}T00:00"))
    extra = most - at_end
    if extra > 0:
        there = f"{grouped(most)} are there before the sweep: {grouped(extra)} more than at its end"
        yield f"On {day}, the day of the peak, {there}."
    else:
        yield f"On {day}, the day of the peak, no more are there than the {grouped(at_end)} at its end."


def _and(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
