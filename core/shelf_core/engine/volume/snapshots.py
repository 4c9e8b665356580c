"""Bytes of snapshots beside their source, and of replicas of them elsewhere (docs/model.md, Bytes: snapshot space).

A snapshot holds what the source has overwritten since, up to the next snapshot of its copy that is there. The newest
one's share grows with every moment, so sums are asked for at instants instead of being added up from entries. Of a replica
the newest is there in full, and no source writes beside it.
"""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes, Instants, Lengths, Mask, Places, Ticks
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.retention.states import Standing
from shelf_core.engine.schedule.frame import AFTER_ALL, Frame
from shelf_core.engine.volume.ledger import PHASES, RECLAIM, SWEEP, WRITE, Days, Ledger, highest_of_days, ticks
from shelf_core.engine.volume.shared import Spans, neighbour_spans, spans_in_any_order
from shelf_core.engine.volume.sizes import Behaviour, changed_share, changed_sum, scales_of, source_bytes

Lives = Sequence[tuple[Lifecycle, tuple[Workload, ...]]]
"""The snapshots of each copy, and the workloads they are of."""


class Series(NamedTuple):
    """The snapshots of one copy for workloads that behave alike; `factor` is their size together at scale 1."""

    life: Lifecycle
    behaviour: Behaviour
    factor: float


def snapshot_days(lives: Lives, frame: Frame) -> Days:
    """The sums of each day. The peak is not less than what the day begins and ends with, since the newest ones grow."""
    instants = _instants(lives, frame)
    sums = snapshot_sums(lives, np.r_[ticks(frame.midnights, WRITE), ticks(instants, SWEEP)], frame)
    midnights, full = sums[: len(frame.midnights)], sums[len(frame.midnights) :]
    peak = np.maximum(midnights[:-1], midnights[1:])
    np.maximum.at(peak, np.searchsorted(frame.midnights, instants, side="right") - 1, full)
    return Days(midnights[1:], peak)


def snapshot_peak_ticks(lives: Lives, frame: Frame) -> Ticks:
    """For each day a tick just before which the sum is at the day's peak: at its beginning or end, or after a write."""
    asked = np.r_[ticks(frame.midnights[:-1], WRITE), ticks(_instants(lives, frame), SWEEP)]
    return highest_of_days(asked, lambda ticks_asked: snapshot_sums(lives, ticks_asked, frame), frame)


def snapshot_byte_seconds(lives: Lives, edges: Instants, frame: Frame) -> Bytes:
    """The sum times seconds between each two of the ascending instants, within the design.

    Between its events the sum is a smooth curve, taken as straight from event to event and from midnight to midnight.
    """
    at = np.unique(np.concatenate([edges, frame.midnights, _instants(lives, frame)]))
    begins = snapshot_sums(lives, ticks(at[:-1], RECLAIM) + 1, frame)
    ends = snapshot_sums(lives, ticks(at[1:], WRITE), frame)
    area = (begins + ends) / 2 * np.diff(at)
    until = np.r_[0.0, np.cumsum(area)]
    return np.diff(until[np.searchsorted(at, edges)])


def snapshot_sums(lives: Lives, asked: Ticks, frame: Frame) -> Bytes:
    """The sum just before each of the asked ticks."""
    ledger, growing = Ledger(), []
    for life, workloads in lives:
        pairs, newest = life_spans(life)
        for behaviour, scale in scales_of(workloads, frame).items():
            series = Series(life, behaviour, scale.unreduced)
            until_next = life.taken[pairs.newer] - life.taken[pairs.older]
            overwritten = _overwritten(series, pairs.older, until_next, frame)
            ledger.add_between(pairs.begin, pairs.end, overwritten)
            if life.replica:
                ledger.add_between(newest.begin, newest.end, _in_full(series, newest.older, frame))
            else:
                growing.append((series, newest))
    sums = ledger.sums_at(asked, frame)
    for series, newest in growing:
        sums += _growing_at(series, newest, asked, frame)
    return sums


def _instants(lives: Lives, frame: Frame) -> Instants:
    """When something comes or goes, within the design."""
    edges = [edge for life, _ in lives for edge in (life.written, life.removed)]
    instants = np.unique(np.concatenate([np.zeros(0, np.int64), *edges]))
    return instants[(instants >= frame.begin) & (instants < frame.end)]


