"""Checks against published results and reference libraries; the source is named in each docstring."""

import json
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import numpy as np
import numpy_financial as npf
import pandas as pd
import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from shelf_core.calendar.periods import period_numbers
from shelf_core.calendar.zones import DAY, zone
from shelf_core.design.reading import read_design
from shelf_core.design.values import UNITS, bytes_of
from shelf_core.engine.schedule.frame import frame_of
from shelf_core.engine.volume.sizes import behaviour_of, changed_share, source_bytes
from shelf_core.forecast.forecast import forecast
from tests.designs import NEWEST_14, WEEKLY_FULL, design, run

ZONES = ["Europe/Oslo", "America/Halifax", "Australia/Lord_Howe", "Africa/Cairo", "America/Santiago", "Asia/Kolkata", "UTC"]


def test_units_against_pint() -> None:
    """SI Brochure (BIPM, 9th ed.) and IEC 80000-13, by the conversions of the `pint` library; 1 TiB = 1.099511627776 TB."""
    registry = pint.UnitRegistry()
    for name, factor in UNITS.items():
        assert registry.Quantity(1, name).to("byte").magnitude == pytest.approx(factor, rel=1e-15), name
    assert bytes_of("1 TiB") == bytes_of("1.099511627776 TB") == 1_099_511_627_776


@pytest.mark.parametrize("size", ["12TBB", "12 tb", "1.5 KB", "-", "1e3 TB", "12 TB ", "", "99999999 EB"])
def test_sizes_that_say_nothing_sure_are_refused(size: str) -> None:
    with pytest.raises(ValueError, match="expected a size"):
        bytes_of(size)


@given(
    name=st.sampled_from(ZONES),
    local=st.datetimes(datetime(2026, 1, 1), datetime(2045, 12, 31)),
)
def test_local_times_against_zoneinfo(name: str, local: datetime) -> None:
    """RFC 5545, section 3.3.5: a skipped time is read with the offset before the change, a double one is the first.

    That is what the standard library's zoneinfo does with fold=0.
    """
    local = local.replace(microsecond=0)
    ours = zone(name, 2025, 2046)
    seconds = int((local - datetime(1970, 1, 1)).total_seconds())
    expected = int(local.replace(tzinfo=ZoneInfo(name), fold=0).astimezone(UTC).timestamp())
    assert int(ours.instants(np.array([seconds]))[0]) == expected == ours.instant(seconds)
    back = datetime.fromtimestamp(expected, ZoneInfo(name)).replace(tzinfo=None)
    assert int(ours.local(np.array([expected]))[0]) == int((back - datetime(1970, 1, 1)).total_seconds())


@pytest.mark.parametrize("every", ["hour", "day", "month", "quarter", "year"])
def test_periods_against_pandas(every: str) -> None:
    """Reference library: pandas' calendar periods group a year and a half of odd hours as ours do."""
    local = np.arange(0, 18 * 30) * (24 * 3600 + 1234) + 1_798_000_000
    code = {"hour": "h", "day": "D", "month": "M", "quarter": "Q", "year": "Y"}[every]
    theirs = pd.Series(pd.to_datetime(local, unit="s")).dt.to_period(code).rank(method="dense").to_numpy()
    ours = pd.Series(period_numbers(local, every, "MO")).rank(method="dense").to_numpy()
    assert np.array_equal(ours, theirs)


@pytest.mark.parametrize("start", ["MO", "SU", "WE"])
def test_weeks_begin_on_the_day_that_is_set(start: str) -> None:
    """Calendar fact: the period changes exactly between the day before `start` and `start`."""
    local = np.arange(20_000, 20_100) * DAY
    weeks = period_numbers(local, "week", start)
    firsts = [datetime.fromtimestamp(int(second), UTC) for second in local[1:][np.diff(weeks) > 0]]
    assert {f"{first:%a}".upper()[:2] for first in firsts} == {start}
    assert {after - before for before, after in pairwise(firsts)} == {timedelta(days=7)}


@pytest.mark.parametrize("days", [365, 1825, 3650])
def test_growth_against_compound_interest(days: int) -> None:
    """Compound interest, `fv` of numpy-financial: a year in the model is 365 days."""
    document = read_design(json.dumps(design(WEEKLY_FULL, NEWEST_14, workload={"annual_growth_percent": 18})))
    frame = frame_of(document)
    size = source_bytes(behaviour_of(document.workloads[0], frame), np.array([frame.begin + days * DAY]), frame.begin)
    assert float(size[0]) * bytes_of("10 TB") == pytest.approx(float(npf.fv(0.18, days / 365, 0, -bytes_of("10 TB"))))


@pytest.mark.parametrize("hot", [1.0, 0.3])
def test_share_of_changed_blocks_against_a_simulation(hot: float) -> None:
    """W. Feller, An Introduction to Probability Theory, vol. 1 (occupancy): random block writes against the formula.

    Each day every block of the hot part is written with the same probability; seeded, 200,000 blocks.
    """
    daily, blocks, random = 0.02, 200_000, np.random.default_rng(20270101)
    written = np.zeros(blocks, bool)
    document = read_design(json.dumps(design(WEEKLY_FULL, NEWEST_14, workload={"hot_percent": 100 * hot})))
    behaviour = behaviour_of(document.workloads[0], frame_of(document))
    for day in range(1, 31):
        written |= (np.arange(blocks) < hot * blocks) & (random.random(blocks) < daily / hot)
        expected = float(changed_share(behaviour, np.array([day * DAY]))[0])
        assert written.mean() == pytest.approx(expected, abs=5 * np.sqrt(expected / blocks))


@pytest.mark.parametrize("keep", [{"points": 14}, "P20D"])
def test_littles_law(keep: object) -> None:
    """J. D. C. Little, Operations Research 9(3), 1961: L = lambda W over a long steady stretch.

    Mean points there = points written per day x mean days each stays, with the means over the same points.
    """
    found = forecast(read_design(json.dumps(design(WEEKLY_FULL, {"recent": [{"keep": keep}]}, years=9))))
    life, totals = found.holdings[0].life, found.targets[0].totals
    begin, end = found.frame.midnights[[365, 365 * 8]]
    born = (life.written >= begin) & (life.written < end)
    per_day = np.count_nonzero(born) / ((end - begin) / DAY)
    stay_days = (life.removed[born] - life.written[born]).mean() / DAY
    # Points are counted just before midnight, two hours after the run at 22:00; removals come at 22:00 or at midnight.
    mean_points = totals.points[365 : 365 * 8].mean()
    assert mean_points == pytest.approx(per_day * stay_days, rel=0.02)


def test_full_differential_and_incremental_hold_what_they_are_said_to() -> None:
    """NIST SP 800-34 Rev. 1, backup methods (from memory).

    A full holds everything; a differential all changes since the full, so its parent is the full; an incremental the
    changes since the last point of any kind.
    """
    runs = [
        run("full", "FREQ=WEEKLY;BYDAY=FR"),
        run("differential", "FREQ=WEEKLY;BYDAY=SU,TU"),
        run("incremental", "FREQ=DAILY"),
    ]
    life = forecast(read_design(json.dumps(design(runs, {"recent": [{"keep": "P30D"}]})))).holdings[0].life
    week = life.parent[:7].tolist()
    # Friday full, Saturday incremental, Sunday differential, Monday incremental, Tuesday differential, then incrementals.
    assert week == [-1, 0, 0, 2, 0, 4, 5]
