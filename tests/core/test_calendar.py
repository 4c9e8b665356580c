"""Calendars read back by programs that are not ours: the same runs, clock changes included."""

import io
import json
from collections import Counter
from datetime import UTC, date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import icalendar
import numpy as np
import pytest
import recurring_ical_events
from dateutil.tz import tzical
from hypothesis import given, settings

from shelf_core.design.reading import design_of
from shelf_core.engine.hardware.tape import Cartridges
from shelf_core.engine.schedule.runs import runs_of
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.happenings import happenings
from shelf_core.forecast.tape import used_cartridges
from shelf_core.formats.calendar_text import calendar_text
from shelf_core.formats.calendar_zones import zone_component
from shelf_core.formats.digest import digest
from tests.core.strategies import designs
from tests.designs import DEMO, ROOT

YEARS = 2


def read_back(text: bytes, result: Forecast, words: str = "") -> Counter[datetime]:
    """How often something whose summary begins with words happens at each instant, in the first two years."""
    calendar = icalendar.Calendar.from_ical(text)
    begin = datetime.fromtimestamp(result.frame.begin, UTC)
    end = min(begin + timedelta(days=366 * YEARS), datetime.fromtimestamp(result.frame.end, UTC))
    found = recurring_ical_events.of(calendar).between(begin - timedelta(days=2), end + timedelta(days=2))
    starts = [one["DTSTART"].dt for one in found if str(one["SUMMARY"]).startswith(words)]
    instants = [start.astimezone(UTC) for start in starts if isinstance(start, datetime)]
    return Counter(one for one in instants if begin <= one < end)


def engine_runs(result: Forecast, cadence: Any) -> Counter[datetime]:
    end = min(result.frame.begin + 366 * YEARS * 86_400, result.frame.end)
    instants = runs_of(cadence, result.frame).within(result.frame.begin, end).instants
    return Counter(datetime.fromtimestamp(second, UTC) for second in instants.tolist())


def same_runs(result: Forecast) -> None:
    for cadence in result.design.cadences:
        assert read_back(calendar_text(result, cadence.id), result) == engine_runs(result, cadence), cadence


def with_runs(*runs: dict[str, Any], timezone: str = "Europe/Oslo", starts: str = "2027-01-01") -> Forecast:
    """A design whose one cadence has these runs."""
    document = json.loads((ROOT / "tests" / "examples" / "one-disk.json").read_text())
    document |= {"timezone": timezone, "starts": starts, "years": 3}
    document["cadences"][0]["runs"] = [{"id": f"run{at}", "kind": "full", **run} for at, run in enumerate(runs)]
    return forecast(design_of(document))


@settings(max_examples=40)
@given(document=designs())
def test_random_cadences_come_back_as_the_engine_runs_them(document: dict[str, Any]) -> None:
    """Source: RFC 5545 as icalendar and recurring-ical-events read it."""
    same_runs(forecast(design_of(document)))


HOURS = [f"{hour:02}:00" for hour in range(24)]


@pytest.mark.parametrize("timezone", ["Europe/Oslo", "America/New_York", "Australia/Lord_Howe", "Africa/Casablanca", "UTC"])
@pytest.mark.parametrize(
    "runs",
    [
        [{"rrule": "FREQ=DAILY", "at": HOURS}],
        [{"rrule": "FREQ=HOURLY"}],
        [{"rrule": "FREQ=DAILY", "at": ["01:30", "02:00", "02:30", "03:00", "03:30"]}],
        [{"rrule": "FREQ=WEEKLY;BYDAY=SU", "at": ["02:30"]}, {"rrule": "FREQ=DAILY", "at": ["02:30"], "kind": "incremental"}],
        [{"once": ["2027-03-28T02:30", "2027-10-31T02:30", "2027-10-31T01:30", "2028-02-29T23:59"]}],
    ],
    ids=["every hour by times", "every hour by rule", "around the change", "two that meet", "single times"],
)
def test_clock_changes_come_back_as_the_engine_runs_them(runs: list[dict[str, Any]], timezone: str) -> None:
    """Source: RFC 5545, section 3.3.5: a skipped local time uses the offset before the change, one that comes twice the first."""
    same_runs(with_runs(*runs, timezone=timezone))


