"""Claims: which rule of a ladder claims a point, and until when (docs/model.md, Claims).

Points come here in the order in which they were taken; they may have been written in another.
"""

from bisect import insort
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants, Mask, Places, begins_anew
from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.periods import on_or_after, period_ends, period_numbers
from shelf_core.design.ladders import KeepPeriods, KeepPoints, KeepSuperseded, Ladder, Recent, Rung
from shelf_core.design.values import duration_of
from shelf_core.engine.retention.members import Parts
from shelf_core.engine.schedule.frame import AFTER_ALL, BEFORE_ALL, Frame
from shelf_core.engine.schedule.kinds import LOG, Kinds, is_one_of, is_self_contained, kind_number

RECENT, LOGS = "recent", "log"
NOTHING = -1


class Picks(NamedTuple):
    """A rung's picks.

    `until` is when each point stops being the pick of its period (BEFORE_ALL if it never was one), `decided` the instant at
    which the period's pick is known: with `first` when it is written, with `last` when the period is over.
    """

    until: Instants
    decided: Instants

    def known_at(self, written: Instants) -> Instants:
        """The instant at which each point is known to be the pick, BEFORE_ALL where it is not or came too late for that."""
        return np.where((written <= self.decided) & (self.decided < self.until), self.decided, BEFORE_ALL)


class Periods(NamedTuple):
    """The candidates of a rung: their places, the number of each one's period (0, 1, …) and where each period begins."""

    chosen: Places
    group: Places
    begins: Places


def periods_of(rung: Rung, taken: Instants, eligible: Mask, frame: Frame) -> Periods:
    """The candidates among the eligible points, period by period."""
    local = frame.zone.local(taken)
    if rung.on is not None:
        eligible = eligible & on_or_after(local, rung.every, rung.on, frame.week_starts)
    chosen = np.flatnonzero(eligible)
    number = period_numbers(local[chosen], rung.every, frame.week_starts)
    is_first = begins_anew(number)
    return Periods(chosen, np.cumsum(is_first) - 1, np.flatnonzero(is_first))


def picks_of(rung: Rung, periods: Periods, taken: Instants, written: Instants, frame: Frame) -> Picks:
    """The picks of a rung: of the candidates written so far the first or the last by `taken`.

    A pick moves on when a newer candidate is written (with `first`: an older one, which comes late).
    """
    until, decided = np.full(len(taken), BEFORE_ALL, np.int64), np.full(len(taken), AFTER_ALL, np.int64)
    chosen = periods.chosen
    arrived = written[chosen]
    if rung.pick == "first":
        until[chosen] = _earlier_than(arrived, _least_before(arrived, periods.group))
        decided[chosen] = arrived
    else:
        until[chosen] = _earlier_than(arrived, _least_before(arrived[::-1], -periods.group[::-1])[::-1])
        local = frame.zone.local(taken[chosen])
        decided[chosen] = frame.zone.instants(period_ends(local, rung.every, frame.week_starts))
    return Picks(until, decided)


def newest_periods_end(how_many: int, periods: Periods, written: Instants) -> Instants:
    """Until when each candidate's period is among the newest so many that have a candidate."""
    if how_many == 0 or len(periods.chosen) == 0:
        return np.full(len(periods.chosen), BEFORE_ALL, np.int64)
    began = np.minimum.reduceat(written[periods.chosen], periods.begins)
    return nth_later(began, how_many)[periods.group]


def nth_later(written: Instants, how_many: int) -> Instants:
    """The instant at which so many newer ones have been written, AFTER_ALL where that never comes."""
    count = len(written)
    if np.all(written[1:] >= written[:-1]):
        return np.concatenate([written[how_many:], np.full(min(how_many, count), AFTER_ALL)])
    ends = np.full(count, AFTER_ALL, np.int64)
    later: list[int] = []
    for place in range(count - 1, -1, -1):
        if len(later) >= how_many:
            ends[place] = later[how_many - 1]
        insort(later, int(written[place]))
    return ends


