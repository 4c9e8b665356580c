"""Stretches of time against the plainest reading of them: a table of places by seconds."""

from collections.abc import Callable

import numpy as np
import pytest
from numpy.typing import NDArray

from shelf_core.proof.on_days import how_many, largest
from shelf_core.proof.spans import Spans, carried_on, either, handed_down, held_up_by, joined

SECONDS = 20
Table = NDArray[np.bool_]


def drawn(draw: np.random.Generator, places: int) -> Spans:
    count = int(draw.integers(0, 12))
    begin = draw.integers(0, SECONDS - 6, count).astype(float)
    return joined(draw.integers(0, places, count), begin, begin + draw.integers(1, 5, count))


def table(spans: Spans, places: int) -> Table:
    found = np.zeros((places, SECONDS), bool)
    for place, begin, end in zip(spans.place.tolist(), spans.begin.tolist(), spans.end.tolist(), strict=True):
        found[place, int(begin) + 1 : int(end) + 1] = True
    return found


def slow_held(one: Table, on: list[int]) -> Table:
    found = one.copy()
    for place, below in enumerate(on):
        found[place] &= found[below] if below >= 0 else True
    return found


def slow_handed(one: Table, on: list[int]) -> Table:
    found = one.copy()
    for place in reversed(range(len(on))):
        if on[place] >= 0:
            found[on[place]] |= found[place]
    return found


def slow_carried(own: Table, begun: Table, before: list[int]) -> Table:
    found = np.zeros_like(own)
    for place, one in enumerate(before):
        found[place] = begun[place] | (own[place] & (found[one] if one >= 0 else False))
    return found


@pytest.mark.parametrize("number", range(100))
def test_they_are_what_a_table_of_seconds_says(number: int) -> None:
    draw = np.random.default_rng(number)
    places = int(draw.integers(1, 9))
    one, other = drawn(draw, places), drawn(draw, places)
    on = [int(draw.integers(-1, place)) if place else -1 for place in range(places)]
    mine, theirs = table(one, places), table(other, places)
    found: list[tuple[Spans, Table]] = [
        (either(one, other), mine | theirs),
        (one.both(other), mine & theirs),
        (held_up_by(one, np.array(on)), slow_held(mine, on)),
        (handed_down(one, np.array(on)), slow_handed(mine, on)),
        (carried_on(one, one.both(other), np.array(on)), slow_carried(mine, mine & theirs, on)),
    ]
    for spans, expected in found:
        assert (table(spans, places) == expected).all()
        assert (np.diff(spans.place) >= 0).all()
        # None of a place touch: each begins after the one before it has ended.
        same = np.diff(spans.place) == 0
        assert (spans.begin[1:][same] > spans.end[:-1][same]).all()


def test_a_chain_with_a_gap_reaches_no_further_than_the_gap() -> None:
    """Four logs, the second of which is missing: only the first leads back to the point."""
    own = joined(np.array([0, 2, 3]), np.zeros(3), np.full(3, 9.0))
    begun = own.only(np.array([True, False, False]))
    assert carried_on(own, begun, np.array([-1, 0, 1, 2])).place.tolist() == [0]


@pytest.mark.parametrize("reading", [largest, how_many])
def test_of_many_at_once(reading: Callable[..., NDArray[np.float64]]) -> None:
    for number in range(100):
        draw = np.random.default_rng(number)
        count = int(draw.integers(0, 30))
        first = draw.integers(0, SECONDS, count)
        last = np.minimum(first + draw.integers(0, 9, count), SECONDS)
        values = draw.normal(size=count)
        there = [[values[one] for one in range(count) if first[one] <= at < last[one]] for at in range(SECONDS)]
        if reading is largest:
            assert largest(first, last, values, SECONDS).tolist() == [max(found, default=-np.inf) for found in there]
        else:
            assert how_many(first, last, SECONDS).tolist() == [len(found) for found in there]