@pytest.mark.parametrize(
    "run",
    [
        {"rrule": "FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,SU;WKST=SU", "at": ["22:00"]},
        {"rrule": "FREQ=MONTHLY;BYDAY=1FR;COUNT=10", "at": ["22:00"]},
        {"rrule": "FREQ=WEEKLY;BYDAY=MO,WE,FR;BYSETPOS=2", "at": ["22:00"]},
        {"rrule": "FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1", "at": ["06:00", "18:00"]},
        {"rrule": "FREQ=MONTHLY", "at": ["12:00"], "from": "2026-12-31"},
        {"rrule": "FREQ=DAILY;COUNT=40", "at": ["12:00"], "from": "2026-12-20", "except": ["2027-01-02", "2027-01-05"]},
        {"rrule": "FREQ=YEARLY;BYWEEKNO=1,53;BYDAY=MO", "at": ["12:00"]},
        {"rrule": "FREQ=DAILY;BYHOUR=6,12,18;BYMINUTE=15,45", "until": "2028-02-29"},
        {"rrule": "FREQ=DAILY;INTERVAL=3", "at": ["23:30"], "timezone": "America/Los_Angeles", "from": "2027-02-01"},
        {"rrule": "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29", "at": ["12:00"]},
    ],
    ids=lambda run: run["rrule"],
)
def test_rules_go_on_from_the_first_run_as_they_were_meant(run: dict[str, Any]) -> None:
    same_runs(with_runs(run))


@pytest.mark.parametrize("name", ["Europe/Oslo", "America/New_York", "Australia/Lord_Howe", "Asia/Kolkata"])
def test_zones_are_written_as_other_programs_read_them(name: str) -> None:
    """Source: RFC 5545, section 3.6.5, as dateutil's reader of time zones has it, beside the zone database itself."""
    calendar = icalendar.Calendar()
    calendar.add("version", "2.0")
    calendar.add("prodid", "test")
    calendar.add_component(zone_component(name, 2027, 2029))
    theirs, own = tzical(io.StringIO(calendar.to_ical().decode().replace("\r\n ", ""))).get(), ZoneInfo(name)
    for hour in range(0, 3 * 365 * 24, 1):
        wall = datetime(2027, 1, 1) + timedelta(hours=hour, minutes=30)
        exists = wall.replace(tzinfo=own).astimezone(UTC).astimezone(own).replace(tzinfo=None) == wall
        comes_twice = wall.replace(tzinfo=own).utcoffset() != wall.replace(tzinfo=own, fold=1).utcoffset()
        if exists and not comes_twice:
            assert wall.replace(tzinfo=theirs).utcoffset() == wall.replace(tzinfo=own).utcoffset(), wall


@pytest.fixture(scope="module")
def demo() -> Forecast:
    return forecast(design_of(json.loads(DEMO.read_text())))


def test_the_demo_s_calendar_holds_all_that_happens(demo: Forecast) -> None:
    text = calendar_text(demo)
    assert read_back(text, demo, "Every night") == engine_runs(
        demo, next(one for one in demo.design.cadences if one.name == "Every night")
    )
    calendar = icalendar.Calendar.from_ical(text)
    summaries = {str(one["SUMMARY"]) for one in calendar.walk("VEVENT")}
    assert {one.words for one in happenings(demo)} <= summaries
    full = {str(one["SUMMARY"]): one["DTSTART"].dt for one in calendar.walk("VEVENT") if "is full" in str(one["SUMMARY"])}
    expected = {
        f"{one.target.name} is full": date.fromisoformat(demo.day(one.full_on))
        for one in demo.targets
        if one.full_on is not None
    }
    assert full == expected
    ids = [str(one["UID"]) for one in calendar.walk("VEVENT")]
    assert len(ids) == len(set(ids))
    assert calendar_text(demo) == text
    assert str(calendar["X-DESIGN-DIGEST"]) == digest(demo.document)


