"""Pieces of the engine against slow and plain ways of doing the same, over random inputs."""

from datetime import datetime, timedelta
from itertools import pairwise

import numpy as np
import pytest
from dateutil.relativedelta import relativedelta
from hypothesis import given
from hypothesis import strategies as st

from shelf_core.calendar.arithmetic import add_to_instants, add_to_local
from shelf_core.calendar.periods import on_or_after
from shelf_core.calendar.zones import DAY, zone
from shelf_core.design.values import duration_of
from shelf_core.engine.retention.parents import NONE, OWN, Declared, assign_parents, if_all_stay
from shelf_core.engine.retention.removals import first_sweep_from, with_what_needs_it
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import DIFFERENTIAL, FULL, INCREMENTAL, LOG
from shelf_core.engine.volume.counts import Counter
from shelf_core.engine.volume.ledger import STEP_DOWN, SWEEP, WRITE, Ledger, ticks
from shelf_core.engine.volume.shared import neighbour_spans, oldest_spans, spans_in_any_order
from tests.core.reference import calendar

EPOCH = datetime(1970, 1, 1)
ZONES = ["Europe/Oslo", "America/Halifax", "Australia/Lord_Howe", "Africa/Cairo"]
MOMENTS = st.datetimes(datetime(2026, 1, 1), datetime(2040, 12, 31)).map(lambda moment: moment.replace(microsecond=0))


def seconds(moment: datetime) -> int:
    return int((moment - EPOCH).total_seconds())


@given(moment=MOMENTS, months=st.integers(0, 400), days=st.integers(0, 900))
def test_months_and_days_against_dateutil(moment: datetime, months: int, days: int) -> None:
    """Reference library: python-dateutil's relativedelta clips to the last day of a month as the rules do."""
    expected = moment + relativedelta(months=months) + timedelta(days=days)
    assert int(add_to_local(np.array([seconds(moment)]), months, days)[0]) == seconds(expected)


@given(
    name=st.sampled_from(ZONES),
    moment=MOMENTS,
    text=st.sampled_from(["P1D", "P14D", "P5W", "P1M", "P12M", "P7Y", "PT6H", "P1DT12H", "P1Y6M", "PT45M", "PT90S"]),
)
def test_durations_against_the_reference(name: str, moment: datetime, text: str) -> None:
    instant = calendar.instant(moment, name)
    ours = add_to_instants(np.array([instant]), duration_of(text), zone(name, 2025, 2049))
    assert int(ours[0]) == calendar.plus(instant, text, name)


@given(
    moment=MOMENTS,
    rule=st.sampled_from(
        [("week", "SU"), ("week", "WE"), ("month", 1), ("month", 31), ("month", "1SU"), ("month", "-1FR"), ("month", "5MO"),
         ("month", "-5TU"), ("year", "02-29"), ("year", "11-30")]
    ),
    week_starts=st.sampled_from(["MO", "SU", "TH"]),
)  # fmt: skip
def test_days_of_periods_against_the_reference(moment: datetime, rule: tuple[str, str | int], week_starts: str) -> None:
    every, on = rule
    ours = on_or_after(np.array([seconds(moment)]), every, on, week_starts)
    assert bool(ours[0]) == calendar.reaches(moment, every, on, week_starts)


@st.composite
def trees(draw: st.DrawFn) -> list[int]:
    """Parents of points in order: each an earlier place or none."""
    return [draw(st.integers(-1, place - 1)) for place in range(draw(st.integers(1, 30)))]


@given(parents=trees(), data=st.data())
def test_what_is_needed_stays_as_long(parents: list[int], data: st.DataObject) -> None:
    release = data.draw(st.lists(st.integers(0, 99), min_size=len(parents), max_size=len(parents)))
    counts = data.draw(st.lists(st.booleans(), min_size=len(parents), max_size=len(parents)))
    expected = list(release)
    for place in reversed(range(len(parents))):
        if parents[place] >= 0 and counts[place]:
            expected[parents[place]] = max(expected[parents[place]], expected[place])
    ours = with_what_needs_it(np.array(release), np.array(parents), np.array(counts))
    assert ours.tolist() == expected


@given(sweeps=st.lists(st.integers(0, 50), unique=True), ends=st.lists(st.integers(-1, 60), min_size=1))
def test_first_sweep_is_at_or_after_the_end(sweeps: list[int], ends: list[int]) -> None:
    ours = first_sweep_from(np.array(sorted(sweeps), np.int64), np.array(ends))
    for end, found in zip(ends, ours.tolist(), strict=True):
        later = [sweep for sweep in sweeps if sweep >= end]
        assert found == min(later) if later else found > 10**12