def _least_before(arrived: Instants, group: Places) -> Instants:
    """The least of those before each in its group (whose numbers rise), AFTER_ALL for the first of a group."""
    if len(arrived) == 0:
        return arrived
    apart = int(arrived.max()) - int(arrived.min()) + 1
    least = np.minimum.accumulate(arrived - group * apart) + group * apart
    is_first = begins_anew(group)
    return np.where(is_first, AFTER_ALL, np.concatenate([[AFTER_ALL], least[:-1]]))


def _earlier_than(arrived: Instants, until: Instants) -> Instants:
    """Ends of picks; what was no pick when it came never was one."""
    return np.where(until > arrived, until, BEFORE_ALL)


@dataclass(frozen=True, eq=False)
class Candidates:
    """The points that claims are made on.

    `run` is the place of each point's run in `run_ids`, `parts` what they hold of an index that is made of parts (None where
    the workload has none), `before_log` for each log the place of the newest point before it that was there when it was
    written (NOTHING without one, and for what is no log; None where logs are claimed by a time of their own or there are none).
    """

    taken: Instants
    written: Instants
    kind: Kinds
    run: Places
    run_ids: tuple[str, ...]
    parts: Parts | None = None
    before_log: Places | None = None

    def reordered(self, order: Places) -> "Candidates":
        """The same points in another order."""
        parts = self.parts.reordered(order) if self.parts else None
        before = self.before_log
        if before is not None:
            place = np.empty(len(order) + 1, np.int64)
            place[order], place[-1] = np.arange(len(order)), NOTHING
            before = place[before[order]]
        columns = (self.taken[order], self.written[order], self.kind[order], self.run[order])
        return Candidates(*columns, self.run_ids, parts, before)


class Claims(NamedTuple):
    """The end of each rule's claim on each point by the rule's label, and the picks of each rung.

    The end is BEFORE_ALL where a rule does not claim a point. Labels are `recent` (its rules and the floor), the rungs' names,
    `log`.
    """

    ends: dict[str, Instants]
    picks: dict[str, Picks]

    def reordered(self, order: Places) -> "Claims":
        """The same claims for the points in another order."""
        picks = {name: Picks(one.until[order], one.decided[order]) for name, one in self.picks.items()}
        return Claims({label: ends[order] for label, ends in self.ends.items()}, picks)

    def latest(self) -> Instants:
        """Until when each point is claimed by anything: the latest end of what claims it."""
        return latest_end(self.ends)


def latest_end(ends: dict[str, Instants]) -> Instants:
    """Until when each point is claimed by anything: the latest end of what claims it."""
    return np.maximum.reduce(list(ends.values()))


def claims_of(ladder: Ladder, points: Candidates, frame: Frame, *, shared: bool) -> Claims:
    """The claims of a ladder. A claim begins when its point is written, and holds no longer at the instant of its end."""
    countable = points.kind != LOG
    ends = {RECENT: _newest(points.written, countable, ladder.floor)}
    for rule in ladder.recent:
        ends[RECENT] = np.maximum(ends[RECENT], _recent(rule, points, countable, frame))
    picks: dict[str, Picks] = {}
    for rung in ladder.rungs:
        eligible = _eligible(rung, points, countable, picks, shared=shared)
        ends[rung.name], picks[rung.name] = _rung(rung, points, eligible, frame)
    if not countable.all():
        ends[LOGS] = _logs(ladder, points, countable, latest_end(ends), frame)
    begun = {label: np.where(ends_of_one > points.written, ends_of_one, BEFORE_ALL) for label, ends_of_one in ends.items()}
    return Claims(begun, picks)


def _newest(written: Instants, counted: Mask, how_many: int) -> Instants:
    """Claims of the newest so many: a point loses its claim when the so-manieth newer one is written."""
    ends = np.full(len(written), BEFORE_ALL, np.int64)
    if how_many:
        ends[counted] = nth_later(written[counted], how_many)
    return ends


def narrowed(points: Candidates, runs: list[str] | None, kinds: list[str] | None) -> Mask:
    """The points of some runs and kinds alone; None stands for all."""
    chosen = np.ones(len(points.taken), bool)
    if runs is not None:
        chosen &= np.isin(points.run, [place for place, name in enumerate(points.run_ids) if name in runs])
    if kinds is not None:
        chosen &= is_one_of(points.kind, *map(kind_number, kinds))
    return chosen