def test_copies_step_downs_and_tapes_happen_when_points_are_written(demo: Forecast) -> None:
    found = {one.key: one for one in happenings(demo)}
    step = (
        found["step-down by-law house 1"]
        if "step-down by-law house 1" in found
        else next(one for one in found.values() if one.sort == "step-down")
    )
    _, route, copy, stage = step.key.split()
    written = {
        int(second)
        for one in demo.holdings
        if (one.route, one.copy, one.stage) == (route, copy, int(stage))
        for second in one.life.written
        if second >= demo.frame.begin
    }
    assert set(step.instants.tolist()) == {second for second in written if second < demo.frame.end}
    tape = next(at for at, one in enumerate(demo.design.targets) if one.id == "salt-tape")
    used: Cartridges = used_cartridges(demo, demo.design.targets[tape], [one for one in demo.holdings if one.target == tape])
    more = next(one for one in found.values() if one.words.endswith("more cartridges are in use"))
    in_use = np.r_[0, used.in_use.at_end]
    places = more.days - demo.frame.first_day
    assert (in_use[places + 1] > in_use[places]).all()
    assert sum(one.sort == "tape set" for one in found.values()) == 6


def test_what_follows_at_the_first_midnight_happens() -> None:
    """Opening stock came before the design begins and does not happen in it; a run at its first instant does."""
    document = json.loads((ROOT / "tests" / "examples" / "one-disk.json").read_text())
    document["timezone"], document["opening"] = "Europe/Oslo", []
    document["cadences"][0]["runs"] = [{"id": "day", "kind": "full", "rrule": "FREQ=DAILY", "at": ["00:00"]}]
    (route,) = document["routes"]
    document["targets"].append({"id": "second", "media": "object", "site": document["targets"][0]["site"]})
    for name in ("lock", "step_downs", "take"):
        route["copies"][0].pop(name, None)
    route["copies"] = [
        route["copies"][0],
        {"id": "away", "from": route["copies"][0]["id"], "target": "second", "ladder": document["ladders"][0]["id"]},
    ]
    stock = {
        "workload": document["workloads"][0]["id"],
        "route": route["id"],
        "copy": "away",
        "taken": "2026-12-31T00:00",
        "kind": "full",
    }
    document["opening"] = [stock]
    result = forecast(design_of(document))
    (follows,) = (one for one in happenings(result) if one.sort == "copy")
    assert follows.instants[0] == result.frame.begin
    assert len(follows.instants) == result.frame.days


def test_each_set_of_a_rotation_is_named_on_its_days() -> None:
    """Source: ruler sequence, OEIS A001511: set n comes every 2^(n-1) sessions."""
    document = json.loads((ROOT / "tests" / "examples" / "one-disk.json").read_text())
    document["cadences"][0]["runs"] = [{"id": "day", "kind": "full", "rrule": "FREQ=DAILY", "at": ["22:00"]}]
    document["targets"][0] |= {"media": "tape", "cartridge": "18 TB", "packing": "separate"}
    copy = document["routes"][0]["copies"][0]
    for field in ("ladder", "lock", "step_downs"):
        copy.pop(field, None)
    copy["rotation"] = {"scheme": "hanoi", "sets": 5}
    result = forecast(design_of(document))
    sets = {
        one.words.rsplit(" ", 1)[1]: one.days - result.frame.first_day for one in happenings(result) if one.sort == "tape set"
    }
    for number in range(1, 5):
        assert np.diff(sets[str(number)]).tolist() == [2**number] * (len(sets[str(number)]) - 1)
        assert sets[str(number)][0] == 2 ** (number - 1) - 1


def test_a_cadence_that_there_is_not_is_refused(demo: Forecast) -> None:
    with pytest.raises(ValueError, match="expected the id of a cadence"):
        calendar_text(demo, "nothing")
