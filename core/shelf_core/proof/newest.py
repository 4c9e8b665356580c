"""The newest moment that counted points reach, through time."""

import numpy as np

from shelf_core.arrays import Bytes, Instants, Places, begins_anew
from shelf_core.proof.counting import Moments
from shelf_core.proof.on_days import largest


def newest_through_time(moments: Moments, spare: int = 0) -> tuple[Bytes, Bytes]:
    """From which instants on (just after each) which moment is the newest, -inf for none; the first from ever.

    With `spare` 1 the newest one that was taken before that. Just before an instant u it is that of the last step before u.
    """
    ends = moments.end[np.isfinite(moments.end)]
    instants = np.unique(np.r_[-np.inf, moments.begin, ends])
    first, last = np.searchsorted(instants, moments.begin), np.searchsorted(instants, moments.end)
    newest = largest(first, last, moments.taken.astype(float), len(instants))
    if spare:
        newest = _the_one_before(moments.taken, first, last, newest)
    changes = begins_anew(newest)
    return instants[changes], newest[changes]


def _the_one_before(taken: Instants, first: Places, last: Places, newest: Bytes) -> Bytes:
    """At each instant the newest moment but for the newest: each moment counts but for where it is the newest itself."""
    edges = np.flatnonzero(np.r_[True, newest[1:] != newest[:-1], True])
    order = np.argsort(newest[edges[:-1]], kind="stable")
    stands, opens, closes = newest[edges[:-1]][order], edges[:-1][order], edges[1:][order]
    at = np.searchsorted(stands, taken, side="left")
    how_often = np.searchsorted(stands, taken, side="right") - at
    # What is left of a stretch between the times at which its moment is the newest: one more than there are of these.
    mine = np.repeat(np.arange(len(taken)), how_often + 1)
    number = np.arange(len(mine)) - np.repeat(np.cumsum(how_often + 1) - how_often - 1, how_often + 1)
    run = at[mine] + number
    count = len(newest)
    begins = np.where(number == 0, first[mine], np.r_[closes, count][np.maximum(run - 1, 0)])
    ends = np.where(number == how_often[mine], last[mine], np.r_[opens, count][np.minimum(run, len(opens))])
    return largest(np.maximum(begins, first[mine]), np.minimum(ends, last[mine]), taken[mine].astype(float), count)
