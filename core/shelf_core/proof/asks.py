"""Each thing that a duty asks, judged for one workload on every day (docs/model.md, Duties)."""

import math
from bisect import bisect_left
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Instants, Places
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.names import Duration
from shelf_core.calendar.periods import period_ends, period_numbers
from shelf_core.design.standing import PERIODS, Ask
from shelf_core.design.targets import Target
from shelf_core.design.values import duration_of
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.retention.parents import NONE
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL, Frame
from shelf_core.proof.counting import Counter, Counting
from shelf_core.proof.lying import logs_after
from shelf_core.proof.newest import newest_through_time

ORIGINAL = "disk"
NOTHING = "nothing"
Value = float | str | tuple[int, int, int]
"""Seconds or a count; `nothing` or `never` in words; copies, media and copies off site."""


@dataclass(frozen=True)
class JudgedDay:
    """How an ask is met on a day, by its place in the design: whether it holds, and the value that it is judged by."""

    place: int
    holds: bool
    value: Value


@dataclass(frozen=True, eq=False)
class Judged:
    """What is judged: an ask of one workload, on the days of these places, from an instant on."""

    ask: Ask
    workload: Workload
    days: range
    since: float


Judge = Callable[[Counter, Judged], Iterator[JudgedDay]]


def added(instants: Instants, length: Duration, frame: Frame) -> Instants:
    """Instants plus a duration, by the calendar of the design."""
    return add_to_instants(instants, length, frame.zone)


def taken_back(instants: Instants, length: Duration, frame: Frame) -> Instants:
    """Instants less a duration, by the calendar of the design."""
    return added(instants, Duration(-length.months, -length.days, -length.seconds), frame)


def judge_age(counter: Counter, judged: Judged) -> Iterator[JudgedDay]:
    """`rpo`: at every instant of the day the newest moment is no older than asked."""
    frame, ask = counter.result.frame, judged.ask
    length = duration_of(ask.rpo or "PT0S")
    steps = newest_through_time(counter.counting(judged.workload.id, ask.counted), ask.spare)
    instants, moments = [at for at, _ in steps], [moment for _, moment in steps]
    limits = _limits(moments, length, frame)
    for place in judged.days:
        begin, end = max(float(frame.midnights[place]), judged.since), float(frame.midnights[place + 1])
        first, last = bisect_left(instants, begin), bisect_left(instants, end)
        worst, holds = -math.inf, True
        # Just before each change, at the beginning, and up to the end of the day.
        for number, at in [(first - 1, begin), *((n - 1, instants[n]) for n in range(first, last)), (last - 1, end)]:
            worst = max(worst, at - moments[number])
            holds = holds and limits[number] >= at
        yield JudgedDay(place, holds, NOTHING if math.isinf(worst) else worst)


def _limits(moments: list[float], length: Duration, frame: Frame) -> list[float]:
    """Until when each moment is new enough."""
    known = np.array([moment for moment in moments if moment > -math.inf], np.int64)
    ends = iter(added(known, length, frame).tolist() if len(known) else [])
    return [float(next(ends)) if moment > -math.inf else -math.inf for moment in moments]


class _Alive:
    """The points that count at the ends of days, which ascend."""

    def __init__(self, counting: Counting) -> None:
        self._counting = counting
        some = np.flatnonzero(counting.begin < counting.end)
        self._order = some[np.argsort(counting.begin[some], kind="stable")]
        self._begins = counting.begin[self._order]
        self._at, self._alive = 0, np.zeros(0, np.int64)

    def at(self, instant: float) -> Places:
        """Which of the counted points count at an instant."""
        after = int(np.searchsorted(self._begins, instant, side="left"))
        self._alive = np.concatenate([self._alive, self._order[self._at : after]])
        self._at = after
        self._alive = self._alive[self._counting.end[self._alive] >= instant]
        return self._alive