@given(kinds=st.lists(st.sampled_from([FULL, DIFFERENTIAL, INCREMENTAL, LOG]), min_size=1, max_size=25), data=st.data())
def test_parents_are_the_newest_that_are_there(kinds: list[int], data: st.DataObject) -> None:
    """Against going through all earlier points for each; on shared packing nothing but logs keeps its parent there."""
    declared = np.array(kinds, np.int8)
    written = np.arange(len(kinds)) * 10
    stay = np.array(data.draw(st.lists(st.integers(0, 60), min_size=len(kinds), max_size=len(kinds))))
    release = written + stay
    points = Declared(declared, written, written, np.full(len(kinds), OWN))
    guess = if_all_stay(declared, points.follows)
    found, parents = assign_parents(points, guess, guess, release, shared=True)
    there = release.tolist()
    mine = list(kinds)
    for place, kind in enumerate(kinds):
        wanted = {
            DIFFERENTIAL: (FULL,),
            INCREMENTAL: (FULL, DIFFERENTIAL, INCREMENTAL),
            LOG: (FULL, DIFFERENTIAL, INCREMENTAL, LOG),
        }
        candidates = [other for other in range(place) if mine[other] in wanted.get(kind, ()) and there[other] >= written[place]]
        parent = max(candidates, default=NONE)
        assert parents[place] == parent
        if parent == NONE and kind == LOG:
            there[place] = -1
        elif parent == NONE:
            mine[place] = FULL
        elif kind == LOG:
            link = parent
            while link != NONE:
                there[link] = max(there[link], there[place])
                link = int(parents[link]) if mine[link] == LOG else NONE
    taken = [place for place in range(len(kinds)) if there[place] >= 0]
    assert [int(found[place]) for place in taken] == [mine[place] for place in taken]


@st.composite
def lives(draw: st.DrawFn) -> tuple[list[int], list[int]]:
    count = draw(st.integers(1, 14))
    written = draw(st.lists(st.integers(0, 40), min_size=count, max_size=count))
    stay = draw(st.lists(st.integers(0, 30), min_size=count, max_size=count))
    return [4 * at for at in written], [4 * (at + days) + 2 for at, days in zip(written, stay, strict=True)]


@given(lives=lives())
def test_neighbours_against_looking_at_every_tick(lives: tuple[list[int], list[int]]) -> None:
    written, removed = lives
    pairs, oldest, _ = spans_in_any_order(np.array(written), np.array(removed))
    for tick in range(4 * 75):
        there = [place for place in range(len(written)) if written[place] <= tick < removed[place]]
        expected = set(pairwise(there))
        assert {
            (a, b) for a, b, begin, end in zip(*map(np.ndarray.tolist, pairs), strict=True) if begin <= tick < end
        } == expected
        assert [a for a, _, begin, end in zip(*map(np.ndarray.tolist, oldest), strict=True) if begin <= tick < end] == there[:1]


@given(lives=lives())
def test_quick_neighbours_are_those_of_the_slow_way(lives: tuple[list[int], list[int]]) -> None:
    written, removed = (np.array(sorted(one)) for one in lives)
    pairs, oldest, _ = spans_in_any_order(written, removed)
    for quick, slow in ((neighbour_spans(written, removed), pairs), (oldest_spans(written, removed), oldest)):
        assert sorted(zip(*map(np.ndarray.tolist, quick), strict=True)) == sorted(
            zip(*map(np.ndarray.tolist, slow), strict=True)
        )


def small_frame(days: int) -> Frame:
    return Frame(zone("UTC", 2026, 2028), 0, np.arange(days + 1) * DAY, "MO", 2026, 2028)


@given(
    entries=st.lists(
        st.tuples(st.integers(0, 4 * DAY - 1), st.sampled_from([WRITE, STEP_DOWN, SWEEP]), st.integers(1, 9)), max_size=25
    )
)
def test_ledger_against_adding_up_entry_by_entry(entries: list[tuple[int, int, int]]) -> None:
    """Writes add, sweeps take away; the peak is looked at between the two of each instant."""
    frame = small_frame(4)
    ledger, counter = Ledger(), Counter(frame)
    signed = [(instant, phase, amount if phase < SWEEP else -amount) for instant, phase, amount in entries]
    for instant, phase, amount in signed:
        ledger.add(ticks(np.array([instant]), phase), np.array([float(amount)]))
    found = ledger.days(frame)
    for day in range(4):
        begin, end = day * DAY, (day + 1) * DAY
        before = sum(amount for instant, _, amount in signed if instant < begin)
        looks = {instant for instant, phase, _ in signed if phase < SWEEP and begin <= instant < end}
        seen = [sum(amount for at, phase, amount in signed if at < look or (at == look and phase < SWEEP)) for look in looks]
        assert found.peak[day] == pytest.approx(max([before, *seen]))
        assert found.at_end[day] == pytest.approx(sum(amount for instant, _, amount in signed if instant < end))
    written = np.array([instant for instant, phase, _ in entries if phase == WRITE], np.int64)
    counter.add(counter.days_of(written, written + DAY), 3)
    for day in range(4):
        there = [at for at in written.tolist() if at < (day + 1) * DAY <= at + DAY]
        assert counter.at_end()[day] == 3 * len(there)
