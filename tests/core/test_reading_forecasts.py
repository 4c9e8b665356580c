"""What is asked of a forecast: words, bars, series, shelves, months, and memory that only forgets what changed."""

import json
from typing import Any

import numpy as np
import pytest

from shelf_core.design.ladders import Ladder
from shelf_core.design.patterns import Pattern, pattern_of, rule_sentence, rule_text
from shelf_core.design.reading import part_of, read_design
from shelf_core.engine.memory import Memory
from shelf_core.engine.schedule.runs import runs_of
from shelf_core.forecast.consequences import consequences
from shelf_core.forecast.forecast import forecast
from shelf_core.forecast.months import month_sheet
from shelf_core.forecast.series import series
from shelf_core.forecast.spines import spines_on
from shelf_core.forecast.wording import bars, sentence
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design

DEMO_RESULT = forecast(read_design(DEMO.read_bytes()))


@pytest.mark.parametrize(
    ("ladder", "words"),
    [
        (NEWEST_14, "Keeps the newest 14 points. The newest point stays in any case."),
        (
            {
                "recent": [{"keep": "P3W"}],
                "rungs": [
                    {"name": "w", "every": "week", "on": "SA", "keep": {"periods": 6}},
                    {"name": "m", "every": "month", "pick": "last", "keep": "P1Y6M"},
                    {"name": "y", "every": "year", "on": "03-31", "from": "w", "keep": "forever"},
                ],
                "floor": 0,
            },
            "Keeps every point for 3 weeks, then the first point of each week from Saturday on for 6 weeks, then the last point of each month for 1 year and 6 months, then the first point that w picked of each year from 31 March on for good. Nothing stays once no rule wants it, not even the newest point.",
        ),
        (
            {"recent": [{"keep": {"points": 3}, "kinds": ["full"], "runs": ["sat"]}], "floor": 2, "logs": "PT36H"},
            "Keeps the newest 3 full points of sat. The newest 2 points stay in any case. Logs stay 36 hours.",
        ),
        ({"floor": 1}, "Keeps nothing by a rule of its own. The newest point stays in any case."),
    ],
)
def test_ladder_in_words(ladder: dict[str, Any], words: str) -> None:
    assert sentence(part_of(Ladder, {"id": "x", **ladder})) == words


@pytest.mark.parametrize(
    ("keep", "count", "unit"),
    [
        ("P21D", 21, "day"),
        ("P3W", 3, "week"),
        ("P12M", 12, "month"),
        ("P7Y", 7, "year"),
        ("PT36H", 36, "hour"),
        ("P1Y6M", None, None),
    ],
)
def test_bars_count_in_the_unit_that_is_written(keep: str, count: int | None, unit: str | None) -> None:
    (bar,) = bars(part_of(Ladder, {"id": "x", "recent": [{"keep": keep}]}))
    assert (bar.count, bar.unit) == (count, unit)


def test_ladder_as_bars() -> None:
    found = bars(
        part_of(
            Ladder,
            {"id": "x", "recent": [{"keep": "P3W"}], "rungs": [{"name": "m", "every": "month", "keep": {"periods": 12}}]},
        )
    )
    assert [(bar.keep, bar.count, bar.unit) for bar in found] == [("time", 3, "week"), ("periods", 12, "month")]
    assert [bar.reach_days for bar in found] == [pytest.approx(21), pytest.approx(365.2425)]


@pytest.mark.parametrize(
    ("rule", "words"),
    [
        ("FREQ=DAILY", "every day"),
        ("FREQ=HOURLY;INTERVAL=4", "every 4 hours"),
        ("FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SU", "every other week on Tuesday and Sunday"),
        ("FREQ=MONTHLY;BYDAY=-1FR", "on the last Friday of every month"),
        ("FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=-1", "on the last day of every 3 months"),
        ("FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=31", "on the 31. of March, every year"),
    ],
)
def test_pattern_there_and_back(rule: str, words: str) -> None:
    found = pattern_of(rule)
    assert found is not None
    assert (rule_text(found), rule_sentence(rule)) == (rule, words)


@pytest.mark.parametrize("rule", ["FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1", "FREQ=DAILY;COUNT=3", "FREQ=WEEKLY;BYDAY=SA;WKST=SU"])
def test_rule_that_no_pattern_says_stays_a_rule(rule: str) -> None:
    assert pattern_of(rule) is None
    assert rule in rule_sentence(rule)


def test_pattern_without_a_day_is_refused() -> None:
    with pytest.raises(ValueError, match="at least one weekday"):
        rule_text(Pattern(repeats="weekly"))


def test_thinned_series_keep_peaks_and_lows() -> None:
    for one, whole in zip(series(DEMO_RESULT, 200), DEMO_RESULT.targets, strict=True):
        assert len(one.places) <= 200
        assert max(one.peak_bytes) == whole.totals.peak_bytes.max()
        assert min(one.stored_bytes) == whole.totals.stored_bytes.min()
        assert one.points == whole.totals.points[one.places].tolist()
        assert (one.places[0], one.places[-1]) == (0, DEMO_RESULT.frame.days - 1)


@pytest.mark.parametrize("day", ["2027-01-01", "2028-12-31", "2036-12-31"])
def test_spines_are_the_points_of_the_series(day: str) -> None:
    """Every point that is counted stands on a shelf, and no other, but for logs."""
    found = {one.target: one.points for one in consequences(DEMO_RESULT, day)}
    counted = dict.fromkeys(found, 0)
    for shelf in spines_on(DEMO_RESULT, day):
        counted[shelf.target] += sum(spine.count for spine in shelf.spines if spine.kind != "log")
    assert counted == found


def test_month_sheet_shows_the_clash_settled() -> None:
    """On Saturdays the full takes the place of the incremental at the same instant, which is shown as giving way."""
    document = read_design(json.dumps(design(WEEKLY_FULL, NEWEST_14)))
    result = forecast(document)
    sheet = month_sheet(document.cadences[0], runs_of(document.cadences[0], result.frame), result.frame, "2027-02")
    assert (sheet.title, sheet.before, sheet.after) == ("February 2027", "2027-01", "2027-03")
    days = {day.date: day for week in sheet.weeks for day in week}
    of_day = {day: [(one.kind, one.gives_way_to) for one in days[day].takings] for day in ("2027-02-06", "2027-02-07")}
    assert of_day == {"2027-02-06": [("full", None), ("incremental", "full2200")], "2027-02-07": [("incremental", None)]}
    assert all(len(week) == 7 for week in sheet.weeks)
    with pytest.raises(ValueError, match="expected a month"):
        month_sheet(document.cadences[0], runs_of(document.cadences[0], result.frame), result.frame, "2027-13")


def test_memory_gives_the_same_numbers_and_keeps_what_did_not_change() -> None:
    memory = Memory()
    plain = json.loads(DEMO.read_text())
    before = forecast(read_design(json.dumps(plain)), memory)
    next(one for one in plain["ladders"] if one["id"] == "away")["recent"] = [{"keep": {"points": 3}}]
    changed = read_design(json.dumps(plain))
    after, fresh = forecast(changed, memory), forecast(changed)
    for kept, new in zip(after.targets, fresh.targets, strict=True):
        assert np.array_equal(kept.totals.points, new.totals.points)
        assert np.array_equal(kept.totals.stored_bytes, new.totals.stored_bytes)
        assert np.array_equal(kept.totals.peak_bytes, new.totals.peak_bytes)
    same = [a.totals is b.totals for a, b in zip(before.targets, after.targets, strict=True)]
    touched = {"wall-disk", "north-bucket"}
    assert same == [target.id not in touched for target in changed.targets]