def judge_history(counter: Counter, judged: Judged) -> Iterator[JudgedDay]:
    """`history`: as far back as asked each moment has a point before it, or each period one within it."""
    frame, ask = counter.result.frame, judged.ask
    counting = counter.counting(judged.workload.id, ask.counted)
    ever = counter.counting(judged.workload.id, ask.counted, with_lock=False)
    first = float(ever.begin[ever.begin < ever.end].min(initial=math.inf))
    first_taken = int(ever.taken[ever.begin < ever.end].min(initial=AFTER_ALL))
    alive = _Alive(counting)
    ends = frame.midnights[np.array([place + 1 for place in judged.days], np.int64)]
    windows = taken_back(ends, duration_of(ask.history or "PT0S"), frame)
    by_period = ask.every in PERIODS
    every = None if by_period else duration_of(ask.every or "PT0S")
    until = added(counting.taken, every, frame) if every is not None else counting.taken
    for place, instant, back in zip(judged.days, ends.tolist(), windows.tolist(), strict=True):
        there = alive.at(instant)
        if first >= instant:
            yield JudgedDay(place, holds=False, value=NOTHING)
            continue
        window = max(back, first_taken)
        if by_period:
            empty = _empty_periods(_moments(counting, there), window, instant, str(ask.every), frame)
            yield JudgedDay(place, empty == 0, empty)
            continue
        gap = _longest_gap(_stretches(counting, there, until), window, instant)
        yield JudgedDay(place, gap <= 0, gap)


def _chains(counting: Counting, there: Places) -> Iterator[tuple[int, list[int]]]:
    """Each point that counts with the logs after it that do, all by their places among the counted."""
    for number, lying in enumerate(counting.lyings):
        mine = there[counting.lying[there] == number]
        if not counting.is_log[mine].any():
            yield from ((int(one), []) for one in mine.tolist())
            continue
        mask = np.zeros(len(lying.taken), bool)
        mask[counting.place[mine]] = True
        offset = int(np.flatnonzero(counting.lying == number)[0])
        for point, logs in logs_after(lying, mask):
            yield offset + point, [offset + log for log in logs]


def _moments(counting: Counting, there: Places) -> Instants:
    """When points, and logs that are reached, were taken."""
    if not counting.is_log[there].any():
        return counting.taken[there]
    found = {one for point, logs in _chains(counting, there) for one in (point, *logs)}
    return counting.taken[sorted(found)]


def _stretches(counting: Counting, there: Places, until: Instants) -> list[tuple[int, int]]:
    """From each point's moment until when it is near enough, or to the last log that follows it."""
    if not counting.is_log[there].any():
        return sorted(zip(counting.taken[there].tolist(), until[there].tolist(), strict=True))
    found = []
    for point, logs in _chains(counting, there):
        end = int(until[point])
        if logs:
            end = max(end, int(counting.taken[logs[-1]]))
        found.append((int(counting.taken[point]), end))
    return sorted(found)


def _longest_gap(stretches: list[tuple[int, int]], begin: float, end: float) -> float:
    """The longest time between two instants that no stretch covers, both of its ends included."""
    reached, longest, covered = begin, 0.0, False
    for first, last in stretches:
        if first > end:
            break
        if first > reached or (first > begin and not covered):
            longest = max(longest, first - reached)
        covered = covered or first <= reached
        reached = max(reached, last)
    return max(longest, end - reached) if reached < end or not stretches else longest


def _empty_periods(taken: Instants, begin: float, end: float, every: str, frame: Frame) -> int:
    """How many calendar periods that lie whole between two instants hold none of these moments."""
    edges = frame.zone.local(np.array([int(begin), int(end)]))
    numbers = period_numbers(edges, every, frame.week_starts)
    first = int(numbers[0])
    # The first one lies whole in it only if it begins with it.
    starts = period_ends(edges[:1] - 1, every, frame.week_starts)
    if int(starts[0]) != int(edges[0]):
        first += 1
    last = int(numbers[1])
    if last <= first:
        return 0
    there = np.unique(period_numbers(frame.zone.local(taken), every, frame.week_starts))
    return (last - first) - int(((there >= first) & (there < last)).sum())