def _recent(rule: Recent, points: Candidates, countable: Mask, frame: Frame) -> Instants:
    counted = countable & narrowed(points, rule.runs, list(rule.kinds) if rule.kinds else None)
    if isinstance(rule.keep, KeepPoints):
        return _newest(points.written, counted, rule.keep.points)
    if isinstance(rule.keep, KeepSuperseded):
        return superseded_ends(points.written, counted, points.parts, 1 + rule.keep.superseded.extra)
    return np.where(counted, _kept_for(rule.keep, points.taken, frame), BEFORE_ALL)


def superseded_ends(written: Instants, counted: Mask, parts: Parts | None, how_many: int) -> Instants:
    """Until each part that a point holds has so many newer points that hold it too.

    A workload without parts is one part itself.
    """
    if parts is None:
        parts = Parts(np.ones((1, len(written)), bool), np.array([AFTER_ALL]))
    ends = np.full(len(written), BEFORE_ALL, np.int64)
    for held, let_go in zip(parts.held, parts.let_go.tolist(), strict=True):
        chosen = held & counted
        ends[chosen] = np.maximum(ends[chosen], np.minimum(nth_later(written[chosen], how_many), let_go))
    return ends


def _kept_for(keep: str, taken: Instants, frame: Frame) -> Instants:
    if keep == "forever":
        return np.full(len(taken), AFTER_ALL, np.int64)
    return add_to_instants(taken, duration_of(keep), frame.zone)


def _eligible(rung: Rung, points: Candidates, countable: Mask, picks: dict[str, Picks], *, shared: bool) -> Mask:
    if rung.from_ in picks:
        return picks[rung.from_].until != BEFORE_ALL
    if rung.from_ == "any" or shared:
        return countable
    return is_self_contained(points.kind)


def _rung(rung: Rung, points: Candidates, eligible: Mask, frame: Frame) -> tuple[Instants, Picks]:
    periods = periods_of(rung, points.taken, eligible, frame)
    picks = picks_of(rung, periods, points.taken, points.written, frame)
    kept = np.full(len(points.taken), BEFORE_ALL, np.int64)
    if isinstance(rung.keep, KeepPeriods):
        kept[periods.chosen] = newest_periods_end(rung.keep.periods, periods, points.written)
    else:
        kept[periods.chosen] = _kept_for(rung.keep, points.taken[periods.chosen], frame)
    return np.minimum(picks.until, kept), picks


def _logs(ladder: Ladder, points: Candidates, countable: Mask, point_ends: Instants, frame: Frame) -> Instants:
    if ladder.logs is not None:
        return np.where(countable, BEFORE_ALL, add_to_instants(points.taken, duration_of(ladder.logs), frame.zone))
    if points.before_log is None:
        raise ValueError("expected what was there before each log, got nothing")
    return np.where(points.before_log == NOTHING, BEFORE_ALL, np.append(point_ends, BEFORE_ALL)[points.before_log])


def points_before_logs(taken: Instants, written: Instants, kind: Kinds, removed: Instants) -> Places:
    """For each log the place of the newest point before it, no log, that was there when it was written; NOTHING without one.

    All arrays are in the order of writing; what goes at the instant of a write is still there.
    """
    countable, logs = np.flatnonzero(kind != LOG), np.flatnonzero(kind == LOG)
    by_taken = countable[np.argsort(taken[countable], kind="stable")]
    candidate = np.searchsorted(taken[by_taken], taken[logs], side="left") - 1
    while True:
        place = by_taken[np.maximum(candidate, 0)] if len(by_taken) else logs
        absent = (candidate >= 0) & ((written[place] > written[logs]) | (removed[place] < written[logs]))
        if not absent.any():
            break
        candidate[absent] -= 1
    found = np.full(len(kind), NOTHING, np.int64)
    found[logs] = np.where(candidate >= 0, place, NOTHING)
    return found
