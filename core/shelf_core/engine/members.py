"""Members: the parts of an index or catalogue, and the keep that ends when each has been taken again."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.zones import DAY, Seconds, day_number
from shelf_core.design.workloads import Member
from shelf_core.engine.frame import FAR, NEVER, Frame
from shelf_core.engine.picks import Mask, nth_later


class Parts(NamedTuple):
    """What points hold of an index.

    `held` has a row per part and a column per point; `let_go` is the instant from which a part that was closed no longer
    counts, FAR where it stays for good.
    """

    held: NDArray[np.bool_]
    let_go: Seconds

    def reordered(self, order: Seconds) -> "Parts":
        """The same with the points in another order."""
        return Parts(self.held[:, order], self.let_go)


def parts_of(members: tuple[Member, ...], taken: Seconds, frame: Frame) -> Parts | None:
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


def superseded_ends(written: Seconds, counted: Mask, parts: Parts | None, how_many: int) -> Seconds:
    """Until each part that a point holds has so many newer points that hold it too.

    A workload without parts is one part itself.
    """
    if parts is None:
        parts = Parts(np.ones((1, len(written)), bool), np.array([FAR]))
    ends = np.full(len(written), NEVER, np.int64)
    for held, let_go in zip(parts.held, parts.let_go.tolist(), strict=True):
        chosen = held & counted
        ends[chosen] = np.maximum(ends[chosen], np.minimum(nth_later(written[chosen], how_many), let_go))
    return ends


def _let_go(member: Member, frame: Frame) -> int:
    if member.closed_from is None or member.keep_closed is True:
        return FAR
    if not member.keep_closed:
        return frame.midnight(member.closed_from)
    return frame.midnight(max(member.keep_closed, member.closed_from))
