"""Holds: what stays from one date until another, whatever the ladder says (docs/model.md, Holds)."""

from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants, Mask, Places
from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.document import Hold
from shelf_core.engine.retention.claims import LOGS
from shelf_core.engine.retention.lifecycle import HoldClaim
from shelf_core.engine.schedule.frame import AFTER_ALL, Frame

HOLD = "hold"


class Standing(NamedTuple):
    """A hold as instants: it stands from `begins` to before `ends`, for points taken from `taken_from` to before `taken_to`."""

    begins: int
    ends: int
    taken_from: int
    taken_to: int


def standing(hold: Hold, frame: Frame) -> Standing:
    """A hold of the document; the dates between which points were taken are inclusive."""
    return Standing(
        frame.midnight(hold.placed),
        AFTER_ALL if hold.released is None else frame.midnight(hold.released),
        frame.midnight(hold.taken_from),
        frame.zone.instant((day_number(hold.taken_to) + 1) * DAY),
    )


class Met(NamedTuple):
    """A hold with the points that it meets: those there when it is placed, or written while it stands."""

    hold: Standing
    points: Mask


def met_by(hold: Standing, written: Instants, there_until: Instants) -> Met:
    """What a hold meets, whenever it was taken."""
    there = (written <= hold.begins) & (there_until >= hold.begins)
    return Met(hold, there | ((written > hold.begins) & (written < hold.ends)))


def claims_of_hold(met: Met, taken: Instants, before_log: Places | None) -> list[HoldClaim]:
    """What a hold claims: what it meets of the time that it asks for, and the logs that go with their points.

    `before_log` is as in Candidates. A log that had gone when the hold was placed does not come back with its point.
    """
    hold, points = met
    held = points & (taken >= hold.taken_from) & (taken < hold.taken_to)
    claims = [HoldClaim(HOLD, hold.begins, hold.ends, held)]
    if before_log is not None:
        follows = points & np.r_[held, False][before_log]
        claims.append(HoldClaim(LOGS, hold.begins, hold.ends, follows))
    return claims