def snapshot_bytes_at(life: Lifecycle, workload: Workload, tick: int, frame: Frame) -> Bytes:
    """What each snapshot of a copy holds for a workload just before a tick; 0 for those that are not there."""
    sizes = np.zeros(len(life))
    there = np.flatnonzero((ticks(life.written, WRITE) < tick) & (ticks(life.removed, SWEEP) >= tick))
    there = there[np.argsort(life.taken[there], kind="stable")]
    until = np.r_[life.taken[there][1:], tick // PHASES]
    for behaviour, scale in scales_of((workload,), frame).items():
        series = Series(life, behaviour, scale.unreduced)
        sizes[there] = _overwritten(series, there, until - life.taken[there], frame)
        if life.replica:
            sizes[there[-1:]] = _in_full(series, there[-1:], frame)
    return sizes


def snapshot_bytes_each_day(life: Lifecycle, workloads: tuple[Workload, ...], there: Standing, frame: Frame) -> Bytes:
    """What each snapshot holds at the end of each day on which it is there."""
    order = np.lexsort((life.taken[there.place], there.day))
    day, place = there.day[order], there.place[order]
    taken = life.taken[place]
    is_newest = np.r_[day[1:] != day[:-1], True][: len(taken)]
    until = np.where(is_newest, frame.midnights[day + 1], np.r_[taken[1:], 0][: len(taken)])
    sizes = np.zeros(len(taken))
    for behaviour, scale in scales_of(workloads, frame).items():
        series = Series(life, behaviour, scale.unreduced)
        held = _overwritten(series, place, until - taken, frame)
        sizes[order] += np.where(is_newest, _in_full(series, place, frame), held) if life.replica else held
    return sizes


def replicated_bytes(taken: Instants, since: Instants, found: Mask, workloads: tuple[Workload, ...], frame: Frame) -> Bytes:
    """What each replica moves: what changed since the newest older one there where one is `found`, else the whole source."""
    moved = np.zeros(len(taken))
    for behaviour, scale in scales_of(workloads, frame).items():
        changed = changed_sum({behaviour: scale.unreduced}, since[found], taken[found], frame.begin)
        moved[found] += changed
        moved[~found] += scale.unreduced * source_bytes(behaviour, taken[~found], frame.begin)
    return moved


def life_spans(life: Lifecycle) -> tuple[Spans, Spans]:
    """When which snapshots of a copy are neighbours, and when which is the newest that is there; places among the life's."""
    arrived, went = ticks(life.written, WRITE), ticks(life.removed, SWEEP)
    if np.all(np.diff(life.taken) > 0):
        return neighbour_spans(arrived, went), _newest_spans(arrived, went)
    # Replicas may come late, after newer ones.
    order = np.argsort(life.taken, kind="stable")
    spans = spans_in_any_order(arrived[order], went[order])
    pairs, newest = spans.neighbours, spans.newest
    return (
        pairs._replace(older=order[pairs.older], newer=order[pairs.newer]),
        newest._replace(older=order[newest.older], newer=order[newest.older]),
    )


def _newest_spans(arrived: Ticks, went: Ticks) -> Spans:
    """When which snapshot is the newest that is there: until the next comes, or again when all newer ones have gone."""
    stays_until_next = bool(np.all(went[:-1] >= arrived[1:])) and bool(np.all(went[-1:] >= AFTER_ALL))
    if not stays_until_next:
        return spans_in_any_order(arrived, went).newest
    place = np.arange(len(arrived))
    return Spans(place, place, arrived, np.r_[arrived[1:], went[-1:]])


def _in_full(series: Series, places: Places, frame: Frame) -> Bytes:
    return series.factor * source_bytes(series.behaviour, series.life.taken[places], frame.begin)


def _overwritten(series: Series, places: Places, seconds: Lengths, frame: Frame) -> Bytes:
    """What the source had overwritten so long after; new data alone overwrites nothing."""
    if series.behaviour.fresh:
        return np.zeros(len(places))
    return _in_full(series, places, frame) * changed_share(series.behaviour, seconds)


def newest_at(life: Lifecycle, asked: Ticks) -> tuple[Places, Places]:
    """The places among the asked ticks just before which there is a snapshot, and of the newest one each time."""
    newest = life_spans(life)[1]
    which, there = _during(newest, asked)
    return np.flatnonzero(there), which[there]


def _during(newest: Spans, asked: Ticks) -> tuple[Places, Mask]:
    order = np.argsort(newest.begin, kind="stable")
    begin, end, places = newest.begin[order], newest.end[order], newest.older[order]
    which = np.searchsorted(begin, asked, side="left") - 1
    there = (which >= 0) & (np.r_[end, -AFTER_ALL][which] >= asked)
    return np.r_[places, 0][which], there


def _growing_at(series: Series, newest: Spans, asked: Ticks, frame: Frame) -> Bytes:
    which, there = _during(newest, asked)
    amounts = np.zeros(len(asked))
    here = which[there]
    amounts[there] = _overwritten(series, here, asked[there] // PHASES - series.life.taken[here], frame)
    return amounts
