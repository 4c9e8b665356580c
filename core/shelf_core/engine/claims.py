"""Claims: which rule of a ladder claims a point, and until when (docs/model.md, Claims).

Points come here in the order in which they were taken; they may have been written in another.
"""

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.zones import Seconds
from shelf_core.design.ladders import KeepPeriods, KeepPoints, KeepSuperseded, Ladder, Recent, Rung
from shelf_core.design.values import duration_of
from shelf_core.engine.frame import FAR, NEVER, Frame
from shelf_core.engine.kinds import LOG, Kinds, is_self_contained, kind_number
from shelf_core.engine.members import Parts, superseded_ends
from shelf_core.engine.picks import Mask, Picks, Places, newest_periods_end, nth_later, periods_of, picks_of

RECENT, LOGS = "recent", "log"
NOTHING = -1


@dataclass(frozen=True, eq=False)
class Candidates:
    """The points that claims are made on.

    `run` is the place of each point's run in `run_ids`, `parts` what they hold of an index that is made of parts (None where
    the workload has none), `before_log` for each log the place of the newest point before it that was there when it was
    written (NOTHING without one, and for what is no log; None where logs are claimed by a time of their own or there are none).
    """

    taken: Seconds
    written: Seconds
    kind: Kinds
    run: Seconds
    run_ids: tuple[str, ...]
    parts: Parts | None = None
    before_log: Places | None = None

    def reordered(self, order: Seconds) -> "Candidates":
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

    The end is NEVER where a rule does not claim a point. Labels are `recent` (its rules and the floor), the rungs' names,
    `log`.
    """

    ends: dict[str, Seconds]
    picks: dict[str, Picks]

    def reordered(self, order: Seconds) -> "Claims":
        """The same claims for the points in another order."""
        picks = {name: Picks(one.until[order], one.decided[order]) for name, one in self.picks.items()}
        return Claims({label: ends[order] for label, ends in self.ends.items()}, picks)

    def latest(self) -> Seconds:
        """Until when each point is claimed by anything: the latest end of what claims it."""
        return latest_end(self.ends)


def latest_end(ends: dict[str, Seconds]) -> Seconds:
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
    begun = {label: np.where(ends_of_one > points.written, ends_of_one, NEVER) for label, ends_of_one in ends.items()}
    return Claims(begun, picks)


def _newest(written: Seconds, counted: Mask, how_many: int) -> Seconds:
    """Claims of the newest so many: a point loses its claim when the so-manieth newer one is written."""
    ends = np.full(len(written), NEVER, np.int64)
    if how_many:
        ends[counted] = nth_later(written[counted], how_many)
    return ends


def narrowed(points: Candidates, runs: list[str] | None, kinds: list[str] | None) -> Mask:
    """The points of some runs and kinds alone; None stands for all."""
    chosen = np.ones(len(points.taken), bool)
    if runs is not None:
        chosen &= np.isin(points.run, [place for place, name in enumerate(points.run_ids) if name in runs])
    if kinds is not None:
        chosen &= np.isin(points.kind, [kind_number(name) for name in kinds])
    return chosen


def _recent(rule: Recent, points: Candidates, countable: Mask, frame: Frame) -> Seconds:
    counted = countable & narrowed(points, rule.runs, list(rule.kinds) if rule.kinds else None)
    if isinstance(rule.keep, KeepPoints):
        return _newest(points.written, counted, rule.keep.points)
    if isinstance(rule.keep, KeepSuperseded):
        return superseded_ends(points.written, counted, points.parts, 1 + rule.keep.superseded.extra)
    return np.where(counted, _kept_for(rule.keep, points.taken, frame), NEVER)


def _kept_for(keep: str, taken: Seconds, frame: Frame) -> Seconds:
    if keep == "forever":
        return np.full(len(taken), FAR, np.int64)
    return add_to_instants(taken, duration_of(keep), frame.zone)


def _eligible(rung: Rung, points: Candidates, countable: Mask, picks: dict[str, Picks], *, shared: bool) -> Mask:
    if rung.from_ in picks:
        return picks[rung.from_].until != NEVER
    if rung.from_ == "any" or shared:
        return countable
    return is_self_contained(points.kind)


def _rung(rung: Rung, points: Candidates, eligible: Mask, frame: Frame) -> tuple[Seconds, Picks]:
    periods = periods_of(rung, points.taken, eligible, frame)
    picks = picks_of(rung, periods, points.taken, points.written, frame)
    kept = np.full(len(points.taken), NEVER, np.int64)
    if isinstance(rung.keep, KeepPeriods):
        kept[periods.chosen] = newest_periods_end(rung.keep.periods, periods, points.written)
    else:
        kept[periods.chosen] = _kept_for(rung.keep, points.taken[periods.chosen], frame)
    return np.minimum(picks.until, kept), picks


def _logs(ladder: Ladder, points: Candidates, countable: Mask, point_ends: Seconds, frame: Frame) -> Seconds:
    if ladder.logs is not None:
        return np.where(countable, NEVER, add_to_instants(points.taken, duration_of(ladder.logs), frame.zone))
    if points.before_log is None:
        raise ValueError("expected what was there before each log, got nothing")
    return np.where(points.before_log == NOTHING, NEVER, np.r_[point_ends, NEVER][points.before_log])


def points_before_logs(taken: Seconds, written: Seconds, kind: Kinds, removed: Seconds) -> Places:
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
