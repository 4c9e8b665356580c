"""Holds: what stays from one date until another, whatever the ladder says (docs/model.md, Holds)."""

from typing import NamedTuple

import numpy as np

from shelf_core.calendar.zones import DAY, Seconds, day_number
from shelf_core.design.document import Hold
from shelf_core.engine.claims import LOGS, newest_point_before
from shelf_core.engine.frame import FAR, Frame
from shelf_core.engine.kinds import LOG, Kinds
from shelf_core.engine.lifecycle import HoldClaim
from shelf_core.engine.picks import Mask

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
        FAR if hold.released is None else frame.midnight(hold.released),
        frame.midnight(hold.taken_from),
        frame.zone.instant((day_number(hold.taken_to) + 1) * DAY),
    )


def held_by(hold: Standing, taken: Seconds, written: Seconds, there_until: Seconds) -> Mask:
    """The points that a hold claims: those there when it is placed, or written while it stands."""
    asked_for = (taken >= hold.taken_from) & (taken < hold.taken_to)
    there = (written <= hold.begins) & (there_until >= hold.begins)
    return asked_for & (there | ((written > hold.begins) & (written < hold.ends)))


def claims_of_hold(hold: Standing, held: Mask, taken: Seconds, kind: Kinds, *, logs_follow: bool) -> list[HoldClaim]:
    """What a hold claims. `logs_follow` says that logs are claimed as long as the newest point before them."""
    claims = [HoldClaim(HOLD, hold.begins, hold.ends, held)]
    if logs_follow and np.any(kind == LOG):
        order = np.argsort(taken, kind="stable")
        before = newest_point_before(kind[order] != LOG)
        follows = np.zeros(len(taken), bool)
        follows[order] = (kind[order] == LOG) & (before >= 0) & held[order][before]
        claims.append(HoldClaim(LOGS, hold.begins, hold.ends, follows))
    return claims
