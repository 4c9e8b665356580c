"""Claims: which rule of a ladder claims a point, and until when (docs/model.md, Ladders).

Points come here in the order in which they were taken, which is also that of writing.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.arithmetic import add_to_instants
from shelf_core.calendar.periods import on_or_after, period_numbers
from shelf_core.calendar.zones import Seconds
from shelf_core.design.ladders import KeepPeriods, KeepPoints, KeepSuperseded, Ladder, Recent, Rung
from shelf_core.design.values import duration_of
from shelf_core.engine.frame import FAR, NEVER, Frame
from shelf_core.engine.kinds import LOG, Kinds, is_self_contained, kind_number

RECENT, LOGS = "recent", "log"
Mask = NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class Candidates:
    """The points that claims are made on: `run` is the place of each point's run in `run_ids`."""

    taken: Seconds
    written: Seconds
    kind: Kinds
    run: Seconds
    run_ids: tuple[str, ...]


def claims_of(ladder: Ladder, points: Candidates, frame: Frame, *, shared: bool) -> dict[str, Seconds]:
    """The end of each rule's claim on each point, by the rule's label; NEVER where it does not claim it.

    A claim begins when its point is written. Labels are `recent` (its rules and the floor), the rungs' names, `log`.
    """
    countable = points.kind != LOG
    claims = {RECENT: _newest(points.written, countable, ladder.floor)}
    for rule in ladder.recent:
        claims[RECENT] = np.maximum(claims[RECENT], _recent(rule, points, countable, frame))
    picked: dict[str, Mask] = {}
    for rung in ladder.rungs:
        eligible = _eligible(rung, points, countable, picked, shared=shared)
        claims[rung.name], picked[rung.name] = _rung(rung, points, eligible, frame)
    if not countable.all():
        claims[LOGS] = _logs(ladder, points, countable, latest_end(claims), frame)
    return claims


def latest_end(claims: dict[str, Seconds]) -> Seconds:
    """Until when each point is claimed by anything: the latest end of what claims it."""
    return np.maximum.reduce(list(claims.values()))


def _newest(written: Seconds, counted: Mask, how_many: int) -> Seconds:
    """Claims of the newest so many: a point loses its claim when the so-manieth newer one is written."""
    ends = np.full(len(written), NEVER, np.int64)
    chosen = np.flatnonzero(counted)
    if how_many:
        ends[chosen] = np.r_[written[chosen[how_many:]], np.full(min(how_many, len(chosen)), FAR)]
    return ends


def _recent(rule: Recent, points: Candidates, countable: Mask, frame: Frame) -> Seconds:
    counted = countable
    if rule.runs is not None:
        wanted = [place for place, name in enumerate(points.run_ids) if name in rule.runs]
        counted = counted & np.isin(points.run, wanted)
    if rule.kinds is not None:
        counted = counted & np.isin(points.kind, [kind_number(name) for name in rule.kinds])
    if isinstance(rule.keep, KeepPoints):
        return _newest(points.written, counted, rule.keep.points)
    if isinstance(rule.keep, KeepSuperseded):
        raise NotImplementedError("superseded keeps are refused before they come here")
    return np.where(counted, _kept_for(rule.keep, points.taken, frame), NEVER)


def _kept_for(keep: str, taken: Seconds, frame: Frame) -> Seconds:
    if keep == "forever":
        return np.full(len(taken), FAR, np.int64)
    return add_to_instants(taken, duration_of(keep), frame.zone)


def _eligible(rung: Rung, points: Candidates, countable: Mask, picked: dict[str, Mask], *, shared: bool) -> Mask:
    if rung.from_ in picked:
        return picked[rung.from_]
    if rung.from_ == "any" or shared:
        return countable
    return is_self_contained(points.kind)


def _rung(rung: Rung, points: Candidates, eligible: Mask, frame: Frame) -> tuple[Seconds, Mask]:
    """The ends of a rung's claims, and which points it picks at once (with `last` none: its picks may move on)."""
    ends = np.full(len(points.taken), NEVER, np.int64)
    local = frame.zone.local(points.taken)
    if rung.on is not None:
        eligible = eligible & on_or_after(local, rung.every, rung.on, frame.week_starts)
    chosen = np.flatnonzero(eligible)
    period = period_numbers(local[chosen], rung.every, frame.week_starts)
    begins = np.r_[True, period[1:] != period[:-1]] if len(chosen) else np.zeros(0, bool)
    picked = np.zeros(len(ends), bool)
    if rung.pick == "first":
        picked[chosen[begins]] = True
        ends[chosen[begins]] = _kept_picks(rung, points.written[chosen[begins]], chosen[begins], points, frame)
        return ends, picked
    group = np.cumsum(begins) - 1
    moved_on = np.r_[np.where(begins[1:], FAR, points.written[chosen[1:]]), FAR][: len(chosen)]
    kept = _kept_picks(rung, points.written[chosen[begins]], chosen, points, frame, group)
    ends[chosen] = np.minimum(moved_on, kept)
    return ends, picked


def _kept_picks(
    rung: Rung, period_began: Seconds, picks: NDArray[np.int64], points: Candidates, frame: Frame, group: Seconds | None = None
) -> Seconds:
    """Until when a rung keeps its picks. `period_began` is the instant of each period's first candidate."""
    if not isinstance(rung.keep, KeepPeriods):
        return _kept_for(rung.keep, points.taken[picks], frame)
    how_many = rung.keep.periods
    if how_many == 0:
        return np.full(len(picks), NEVER, np.int64)
    ends = np.r_[period_began[how_many:], np.full(min(how_many, len(period_began)), FAR)]
    return ends if group is None else ends[group]


def _logs(ladder: Ladder, points: Candidates, countable: Mask, point_ends: Seconds, frame: Frame) -> Seconds:
    if ladder.logs is not None:
        return np.where(countable, NEVER, add_to_instants(points.taken, duration_of(ladder.logs), frame.zone))
    newest_point = np.maximum.accumulate(np.where(countable, np.arange(len(countable)), -1))
    return np.where(countable | (newest_point < 0), NEVER, point_ends[newest_point])
