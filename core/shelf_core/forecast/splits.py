"""A target's sums split: by route, copy, workload, kind, rung or state, through the days."""

from collections import defaultdict
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from shelf_core.arrays import Bytes, Counts, Mask, Places
from shelf_core.design.cadences import KINDS
from shelf_core.design.targets import Target
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.retention.states import STATES, standing_on
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.engine.volume.counts import Counter
from shelf_core.engine.volume.ledger import WRITE, Ledger, ticks
from shelf_core.engine.volume.ledgers import pieces_of
from shelf_core.engine.volume.moved import moved_per_day
from shelf_core.engine.volume.pieces import Pieces
from shelf_core.engine.volume.snapshots import snapshot_bytes_each_day, snapshot_days
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.moves import moved_of

By = Literal["route", "copy", "workload", "kind", "rung", "state"]
WAITING = "waiting for a reclaim"
NOTHING_CLAIMS = "no rule"


@dataclass(frozen=True, eq=False)
class Part:
    """One part of a target, one element per day, as in Totals.

    `peak_bytes` is the part's own peak (peaks of parts do not add up), None where a part is told apart at the ends of days
    alone; `moved_bytes` what comes on each day, None for states, which come after.
    """

    points: Counts
    stored_bytes: Bytes
    peak_bytes: Bytes | None
    moved_bytes: Bytes | None


def split(result: Forecast, target: str, by: By) -> dict[str, Part]:
    """The parts of a target by name; their stored bytes add up to the target's. Raises KeyError for an unknown target.

    By `rung` a point belongs to the rule that claims it longest, by `state` to what it is at the end of each day. Bytes that
    shared points have in common belong to the point they are there for (see engine/volume/pieces.py); what waits for a reclaim
    is a part of its own.
    """
    place = next((at for at, one in enumerate(result.design.targets) if one.id == target), None)
    if place is None:
        raise KeyError(target)
    one = result.design.targets[place]
    holdings = [holding for holding in result.holdings if holding.target == place]
    if by == "state" or (one.media == "snapshot" and by in ("kind", "rung")):
        parts = _at_day_ends(result, one, holdings, by)
    elif one.media == "snapshot":
        parts = _snapshots(result, holdings, by)
    else:
        parts = _by_pieces(result, one, holdings, by)
    return parts | _waiting(result, place, parts)


def _by_pieces(result: Forecast, target: Target, holdings: list[Holding], by: By) -> dict[str, Part]:
    ledgers: dict[str, Ledger] = defaultdict(Ledger)
    names = [_names(holding, by) for holding in holdings]
    for pieces in pieces_of(target, holdings, result.frame, by_workload=by == "workload"):
        for name, chosen in _chosen(pieces, names):
            ledgers[name].add_between(pieces.begin[chosen], pieces.end[chosen], pieces.stored_bytes[chosen])
    counts = _counts_and_moves(result, holdings, names, by)
    found = {}
    for name, (points, moved) in counts.items():
        days = ledgers[name].days(result.frame)
        found[name] = Part(points, days.at_end, days.peak, moved)
    return found


def _chosen(pieces: Pieces, names: list[NDArray[np.object_] | None]) -> list[tuple[str, Places]]:
    """The places of the pieces of each name."""
    if pieces.workload is not None:
        return [(pieces.workload, np.arange(len(pieces.place)))]
    found: list[tuple[str, Places]] = []
    for number in np.unique(pieces.holding).tolist():
        here = np.flatnonzero(pieces.holding == number)
        of_points = names[number]
        labels = of_points[pieces.place[here]] if of_points is not None else np.full(len(here), "", object)
        found += [(name, here[labels == name]) for name in sorted(set(labels.tolist()))]
    return found


def _names(holding: Holding, by: By) -> NDArray[np.object_] | None:
    """The part that each point belongs to; None where workloads are told apart instead."""
    life = holding.life
    if by == "workload":
        return None
    if by == "kind":
        return np.array(KINDS, object)[life.kind]
    if by == "rung":
        return longest_claim(life)
    return np.full(len(life), holding.route if by == "route" else f"{holding.route} / {holding.copy}", object)


def longest_claim(life: Lifecycle) -> NDArray[np.object_]:
    """The label of the rule that claims each point longest; of equals the first in the order of labels."""
    found, until = np.full(len(life), NOTHING_CLAIMS, object), np.full(len(life), -1)
    ends = dict(life.claims)
    for claim in life.held:
        so_far = ends.get(claim.label, np.full(len(life), -1))
        ends[claim.label] = np.maximum(so_far, np.where(claim.points, claim.ends, -1))
    for label in sorted(ends):
        longer = ends[label] > until
        found[longer], until = label, np.maximum(until, ends[label])
    return found


