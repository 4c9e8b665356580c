"""Early deletion: what goes before its minimum stay is billed for the rest of it (docs/model.md, Cost)."""

import numpy as np

from shelf_core.arrays import Bytes, Instants
from shelf_core.calendar.arithmetic import add_to_local
from shelf_core.cost.months import Months
from shelf_core.design.targets import Target
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.engine.volume.ledger import SWEEP, WRITE, Ledger, ticks
from shelf_core.engine.volume.ledgers import ledger_of
from shelf_core.engine.volume.pieces import separate_pieces


def minimum_ends(written: Instants, minimum_days: int, frame: Frame) -> Instants:
    """The instants until which points that came at `written` are billed: so many local calendar days later."""
    return frame.zone.instants(add_to_local(frame.zone.local(written), 0, minimum_days))


def early_byte_months(target: Target, holdings: list[Holding], months: Months, frame: Frame) -> Bytes:
    """The bytes that are billed after they have gone, times the months that were left of their stay, by month of going.

    On `separate` packing these are a point's own bytes. On `shared` packing no block belongs to a point alone: what the sum
    falls by at a sweep is billed, for the mean of what was left to the points that went in it.
    """
    found = np.zeros(len(months.names))
    if not target.minimum_days:
        return found
    rest = [_rest(holding, target, months, frame) for holding in holdings]
    if target.packing == "shared":
        return found + _of_shared(target, holdings, rest, months, frame)
    for pieces in separate_pieces(holdings, frame):
        for at in np.unique(pieces.holding).tolist():
            _add(found, holdings[at].life.removed, pieces.stored_bytes * rest[at], months)
    return found


def _rest(holding: Holding, target: Target, months: Months, frame: Frame) -> Bytes:
    """The months that were left to each point when it went; 0 for what stayed long enough, or goes after the design."""
    life = holding.life
    gone = np.minimum(life.removed, frame.end)
    until = minimum_ends(life.written, target.minimum_days, frame)
    left = months.since_start(until) - months.since_start(gone)
    return np.where((life.removed < frame.end) & (until > gone), left, 0.0)


def _of_shared(target: Target, holdings: list[Holding], rest: list[Bytes], months: Months, frame: Frame) -> Bytes:
    removed = np.concatenate([np.zeros(0, np.int64), *(one.life.removed[one.life.stored_as != LOG] for one in holdings)])
    left = np.concatenate([np.zeros(0), *(part[one.life.stored_as != LOG] for one, part in zip(holdings, rest, strict=True))])
    here = (removed >= frame.begin) & (removed < frame.end)
    instants, which = np.unique(removed[here], return_inverse=True)
    mean = np.bincount(which, left[here], len(instants)) / np.bincount(which, minlength=len(instants)).clip(1)
    found = np.zeros(len(months.names))
    _add(found, instants, _falls(ledger_of(target, holdings, frame), instants, frame) * mean, months)
    return found


def _falls(stored: Ledger, instants: Instants, frame: Frame) -> Bytes:
    """What the sum falls by at the sweep of each instant."""
    asked = np.c_[ticks(instants, SWEEP), ticks(instants + 1, WRITE)].ravel()
    before, after = stored.sums_at(asked, frame).reshape(-1, 2).T
    return np.maximum(before - after, 0.0)


def _add(found: Bytes, instants: Instants, amounts: Bytes, months: Months) -> None:
    counted = amounts > 0
    np.add.at(found, months.of(instants[counted]), amounts[counted])
