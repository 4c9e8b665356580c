"""The bytes of a target in every draw: its points are those of the forecast, its sizes those of the draw.

What comes and goes does not depend on sizes. So the sums at the ends of days are linear in curves of growth and change alone,
which are computed by the engine's own formulas at some nodes, and put together for each draw with what each workload does
in it.
"""

from collections import defaultdict
from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from shelf_core.arrays import Bytes, Instants, Lengths, Ticks
from shelf_core.calendar.zones import DAY
from shelf_core.chance.draws import Draws
from shelf_core.chance.nodes import Nodes, nodes_for
from shelf_core.cost.months import months_of
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import DIFFERENTIAL, INCREMENTAL, LOG
from shelf_core.engine.schedule.sweeps import reclaims_of
from shelf_core.engine.volume.ledger import PHASES, WRITE, arrival_ticks, departure_ticks, ticks
from shelf_core.engine.volume.ledgers import ledger_of
from shelf_core.engine.volume.pieces import holdings_of_workloads
from shelf_core.engine.volume.rows import Row, row_of_points
from shelf_core.engine.volume.separate import log_bytes
from shelf_core.engine.volume.sizes import YEAR_DAYS, Behaviour, Scale, behaviour_of, changed_share, scale_of, source_bytes
from shelf_core.engine.volume.snapshots import life_spans, newest_at, snapshot_peak_ticks
from shelf_core.engine.volume.totals import lives_of
from shelf_core.forecast.forecast import Forecast

TOLERANCE = 1e-5
MOST_WAITING = 256
"""So many curves are put together before they are multiplied."""
CACHED_NUMBERS = 16_384
MOST_GROWTH_NODES = 16
CHANGE_NODES = 10
FRESH_PARTS = 16
"""With new data alone the curves have corners; between so many breaks they are followed more closely."""
FRESH_NODES = 2
MOST_HIT = 1 - 1e-7
"""Where all blocks of the hot part are hit every day, so much of it is taken to be."""


Singles = NDArray[np.float32]
"""Bytes to seven digits: sums are taken exactly, many draws of them need not be."""


class Samples(NamedTuple):
    """A target in every draw: stored bytes at the end of each day, and at the instant of the day's expected peak.

    Both of shape (days, draws). `byte_seconds` are the stored bytes integrated over each month, of shape (months, draws).
    """

    stored_bytes: Singles
    peak_bytes: Singles
    byte_seconds: Singles


class _Form(NamedTuple):
    """What workloads have in common whose curves differ by growth and change alone."""

    base: float
    steps: tuple[tuple[int, float], ...]
    hot: float
    fresh: bool
    change_is_known: bool
    even: float

    def behaviour(self, log_growth: float, rate: float) -> Behaviour:
        """A behaviour of this form; `rate` as `_rates` gives it."""
        change = rate if self.fresh else self.hot * -np.expm1(-np.exp(rate))
        return Behaviour(self.base, self.steps, float(np.expm1(log_growth)), float(change), self.hot, self.fresh, self.even)


class _Group(NamedTuple):
    """Workloads of one form with their nodes: those of growth, those of change, and what each counts for in each draw.

    `fulls` has shape (growth nodes, draws), `changes` (growth nodes times change nodes, draws).
    """

    form: _Form
    growth: Nodes
    rate: Nodes
    fulls: Bytes
    changes: Bytes


def samples_of(result: Forecast, target_place: int, draws: Draws) -> Samples:
    """A target in every draw."""
    target = result.design.targets[target_place]
    holdings = [one for one in result.holdings if one.target == target_place]
    edges = months_of(result.frame).edges
    sampler = _Sampler(target, holdings, result.frame, edges)
    adding = _Total(sampler.rows, draws.count)
    places = {one.id: at for at, one in enumerate(result.design.workloads)}
    if target.media == "snapshot":
        _add_snapshots(adding, sampler, holdings, _Drawn(draws, places, result.frame))
    elif target.packing == "shared":
        _add_shared(adding, sampler, holdings, _Drawn(draws, places, result.frame))
    else:
        _add_separate(adding, sampler, holdings, _Drawn(draws, places, result.frame))
    # What is computed as a difference of sums leaves rounding dust.
    total = adding.settled()
    np.maximum(total, 0.0, out=total)
    days = result.frame.days
    stored = total[:days]
    months = _from_day_ends(stored, result.frame, edges) if target.media == "snapshot" else total[2 * days :]
    return Samples(stored, np.maximum(_before(stored), total[days : 2 * days]), months)


