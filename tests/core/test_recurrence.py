"""Recurrences against RFC 5545's own examples and against python-dateutil."""

from datetime import UTC, date, datetime, timedelta

import numpy as np
import pytest
from dateutil.rrule import rrulestr
from hypothesis import given, settings
from hypothesis import strategies as st

from shelf_core.calendar.periods import period_numbers
from shelf_core.calendar.recurrence import MOST_OCCURRENCES, occurrences
from shelf_core.calendar.rules import parse_rule
from shelf_core.calendar.zones import DAY, day_number, day_text


def days(rule: str, start: str, last: str = "1999-12-31") -> list[str]:
    found = occurrences(parse_rule(rule), day_number(start) * DAY + 9 * 3600, day_number(last))
    return [day_text(int(second) // DAY) for second in found]


def test_first_friday_ten_times() -> None:
    """RFC 5545, section 3.8.5.3: monthly on the first Friday for ten occurrences from 1997-09-05."""
    assert days("FREQ=MONTHLY;COUNT=10;BYDAY=1FR", "1997-09-05") == [
        "1997-09-05", "1997-10-03", "1997-11-07", "1997-12-05", "1998-01-02",
        "1998-02-06", "1998-03-06", "1998-04-03", "1998-05-01", "1998-06-05",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("week_start", "expected"),
    [("MO", ["05", "10", "19", "24"]), ("SU", ["05", "17", "19", "31"])],
)
def test_every_other_week_depends_on_the_week_start(week_start: str, expected: list[str]) -> None:
    """RFC 5545, section 3.8.5.3: every other week on TU and SU, four times from 1997-08-05."""
    found = days(f"FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST={week_start}", "1997-08-05")
    assert found == [f"1997-08-{day}" for day in expected]


def test_days_that_a_month_lacks_are_skipped() -> None:
    """RFC 5545, section 3.8.5.3: BYMONTHDAY=15,30 five times from 2007-01-15 skips 30 February."""
    found = days("FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5", "2007-01-15", "2009-01-01")
    assert found == ["2007-01-15", "2007-01-30", "2007-02-15", "2007-03-15", "2007-03-30"]


def test_start_that_does_not_match_is_no_occurrence() -> None:
    """The model counts only what matches the rule, DTSTART included."""
    assert days("FREQ=WEEKLY;COUNT=2;BYDAY=SA", "1997-09-02") == ["1997-09-06", "1997-09-13"]


WEEKDAYS = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"]


@st.composite
def rules(draw: st.DrawFn) -> str:
    frequency = draw(st.sampled_from(["DAILY", "WEEKLY", "MONTHLY", "YEARLY", "HOURLY"]))
    parts = [f"FREQ={frequency}"]
    some = lambda strategy: st.lists(strategy, min_size=1, max_size=3, unique=True)  # noqa: E731
    if draw(st.booleans()):
        parts.append(f"INTERVAL={draw(st.integers(1, 5))}")
    if draw(st.booleans()):
        plain = st.sampled_from(WEEKDAYS)
        numbered = st.builds(lambda n, day: f"{n}{day}", st.sampled_from([1, 2, 4, 5, -1, -2]), plain)
        parts.append(
            "BYDAY=" + ",".join(draw(some(numbered if frequency in ("MONTHLY", "YEARLY") and draw(st.booleans()) else plain)))
        )
    if draw(st.integers(0, 2)) == 0:
        parts.append("BYMONTH=" + ",".join(map(str, draw(some(st.integers(1, 12))))))
    if frequency != "WEEKLY" and draw(st.integers(0, 2)) == 0:
        parts.append("BYMONTHDAY=" + ",".join(map(str, draw(some(st.integers(1, 31) | st.integers(-31, -1))))))
    if frequency == "YEARLY" and draw(st.integers(0, 3)) == 0:
        parts.append("BYYEARDAY=" + ",".join(map(str, draw(some(st.sampled_from([1, 60, 200, 366, -1, -100]))))))
    if draw(st.integers(0, 3)) == 0:
        parts.append(f"COUNT={draw(st.integers(1, 20))}")
    if frequency in ("MONTHLY", "YEARLY", "WEEKLY") and len(parts) > 1 and draw(st.integers(0, 3)) == 0:
        # A week without BYDAY has one day: its second never comes, and the library looks for it until the year 9999.
        has_one = frequency == "WEEKLY" and not any(part.startswith("BYDAY") for part in parts)
        parts.append(f"BYSETPOS={draw(st.sampled_from([1, -1] if has_one else [1, 2, -1]))}")
    if draw(st.booleans()):
        parts.append(f"WKST={draw(st.sampled_from(WEEKDAYS))}")
    return ";".join(parts)


@settings(max_examples=400)
@given(rule=rules(), start=st.dates(date(2024, 1, 1), date(2027, 12, 31)), hour=st.integers(0, 23))
def test_same_as_dateutil(rule: str, start: date, hour: int) -> None:
    """Reference library: python-dateutil, over four years."""
    end = start + timedelta(days=4 * 366)
    begin = datetime(start.year, start.month, start.day, hour, 30, tzinfo=UTC)
    expected = []
    for found in rrulestr(rule, dtstart=begin).xafter(begin, count=3000, inc=True):
        if found.date() > end:
            break
        expected.append(int(found.timestamp()))
    ours = occurrences(parse_rule(rule), int(begin.timestamp()), day_number(end))
    assert ours[: len(expected)].tolist() == expected
    assert len(ours) == len(expected) or len(expected) == 3000


def test_rule_that_never_matches_ends() -> None:
    assert len(occurrences(parse_rule("FREQ=MONTHLY;BYMONTH=2;BYMONTHDAY=30"), 0, 55_000)) == 0
    assert len(occurrences(parse_rule("FREQ=WEEKLY;BYMONTH=1;BYSETPOS=2"), 0, 55_000)) == 0


def test_rule_that_comes_too_often_is_refused() -> None:
    """A minutely rule over 99 years is refused at once, not computed."""
    with pytest.raises(ValueError, match="at most"):
        occurrences(parse_rule("FREQ=MINUTELY"), 0, 99 * 365)
    assert MOST_OCCURRENCES == 500_000


@pytest.mark.parametrize(
    "text",
    ["", "FREQ=SECONDLY", "FREQ=DAILY;UNTIL=20270101", "FREQ=DAILY;FREQ=DAILY", "FREQ=WEEKLY;BYDAY=1MO", "FREQ=DAILY;INTERVAL=0",
     "FREQ=MONTHLY;BYMONTHDAY=0", "FREQ=MONTHLY;BYMONTHDAY=32", "FREQ=DAILY;BYDAY=XX", "freq=daily", "FREQ=DAILY;COUNT=-1"],
)  # fmt: skip
def test_wrong_rules_are_refused(text: str) -> None:
    with pytest.raises(ValueError, match="expected"):
        parse_rule(text)


def test_iso_weeks() -> None:
    """ISO 8601: 400 Gregorian years hold 20,871 weeks and 71 years of 53 weeks; 2026 is one."""
    first, last = day_number("2001-01-01"), day_number("2400-12-31")
    every_day = np.arange(first, last + 1) * DAY
    weeks = period_numbers(every_day, "week", "MO")
    assert len(np.unique(weeks)) == 20_871
    thursdays = every_day[(every_day // DAY + 3) % 7 == 3]
    years, counts = np.unique(thursdays.astype("datetime64[s]").astype("datetime64[Y]").astype(int) + 1970, return_counts=True)
    assert np.count_nonzero(counts == 53) == 71
    assert counts[years == 2026] == 53
