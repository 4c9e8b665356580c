"""Each thing that a duty asks, judged for one workload on all days at once (docs/model.md, Duties)."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from shelf_core.arrays import Bytes, Instants, Mask, Numbers, Places
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.calendar.periods import period_ends, period_numbers
from shelf_core.design.replicas import ORIGINAL, medium_of
from shelf_core.design.standing import PERIODS, Ask
from shelf_core.design.values import duration_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.retention.parents import NONE
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL, Frame
from shelf_core.proof.counting import EVERYTHING, Counter, Counting, Moments, counts_at, names
from shelf_core.proof.lying import Lying
from shelf_core.proof.newest import newest_through_time
from shelf_core.proof.on_days import how_many, largest, places_between
from shelf_core.proof.spans import joined

NOTHING = "nothing"
AT_ONCE = 1_000_000
"""Of how many points by days the gaps are looked for at once: some ten megabytes."""
Value = float | str | tuple[int, int, int]
"""Seconds or a count; `nothing` or `never` in words; copies, media and copies off site."""


@dataclass(frozen=True, eq=False)
class JudgedDays:
    """How an ask is met on the days on which it is judged, by their places in the design, which ascend.

    `values` are what it is judged by: seconds or counts, inf where there is only the word `nothing`; of copies a row of three
    for each day.
    """

    places: Places
    holds: Mask
    values: NDArray[np.float64]
    nothing: str = NOTHING

    def __len__(self) -> int:
        return len(self.places)

    def value(self, at: int) -> Value:
        """The value of one of these days."""
        return self._said(self.values[at])

    def worst(self) -> Value | None:
        """The worst value of all days: words before figures, of copies the least of each; None where no day is judged."""
        if not len(self):
            return None
        return self._said(self.values.min(axis=0) if self.values.ndim > 1 else self.values.max())

    def _said(self, value: NDArray[np.float64]) -> Value:
        if value.ndim:
            copies, media, off_site = value.astype(int).tolist()
            return copies, media, off_site
        return float(value) if np.isfinite(value) else self.nothing

    def failed(self) -> Places:
        """The places of the days on which it fails."""
        return self.places[~self.holds]

    def failed_spans(self) -> list[tuple[int, int]]:
        """The days that fail as spans of their places, both ends in: of days that follow one another among those judged.

        >>> days = JudgedDays(np.array([3, 30, 61, 91]), np.array([True, False, False, True]), np.zeros(4))
        >>> days.failed_spans()
        [(30, 61)]
        """
        edges = np.diff(np.r_[False, ~self.holds, False].astype(np.int8))
        first, last = np.flatnonzero(edges > 0), np.flatnonzero(edges < 0) - 1
        return list(zip(self.places[first].tolist(), self.places[last].tolist(), strict=True))


@dataclass(frozen=True, eq=False)
class Judged:
    """What is judged: an ask of one workload, on the days of these places, from an instant on."""

    ask: Ask
    workload: Workload
    days: range
    since: float

    @property
    def places(self) -> Places:
        """The places of the days."""
        return np.arange(self.days.start, self.days.stop)


Judge = Callable[[Counter, Judged], JudgedDays]


def added(instants: Instants, length: Duration, frame: Frame) -> Instants:
    """Instants plus a duration, by the calendar of the design."""
    return add_to_instants(instants, length, frame.zone)


def taken_back(instants: Instants, length: Duration, frame: Frame) -> Instants:
    """Instants less a duration, by the calendar of the design."""
    return added(instants, Duration(-length.months, -length.days, -length.seconds), frame)


def judge_age(counter: Counter, judged: Judged) -> JudgedDays:
    """`rpo`: at every instant of the day the newest moment is no older than asked."""
    frame, ask, places = counter.result.frame, judged.ask, judged.places
    instants, newest = newest_through_time(counter.counting(judged.workload.id, ask.counted).moments, ask.spare)
    limits = np.full(len(newest), -np.inf)
    known = np.isfinite(newest)
    limits[known] = added(newest[known].astype(np.int64), duration_of(ask.rpo or "PT0S"), frame)
    # What is newest grows old until it changes: it is looked at just before that, and where a day begins and ends.
    begins, ends = np.maximum(frame.midnights[places], judged.since), frame.midnights[places + 1].astype(float)
    age, fails = np.full(len(places), -np.inf), np.zeros(len(places), bool)
    day = np.searchsorted(ends, instants, side="right")
    inside = (day < len(ends)) & (np.r_[begins, np.inf][day] <= instants) & (np.arange(len(instants)) > 0)
    changes, before = day[inside], np.flatnonzero(inside) - 1
    np.maximum.at(age, changes, instants[inside] - newest[before])
    np.logical_or.at(fails, changes, limits[before] < instants[inside])
    for at in (begins, ends):
        then = np.searchsorted(instants, at, side="left") - 1
        age, fails = np.maximum(age, at - newest[then]), fails | (limits[then] < at)
    return JudgedDays(places, ~fails, age)


def judge_history(counter: Counter, judged: Judged) -> JudgedDays:
    """`history`: as far back as asked each moment has a point before it, or each period one within it."""
    frame, ask, places = counter.result.frame, judged.ask, judged.places
    moments = counter.counting(judged.workload.id, ask.counted).moments
    ever = counter.counting(judged.workload.id, ask.counted, with_lock=False)
    ends = frame.midnights[places + 1]
    windows = taken_back(ends, duration_of(ask.history or "PT0S"), frame)
    windows = np.maximum(windows, int(ever.taken.min(initial=AFTER_ALL)))
    none_yet = ever.begin.min(initial=np.inf) >= ends
    if ask.every in PERIODS:
        worst = _empty_periods(moments, windows, ends, frame, ask.every).astype(float)
    else:
        worst = _longest_gaps(moments, windows, ends, added(moments.taken, duration_of(ask.every or "PT0S"), frame))
    worst[none_yet] = np.inf
    return JudgedDays(places, worst <= 0, worst)


def _longest_gaps(moments: Moments, windows: Instants, ends: Instants, until: Instants) -> Bytes:
    """At each instant the longest time from the beginning of its window on that nothing of what is there covers.

    A point covers what comes after it `until` a moment, a log what it reaches.
    """
    order = np.argsort(moments.since, kind="stable")
    since, begin, end = (one[order].astype(float) for one in (moments.since, moments.begin, moments.end))
    covered = np.where(moments.is_log, moments.taken, until)[order].astype(float)
    found = np.zeros(len(ends))
    several = max(1, AT_ONCE // max(len(since), 1))
    for first in range(0, len(ends), several):
        part = slice(first, first + several)
        at, window = ends[part, None].astype(float), windows[part, None].astype(float)
        some = (begin < at[-1]) & (end >= at[0])
        there = (begin[some] < at) & (at <= end[some])
        reached = np.maximum.accumulate(np.where(there, covered[some], window), axis=1)
        reached = np.maximum(np.concatenate([window, reached], axis=1), window)
        gaps = np.where(there, since[some] - reached[:, :-1], 0.0)
        found[part] = np.maximum(gaps.max(axis=1, initial=0.0), (at - reached[:, -1:])[:, 0])
    return found


def _empty_periods(moments: Moments, windows: Instants, ends: Instants, frame: Frame, every: str) -> Numbers:
    """At each instant how many calendar periods that lie whole in its window hold nothing of what is there."""

    def numbers(instants: Instants) -> Numbers:
        return period_numbers(frame.zone.local(instants), every, frame.week_starts)

    opens = frame.zone.local(windows)
    # The first one lies whole in the window only if it begins with it.
    first = numbers(windows) + (period_ends(opens - 1, every, frame.week_starts) != opens)
    last = np.maximum(numbers(ends), first)
    held = joined(numbers(moments.taken), moments.begin, moments.end)
    begins, stops = places_between(held.begin, held.end, ends)
    # A period lies in the window from when its last is over until the window has left its first.
    begins = np.maximum(begins, np.searchsorted(last, held.place, side="right"))
    stops = np.minimum(stops, np.searchsorted(first, held.place, side="right"))
    return last - first - how_many(begins, stops, len(ends))


def judge_copies(counter: Counter, judged: Judged) -> JudgedDays:
    """`copies`: so many copies, the original among them, on so many media, off site so many, each fresh enough."""
    frame, ask, places = counter.result.frame, judged.ask, judged.places
    counting = counter.counting(judged.workload.id, ask.counted)
    ends, fresh = frame.midnights[places + 1], None if ask.fresh is None else duration_of(ask.fresh)
    media = {ORIGINAL: np.ones(len(places), bool)}
    copies, off_site = np.ones(len(places)), np.zeros(len(places))
    for target in {lying.target.id: lying.target for lying in counting.lyings if not lying.beside_source}.values():
        on_it = [number for number, lying in enumerate(counting.lyings) if lying.target is target]
        mine = np.flatnonzero(np.isin(counting.lying, on_it) & ~counting.is_log)
        first, last = places_between(counting.begin[mine], counting.end[mine], ends)
        counts = how_many(first, last, len(ends)) > 0
        if fresh is not None and len(mine):
            counts &= largest(first, last, added(counting.taken[mine], fresh, frame).astype(float), len(ends)) >= ends
        copies += counts
        medium = medium_of(target)
        media[medium] = media.get(medium, np.zeros(len(places), bool)) | counts
        off_site += counts & _off_site(counter, counting, mine, ends)
    values = np.stack([copies, np.sum([*media.values()], axis=0), off_site], axis=1)
    asked = np.array([ask.copies or 1, ask.media, ask.off_site])
    return JudgedDays(places, np.all(values >= asked, axis=1), values)


def _off_site(counter: Counter, counting: Counting, mine: Places, ends: Instants) -> Mask:
    """At which instants one of some points lies at another site than its source, away ones where they are."""
    begin = np.full(len(mine), np.inf)
    for number in np.unique(counting.lying[mine]).tolist():
        lying, some = counting.lyings[number], counting.lying[mine] == number
        if lying.target.site != lying.workload.site:
            begin[some] = counting.begin[mine[some]]
        elif lying.target.media == "tape" and lying.target.away_site not in {None, lying.workload.site}:
            leaves = counter.layouts.of(lying.target).leaves(lying, last=False)[counting.place[mine[some]]]
            begin[some] = np.maximum(leaves, counting.begin[mine[some]])
    found: Mask = how_many(*places_between(begin, counting.end[mine], ends), len(ends)) > 0
    return found


def judge_gone(counter: Counter, judged: Judged) -> JudgedDays:
    """`gone_after`: nothing is there that is older than asked, but for what a hold alone keeps."""
    frame, places = counter.result.frame, judged.places
    ends, worst = frame.midnights[places + 1], np.zeros(len(places))
    for lying in counter.lyings[judged.workload.id]:
        if _is_asked_of(lying, judged):
            worst = np.maximum(worst, _past_its_time(counter, judged, lying, ends))
    return JudgedDays(places, worst == 0, worst)


def _past_its_time(counter: Counter, judged: Judged, lying: Lying, ends: Instants) -> Bytes:
    """At each instant how long the oldest of a stage that is still there is past its time."""
    frame, life = counter.result.frame, lying.holding.life
    due = added(life.taken, duration_of(judged.ask.gone_after or "PT0S"), frame)
    removed = counter.remains(lying) if judged.ask.readable else life.removed
    first, last = places_between(life.written.astype(float), removed.astype(float), ends)
    first = np.maximum(first, np.searchsorted(frame.midnights[judged.places], due, side="right"))
    if not life.held:
        past: Bytes = ends + largest(first, last, -due.astype(float), len(ends))
        return np.maximum(past, 0.0)
    found = np.zeros(len(ends))
    for at in np.flatnonzero(how_many(first, last, len(ends))).tolist():
        over = np.flatnonzero((first <= at) & (at < last))
        over = over[~_held_alone(life, int(ends[at]))[over]]
        found[at] = max(0, int(ends[at]) - int(due[over].min(initial=AFTER_ALL)))
    return found


def _is_asked_of(lying: Lying, judged: Judged) -> bool:
    counted, target = judged.ask.counted or EVERYTHING, lying.target
    of_media = counted.media is None or target.media in counted.media
    return of_media and names(counted, target) and counts_at(counted, target.site, judged.workload)


def _held_alone(life: Lifecycle, instant: int) -> np.ndarray:
    """What a hold alone keeps just before an instant, and what only such points need."""
    held = np.zeros(len(life), bool)
    for claim in life.held:
        if claim.begins < instant <= claim.ends:
            held |= claim.points
    otherwise = (life.locked >= instant) & (life.locked != BEFORE_ALL)
    for ends in life.claims.values():
        otherwise |= ends >= instant
    otherwise &= life.written < instant
    there = (life.written < instant) & (life.removed >= instant)
    needed_otherwise, needed_by_held = otherwise.copy(), held & ~otherwise
    for place in np.flatnonzero(there & life.needs_parent & (life.parent != NONE))[::-1].tolist():
        on = int(life.parent[place])
        needed_otherwise[on] |= needed_otherwise[place]
        needed_by_held[on] |= needed_by_held[place]
    result: np.ndarray = needed_by_held & ~needed_otherwise
    return result