def _from_day_ends(stored: Singles, frame: Frame, edges: Instants) -> Singles:
    """Snapshots grow all day long; over a month they are taken to hold on each day what they hold at its end."""
    seconds = np.diff(frame.midnights[: frame.days + 1]).astype(np.float32)
    first = np.searchsorted(frame.midnights, edges[:-1])
    return np.add.reduceat(stored * seconds[:, None], first, axis=0)


def _before(stored: Singles) -> Singles:
    """What each day begins with, from what days end with; the first begins with nothing that is counted here."""
    return np.concatenate([np.zeros((1, stored.shape[1]), np.float32), stored[:-1]])


class _Sampler:
    """When sums are asked for: at the ends of days, at the instants of their expected peaks, and over months.

    `edges` are the instants at which months begin, and the end of the last.
    """

    def __init__(self, target: Target, holdings: list[Holding], frame: Frame, edges: Instants) -> None:
        self._falling, self._later = np.zeros(0, np.int64), np.zeros(0, np.int64)
        if target.media == "snapshot":
            peaks = snapshot_peak_ticks(lives_of(holdings), frame)
        else:
            ledger, reclaims = ledger_of(target, holdings, frame), reclaims_of(target.reclaim, frame)
            peaks = ledger.peak_ticks(frame, reclaims)
            if reclaims is not None:
                self._falling, self._later = ledger.reclaim_shifts(frame, reclaims)
        self.asked = np.r_[ticks(frame.midnights[1:], WRITE), peaks]
        self._begin, self._edges = frame.begin, edges - frame.begin
        self._last = max(int(self.asked.max()), int(edges[-1]) * PHASES)
        self._over_months = target.media != "snapshot"
        self.rows = len(self.asked) + (len(edges) - 1 if self._over_months else 0)

    def sums(self, begin: Ticks, end: Ticks, amounts: Bytes) -> Bytes:
        """The sums of amounts, of shape (pieces, columns), that are there from tick to tick.

        A row for each asked tick, before it, then a row for each month, integrated over its seconds.
        """
        found = self._until(begin, amounts)
        found -= self._until(end, amounts)
        return found

    def _until(self, at: Ticks, amounts: Bytes) -> Bytes:
        at = self._given_back(at)
        # What is after all that is asked for, as the end of what never goes, adds to nothing.
        counts = at <= self._last
        if not counts.all():
            at, amounts = at[counts], amounts[counts]
        # What comes mostly comes in order, and copying it would take as long as adding it.
        if (at[1:] < at[:-1]).any():
            order = np.argsort(at, kind="stable")
            at, amounts = at[order], amounts[order]
        sums = _running_sums(amounts)
        found = np.empty((self.rows, amounts.shape[1]))
        # All places are there; only with "clip" is the result written where it is to be without a copy in between.
        np.take(sums, np.searchsorted(at, self.asked), axis=0, out=found[: len(self.asked)], mode="clip")
        if self._over_months:
            # What is there from s on has by t been there t - s: t times the sum until t, less the sum of amounts times s.
            since = at // PHASES - self._begin
            until = np.searchsorted(since, self._edges)
            seconds, bounds = since.astype(float), pairwise([0, *until.tolist()])
            weighted = np.cumsum([seconds[first:last] @ amounts[first:last] for first, last in bounds], axis=0)
            found[len(self.asked) :] = np.diff(self._edges[:, None] * sums[until] - weighted, axis=0)
        return found

    def _given_back(self, at: Ticks) -> Ticks:
        """The same ticks, those of sweeps at which the expected sum falls moved to when the space is given back."""
        if len(self._falling) == 0:
            return at
        place = np.minimum(np.searchsorted(self._falling, at), len(self._falling) - 1)
        return np.where(self._falling[place] == at, self._later[place], at)