def _counts_and_moves(
    result: Forecast, holdings: list[Holding], names: list[NDArray[np.object_] | None], by: By
) -> dict[str, tuple[Counts, Bytes]]:
    found: dict[str, tuple[Counts, Bytes]] = {}
    for holding, of_points in zip(holdings, names, strict=True):
        for one in [holding.of(workload) for workload in holding.workloads] if by == "workload" else [holding]:
            moved = moved_of(result, one)
            labels = of_points if of_points is not None else np.full(len(one.life), one.workloads[0].id, object)
            for name in sorted(set(labels.tolist())):
                counted = _counted(result, one, labels == name)
                along = moved_per_day(one, np.where(labels == name, moved, 0.0), result.frame)
                before = found.get(name)
                found[name] = (counted, along) if before is None else (before[0] + counted, before[1] + along)
    return found


def _counted(result: Forecast, holding: Holding, chosen: Mask) -> Counts:
    counter, life = Counter(result.frame), holding.life
    counted = chosen & (life.stored_as != LOG)
    days = counter.days_of(life.written[counted], life.removed[counted])
    counter.add(days, sum(workload.count for workload in holding.workloads))
    return counter.at_end()


def _snapshots(result: Forecast, holdings: list[Holding], by: By) -> dict[str, Part]:
    names = [_names(holding, by) for holding in holdings]
    lives: dict[str, list[Holding]] = defaultdict(list)
    for holding, of_points in zip(holdings, names, strict=True):
        for one in [holding.of(workload) for workload in holding.workloads] if by == "workload" else [holding]:
            name = one.workloads[0].id if by == "workload" else str((of_points if of_points is not None else [""])[0])
            lives[name].append(one)
    counts = _counts_and_moves(result, holdings, names, by)
    found = {}
    for name, several in lives.items():
        days = snapshot_days([(one.life, one.workloads) for one in several], result.frame)
        found[name] = Part(counts[name][0], days.at_end, days.peak, counts[name][1])
    return found


def _at_day_ends(result: Forecast, target: Target, holdings: list[Holding], by: By) -> dict[str, Part]:
    """Parts whose points are told apart day by day."""
    frame = result.frame
    days = np.arange(frame.days)
    points: dict[str, Counts] = defaultdict(lambda: np.zeros(frame.days, np.int64))
    stored: dict[str, Bytes] = defaultdict(lambda: np.zeros(frame.days))
    label_of, keys = [], []
    for holding in holdings:
        there = standing_on(holding.life, frame, days)
        labels = _labels_of_days(holding, there.place, there.state, by)
        label_of.append(labels)
        keys.append(there.day * (len(holding.life) + 1) + there.place)
        how_many = sum(workload.count for workload in holding.workloads)
        counted = holding.life.stored_as[there.place] != LOG
        for name in sorted(set(labels.tolist())):
            points[name] += how_many * np.bincount(there.day[counted & (labels == name)], minlength=frame.days)
        if target.media == "snapshot":
            sizes = snapshot_bytes_each_day(holding.life, holding.workloads, there, frame)
            for name in sorted(set(labels.tolist())):
                stored[name] += np.bincount(there.day, weights=np.where(labels == name, sizes, 0.0), minlength=frame.days)
    if target.media != "snapshot":
        _add_pieces_of_days(result, target, holdings, keys, label_of, stored)
    return {name: Part(points[name], stored[name], None, None) for name in sorted({*points, *stored})}


def _labels_of_days(holding: Holding, place: Places, state: NDArray[np.int8], by: By) -> NDArray[np.object_]:
    if by == "state":
        return np.array(STATES, object)[state]
    names = _names(holding, by)
    return names[place] if names is not None else np.full(len(place), "", object)


def _add_pieces_of_days(
    result: Forecast,
    target: Target,
    holdings: list[Holding],
    keys: list[Places],
    label_of: list[NDArray[np.object_]],
    stored: dict[str, Bytes],
) -> None:
    """Add to each day's parts the pieces that are there at its end, by what the point they are there for is then."""
    frame = result.frame
    ends = ticks(frame.midnights[1:], WRITE)
    for pieces in pieces_of(target, holdings, frame):
        first, last = np.searchsorted(ends, pieces.begin, side="right"), np.searchsorted(ends, pieces.end, side="right")
        for number in np.unique(pieces.holding).tolist():
            mine = np.flatnonzero(pieces.holding == number)
            how_many = np.maximum(last[mine] - first[mine], 0)
            which = np.repeat(mine, how_many)
            day = np.arange(len(which)) - np.repeat(np.cumsum(how_many) - how_many, how_many) + first[which]
            at = np.searchsorted(keys[number], day * (len(holdings[number].life) + 1) + pieces.place[which])
            labels = label_of[number][at]
            for name in sorted(set(labels.tolist())):
                weights = np.where(labels == name, pieces.stored_bytes[which], 0.0)
                stored[name] += np.bincount(day, weights=weights, minlength=frame.days)


def _waiting(result: Forecast, place: int, parts: dict[str, Part]) -> dict[str, Part]:
    if result.design.targets[place].reclaim is None:
        return {}
    totals = result.targets[place].totals
    rest = totals.stored_bytes - sum((part.stored_bytes for part in parts.values()), np.zeros(result.frame.days))
    rest = np.where(rest > 1e-9 * totals.peak_bytes.max(initial=0.0), rest, 0.0)
    return {WAITING: Part(np.zeros(result.frame.days, np.int64), rest, None, np.zeros(result.frame.days))}