def judge_copies(counter: Counter, judged: Judged) -> Iterator[JudgedDay]:
    """`copies`: so many copies, the original among them, on so many media, off site so many, each fresh enough."""
    frame, ask, workload = counter.result.frame, judged.ask, judged.workload
    counting = counter.counting(workload.id, ask.counted)
    fresh = None if ask.fresh is None else duration_of(ask.fresh)
    alive = _Alive(counting)
    for place in judged.days:
        instant = int(frame.midnights[place + 1])
        there = alive.at(instant)
        there = there[~counting.is_log[there]]
        targets: dict[str, tuple[Target, bool]] = {}
        for number in np.unique(counting.lying[there]).tolist():
            lying = counting.lyings[number]
            mine = there[counting.lying[there] == number]
            if lying.target.media == "snapshot":
                continue
            newest = int(counting.taken[mine].max())
            if fresh is not None and int(added(np.array([newest]), fresh, frame)[0]) < instant:
                continue
            targets[lying.target.id] = (
                lying.target,
                targets.get(lying.target.id, (None, False))[1] or _is_off_site(counter, counting, mine, instant),
            )
        media = {ORIGINAL, *(target.media for target, _ in targets.values())}
        value = (1 + len(targets), len(media), sum(off for _, off in targets.values()))
        asked = (ask.copies or 1, ask.media, ask.off_site)
        yield JudgedDay(place, all(mine >= wanted for mine, wanted in zip(value, asked, strict=True)), value)


def _is_off_site(counter: Counter, counting: Counting, mine: Places, instant: int) -> bool:
    """Whether one of some points of a stage lies at another site than its source, away ones where they are."""
    lying = counting.lyings[int(counting.lying[mine[0]])]
    if lying.target.site != lying.workload.site:
        return True
    if lying.target.media != "tape" or lying.target.away_site in {None, lying.workload.site}:
        return False
    layout = counter.layout(lying)
    return any(
        layout.is_away(number, instant)
        for place in counting.place[mine].tolist()
        for machine in range(lying.workload.count)
        for number in layout.of(lying.number, lying.workload.id, place, machine)
    )


def judge_gone(counter: Counter, judged: Judged) -> Iterator[JudgedDay]:
    """`gone_after`: nothing is there that is older than asked, but for what a hold alone keeps."""
    frame, ask = counter.result.frame, judged.ask
    length = duration_of(ask.gone_after or "PT0S")
    lives = []
    for lying in counter.lyings[judged.workload.id]:
        if _is_asked_of(lying.target.id, lying.target.media, lying.target.site, judged):
            life = lying.holding.life
            removed = counter.remains(lying) if ask.readable else life.removed
            lives.append((life, added(life.taken, length, frame), removed))
    for place in judged.days:
        begin, instant = int(frame.midnights[place]), int(frame.midnights[place + 1])
        worst = 0
        for life, due, removed in lives:
            over = np.flatnonzero((due < begin) & (life.written < instant) & (removed >= instant))
            over = over[~_held_alone(life, instant)[over]] if len(over) and life.held else over
            if len(over):
                worst = max(worst, instant - int(due[over].min()))
        yield JudgedDay(place, worst == 0, float(worst))


def _is_asked_of(target: str, media: str, site: str, judged: Judged) -> bool:
    counted = judged.ask.counted
    if counted is None:
        return True
    if counted.targets is not None and target not in counted.targets:
        return False
    if counted.not_targets is not None and target in counted.not_targets:
        return False
    if counted.sites is not None and site not in counted.sites:
        return False
    if counted.off_site and site == judged.workload.site:
        return False
    return counted.media is None or media in counted.media


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