def _running_sums(rows: Bytes) -> Bytes:
    """The sums of the first rows, from none to all of them. Taken by blocks that stay in the processor's cache."""
    found = np.empty((len(rows) + 1, rows.shape[1]))
    found[0] = 0.0
    block = max(1, CACHED_NUMBERS // rows.shape[1])
    for first in range(0, len(rows), block):
        part = found[first + 1 : first + 1 + block]
        np.cumsum(rows[first : first + block], axis=0, out=part)
        part += found[first]
    return found


class _Drawn:
    """What workloads do in each draw."""

    def __init__(self, draws: Draws, places: dict[str, int], frame: Frame) -> None:
        self._draws, self._places, self.frame, self.count = draws, places, frame, draws.count

    def groups(self, workloads: list[Workload], *, reduced: bool = True) -> Iterator[_Group]:
        """The workloads by their form, as they are stored or not `reduced`; what they have in common is left out of fulls."""
        forms: dict[_Form, list[Workload]] = defaultdict(list)
        for workload in workloads:
            forms[self._form(workload)].append(workload)
        for form, members in forms.items():
            yield self._group(form, members, 1.0, reduced=reduced)

    def one(self, workload: Workload) -> _Group:
        """A workload alone, one of its count, with the share of its fulls that it has in common with others."""
        percent = workload.alike.percent if workload.alike else 0.0
        single = workload.model_copy(update={"count": 1, "alike": None})
        return self._group(self._form(single), [single], percent / 100, reduced=True)

    def log_scale(self, workloads: list[Workload]) -> Bytes:
        """Bytes of log a second of all of them together, in each draw."""
        total = np.zeros(self._draws.count)
        for one in workloads:
            total += scale_of(one).log_per_second / self._draws.reduction[self._places[one.id]]
        return total

    def _form(self, workload: Workload) -> _Form:
        known = behaviour_of(workload, self.frame)
        change = self._draws.change[self._places[workload.id]]
        if workload.change_pattern == "scattered" and not change.any():
            # Nothing changes: then it is all one how, and a rate of nothing has no logarithm.
            known = known._replace(hot=1.0)
        return _Form(known.base, known.steps, known.hot, known.fresh, bool((change == change[0]).all()), known.even)

    def _group(self, form: _Form, members: list[Workload], share: float, *, reduced: bool) -> _Group:
        at = [self._places[one.id] for one in members]
        count = self._draws.count
        logs = np.log(self._draws.growth[at])
        years = (self.frame.end - self.frame.begin) / DAY / YEAR_DAYS
        growth = nodes_for(logs, _enough((logs.max() - logs.min()) / 2 * years), (0.0,))
        rates = _rates(form, self._draws.change[at])
        breaks = () if form.change_is_known else tuple(np.quantile(rates, np.arange(1, FRESH_PARTS) / FRESH_PARTS))
        rate = nodes_for(rates, FRESH_NODES if form.fresh else CHANGE_NODES, breaks if form.fresh else ())
        fulls = np.zeros((len(growth.values), count))
        changes = np.zeros((len(growth.values), len(rate.values), count))
        for number, workload in enumerate(members):
            stored = workload if reduced else workload.model_copy(update={"reduction": 1.0, "change_reduction": None})
            scale, columns = scale_of(stored), slice(number * count, (number + 1) * count)
            reduction = self._draws.reduction[at[number]] if reduced else np.ones(count)
            mine = growth.weights[:, columns]
            own = share if workload.alike is None else share * (1 - workload.alike.percent / 100)
            fulls += own * scale.full / reduction * mine
            changes += mine[:, None] * (scale.change / reduction * rate.weights[:, columns])[None]
        return _Group(form, growth, rate, fulls, changes.reshape(-1, count))


def _enough(half: float) -> int:
    """How many Chebyshev nodes follow an exponential over exponents from -half to half to some ten millionths of it.

    The error of n nodes is 2 (half / 2)^n / n! (Trefethen, Approximation Theory and Approximation Practice, chapter 8, from
    memory); beside the smallest value it counts e^half times.
    """
    count, error = 1, half * np.exp(half)
    while error > TOLERANCE and count < MOST_GROWTH_NODES:
        count += 1
        error *= half / 2 / count
    return count


def _rates(form: _Form, change: Bytes) -> Bytes:
    """Change as what its curves are smooth in: the logarithm of the rate at which blocks are hit; new data as it is."""
    if form.fresh:
        return change
    rate = np.clip(-np.log1p(-np.minimum(change / form.hot, MOST_HIT)), 1e-300, None)
    return np.log(rate)


def _full_columns(group: _Group, taken: Instants, frame: Frame) -> Bytes:
    """S(taken) at each node of growth."""
    curves = [source_bytes(group.form.behaviour(growth, 0.0), taken, frame.begin) for growth in group.growth.values.tolist()]
    return np.stack(curves, axis=1)


def _shares(group: _Group, seconds: Lengths) -> Bytes:
    """The share that changes in each time, at each node of change."""
    shares = [changed_share(group.form.behaviour(0.0, rate), seconds) for rate in group.rate.values.tolist()]
    return np.stack(shares, axis=1)


def _change_columns(group: _Group, older: Instants, newer: Instants, frame: Frame) -> Bytes:
    """changed(older, newer) at each pair of nodes (docs/model.md, Bytes)."""
    was = _full_columns(group, older, frame)
    grown = (_full_columns(group, newer, frame) - was)[:, :, None]
    changed = was[:, :, None] * _shares(group, newer - older)[:, None, :]
    both = np.maximum(changed, grown) if group.form.fresh else changed + np.maximum(grown, 0.0)
    return both.reshape(len(older), was.shape[1] * changed.shape[2])


def _times(columns: Bytes, weights: Bytes) -> Singles:
    return columns.astype(np.float32) @ weights.astype(np.float32)


class _Total:
    """A sum over pieces: a row for each time that is asked for, a column for each draw.

    What is added as curves times weights waits until there is much of it: one large product of matrices is several times
    faster than many small ones.
    """

    def __init__(self, rows: int, draws: int) -> None:
        self._sum = np.zeros((rows, draws), np.float32)
        self._waiting: list[tuple[Singles, Singles]] = []

    def add(self, columns: Bytes, weights: Bytes) -> None:
        """Add curves, a column each, times what each counts for in each draw."""
        self._waiting.append((columns.astype(np.float32), weights.astype(np.float32)))
        if sum(columns.shape[1] for columns, _ in self._waiting) > MOST_WAITING:
            self.settled()

    def settled(self) -> Singles:
        """The sum with all that was added, to be read and added to."""
        if self._waiting:
            columns, weights = zip(*self._waiting, strict=True)
            self._sum += np.hstack(columns) @ np.vstack(weights)
            self._waiting = []
        return self._sum


def _add_separate(total: _Total, sampler: _Sampler, holdings: list[Holding], drawn: _Drawn) -> None:
    for holding in holdings:
        life, workloads = holding.life, list(holding.workloads)
        begin, end = arrival_ticks(life), departure_ticks(life)
        given, is_log = ~np.isnan(life.given), life.stored_as == LOG
        is_change = ((life.stored_as == INCREMENTAL) | (life.stored_as == DIFFERENTIAL)) & ~given
        is_full = ~(is_change | is_log | given)
        for group in drawn.groups([one.model_copy(update={"alike": None}) for one in workloads]):
            total.add(
                sampler.sums(begin[is_full], end[is_full], _full_columns(group, life.taken[is_full], drawn.frame)),
                group.fulls,
            )
            older, newer = life.taken[life.parent[is_change]], life.taken[is_change]
            amounts = _change_columns(group, older, newer, drawn.frame)
            total.add(sampler.sums(begin[is_change], end[is_change], amounts), group.changes)
        how_many = sum(one.count for one in workloads)
        if given.any():
            one = np.ones((1, drawn.count))
            total.add(sampler.sums(begin[given], end[given], how_many * life.given[given][:, None]), one)
        _add_logs(total, sampler, holding, workloads, drawn, is_log & ~given)


def _add_shared(total: _Total, sampler: _Sampler, holdings: list[Holding], drawn: _Drawn) -> None:
    common: dict[str, list[tuple[Row, Workload]]] = defaultdict(list)
    for places, workloads in holdings_of_workloads(holdings).items():
        row = row_of_points(holdings, places)
        pairs, oldest = row.neighbours, row.oldest
        for group in drawn.groups(workloads):
            fulls = _full_columns(group, row.taken[oldest.older], drawn.frame)
            total.add(sampler.sums(oldest.begin, oldest.end, fulls), group.fulls)
            changes = _change_columns(group, row.taken[pairs.older], row.taken[pairs.newer], drawn.frame)
            total.add(sampler.sums(pairs.begin, pairs.end, changes), group.changes)
        for at in places:
            _add_logs(total, sampler, holdings[at], workloads, drawn, holdings[at].life.stored_as == LOG)
        for workload in workloads:
            if workload.alike is not None:
                common[workload.alike.group].append((row, workload))
    for members in common.values():
        largest = _largest_in_common(members, sampler, drawn)
        summed = total.settled()
        summed += largest


def _largest_in_common(members: list[tuple[Row, Workload]], sampler: _Sampler, drawn: _Drawn) -> Singles:
    """What a group has in common is stored once: in each draw as the largest of its members' amounts."""
    largest = np.zeros((sampler.rows, drawn.count), np.float32)
    for row, workload in members:
        group, oldest = drawn.one(workload), row.oldest
        fulls = _full_columns(group, row.taken[oldest.older], drawn.frame)
        np.maximum(largest, _times(sampler.sums(oldest.begin, oldest.end, fulls), group.fulls), out=largest)
    return largest


def _add_logs(
    total: _Total, sampler: _Sampler, holding: Holding, workloads: list[Workload], drawn: _Drawn, which: Bytes
) -> None:
    scale = drawn.log_scale(workloads)
    if not which.any() or not scale.any():
        return
    life = holding.life
    amounts = log_bytes(life, Scale(0.0, 0.0, 1.0))[which]
    total.add(sampler.sums(arrival_ticks(life)[which], departure_ticks(life)[which], amounts[:, None]), scale[None, :])


def _add_snapshots(total: _Total, sampler: _Sampler, holdings: list[Holding], drawn: _Drawn) -> None:
    for holding in holdings:
        # Snapshots are blocks of the source itself and not reduced: all that counts is what is overwritten, and of a replica
        # the newest in full.
        life, plain = holding.life, [one.model_copy(update={"alike": None}) for one in holding.workloads]
        pairs, whole = life_spans(life)
        there, newest = newest_at(life, sampler.asked)
        since = sampler.asked[there] // PHASES - life.taken[newest]
        for group in drawn.groups(plain, reduced=False):
            sizes = _full_columns(group, life.taken, drawn.frame)
            if life.replica:
                total.add(sampler.sums(whole.begin, whole.end, sizes[whole.older]), group.fulls)
            if group.form.fresh:
                continue
            overwritten = (
                sizes[pairs.older][:, :, None] * _shares(group, life.taken[pairs.newer] - life.taken[pairs.older])[:, None]
            )
            total.add(
                sampler.sums(pairs.begin, pairs.end, overwritten.reshape(len(pairs.older), len(group.changes))),
                group.changes,
            )
            if life.replica:
                continue
            growing = sizes[newest][:, :, None] * _shares(group, since)[:, None]
            total.settled()[there] += _times(growing.reshape(len(newest), len(group.changes)), group.changes)
