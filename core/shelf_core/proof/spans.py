"""Stretches of time in which something is so of many things at once, and how they are put together."""

from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes, Counts, Mask, Places

NONE = -1


@dataclass(frozen=True, eq=False)
class Spans:
    """Stretches, each by the place of what it is of, in the order of places and then of time; none touch.

    It is so of a place at an instant t if one of its stretches has `begin` < t <= `end`. Instants, ±inf for ever.
    """

    place: Places
    begin: Bytes
    end: Bytes

    def __len__(self) -> int:
        return len(self.place)

    def only(self, those: Mask) -> "Spans":
        """Some of the stretches, by a mask of them."""
        return Spans(self.place[those], self.begin[those], self.end[those])

    def of(self, places: Mask) -> "Spans":
        """The stretches of some places, by a mask of all places."""
        return self.only(places[self.place])

    def within(self, begin: Bytes, end: Bytes) -> "Spans":
        """The same as far as they lie within one stretch of each place.

        >>> one = each(np.array([0.0, 5.0]), np.array([9.0, 9.0])).within(np.array([3.0, 9.0]), np.array([12.0, 12.0]))
        >>> one.place.tolist(), one.begin.tolist(), one.end.tolist()
        ([0], [3.0], [9.0])
        """
        begins, ends = np.maximum(self.begin, begin[self.place]), np.minimum(self.end, end[self.place])
        some = begins < ends
        return Spans(self.place[some], begins[some], ends[some])

    def both(self, other: "Spans", at: Places | None = None) -> "Spans":
        """Where both are so, place by place; of `other` what is so of the place `at` each, nothing for NONE."""
        wanted = self.place if at is None else at[self.place]
        first = np.searchsorted(other.place, wanted, side="left")
        counts = np.searchsorted(other.place, wanted, side="right") - first
        counts[wanted == NONE] = 0
        mine, theirs = _pairs(first, counts)
        begins, ends = np.maximum(self.begin[mine], other.begin[theirs]), np.minimum(self.end[mine], other.end[theirs])
        some = begins < ends
        return Spans(self.place[mine][some], begins[some], ends[some])

    def moved(self, to: Places) -> "Spans":
        """What is so of each place said of the place `to`; what goes to NONE is left out."""
        place = to[self.place]
        some = place != NONE
        return joined(place[some], self.begin[some], self.end[some])


def each(begin: Bytes, end: Bytes) -> Spans:
    """One stretch of each place; none where it is empty."""
    place = np.flatnonzero(begin < end)
    return Spans(place, begin[place].astype(float), end[place].astype(float))


def either(*several: Spans) -> Spans:
    """Where one of some is so.

    >>> found = either(each(np.array([0.0]), np.array([3.0])), each(np.array([3.0]), np.array([5.0])))
    >>> found.begin.tolist(), found.end.tolist()
    ([0.0], [5.0])
    """
    some = [one for one in several if len(one)]
    if len(some) == 1:
        return some[0]
    columns = (np.concatenate([getattr(one, name) for one in several]) for name in ("place", "begin", "end"))
    return joined(*columns)


def joined(place: Places, begin: Bytes, end: Bytes) -> Spans:
    """Any stretches in order, with those that meet or overlap made one."""
    if not len(place):
        return Spans(place.astype(np.int64), begin.astype(float), end.astype(float))
    order = np.lexsort((begin, place))
    place, begin, end = place[order], begin[order], end[order]
    # The latest end so far of the same place: places and ends ranked into one number that only grows.
    instants, rank = np.unique(end, return_inverse=True)
    numbers = np.cumsum(np.r_[0, np.diff(place) != 0]) * len(instants)
    latest = instants[np.maximum.accumulate(numbers + rank) - numbers]
    fresh = np.r_[True, (np.diff(place) != 0) | (begin[1:] > latest[:-1])]
    last = np.r_[np.flatnonzero(fresh)[1:] - 1, len(place) - 1]
    return Spans(place[fresh], begin[fresh], latest[last])


def held_up_by(spans: Spans, on: Places) -> Spans:
    """Where it is so of each place and of all that it stands on, link by link: `on` names one place for each, or NONE.

    >>> found = held_up_by(each(np.array([0.0, 1.0, 2.0]), np.array([9.0, 8.0, 7.0])), np.array([-1, 0, 1]))
    >>> found.begin.tolist(), found.end.tolist()
    ([0.0, 1.0, 2.0], [9.0, 8.0, 7.0])
    """
    found = spans
    while (on != NONE).any():
        builds = on[found.place] != NONE
        if not builds.any():
            break
        held = found.only(builds).both(found, on)
        found = _in_order(found.only(~builds), held)
        on = _two_steps(on)
    return found


def handed_down(spans: Spans, on: Places) -> Spans:
    """Where it is so of a place or of anything that stands on it, link by link."""
    found = spans
    while (on != NONE).any():
        further = found.moved(on)
        if not len(further):
            break
        found = either(found, further)
        on = _two_steps(on)
    return found


def carried_on(own: Spans, begun: Spans, before: Places) -> Spans:
    """Where each place is reached: where it begins, or where it is so of itself and the one before is reached.

    Places and the one before each are a linear recurrence of sets of instants: two steps in one are a step of the same
    form (Blelloch, Prefix Sums and Their Applications, 1990, section 1.4).
    """
    found, passes = begun, own
    while (before != NONE).any():
        found = either(found, passes.both(found, before))
        passes = passes.both(passes, before)
        if not len(passes):
            break
        before = _two_steps(before)
    return found


def _two_steps(on: Places) -> Places:
    return np.where(on == NONE, NONE, on[np.maximum(on, 0)])


def _in_order(first: Spans, second: Spans) -> Spans:
    columns = [np.concatenate([getattr(first, name), getattr(second, name)]) for name in ("place", "begin", "end")]
    order = np.lexsort((columns[1], columns[0]))
    return Spans(columns[0][order], columns[1][order], columns[2][order])


def _pairs(first: Places, counts: Counts) -> tuple[Places, Places]:
    """Each place with all of the rows from its first on."""
    mine = np.repeat(np.arange(len(first)), counts)
    start = np.repeat(np.cumsum(counts) - counts, counts)
    return mine, np.arange(len(mine)) - start + np.repeat(first, counts)
