"""Members: the parts of an index or catalogue, and which of them each point holds."""

from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants, Mask, Places
from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.workloads import Member
from shelf_core.engine.schedule.frame import AFTER_ALL, Frame


class Parts(NamedTuple):
    """What points hold of an index.

    `held` has a row per part and a column per point; `let_go` is the instant from which a part that was closed no longer
    counts, AFTER_ALL where it stays for good.
    """

    held: Mask
    let_go: Instants

    def reordered(self, order: Places) -> "Parts":
        """The same with the points in another order."""
        return Parts(self.held[:, order], self.let_go)


def parts_of(members: tuple[Member, ...], taken: Instants, frame: Frame) -> Parts | None:
    """Which parts each point holds; None for a workload without parts.

    A part that is offline is in no point, the two dates included; one that is closed is in none from that date on.
    """
    if not members:
        return None
    days = frame.zone.local(taken) // DAY
    held = np.ones((len(members), len(taken)), bool)
    for place, member in enumerate(members):
        for begins, ends in member.offline:
            held[place] &= (days < day_number(begins)) | (days > day_number(ends))
        if member.closed_from is not None:
            held[place] &= days < day_number(member.closed_from)
    return Parts(held, np.array([_let_go(member, frame) for member in members], np.int64))


def _let_go(member: Member, frame: Frame) -> int:
    if member.closed_from is None or member.keep_closed is True:
        return AFTER_ALL
    if not member.keep_closed:
        return frame.midnight(member.closed_from)
    return frame.midnight(max(member.keep_closed, member.closed_from))
