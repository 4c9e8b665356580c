"""Nights against plain arithmetic. Where nothing else is said: worked by hand; common practice, no source."""

from typing import Any

import numpy as np
import pytest

from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of
from shelf_core.design.values import bytes_per_second_of
from shelf_core.forecast.forecast import forecast
from shelf_core.nights.followed import NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.quiet import Quiet
from shelf_core.nights.tables import Row, night_rows, seconds_of
from tests.core.nights import held_of, night, whole

FULL = {"id": "f", "kind": "full", "rrule": "FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=1", "at": ["22:00"]}
DAY = ("2027-03-01T12:00", "2027-03-02T12:00")


def house(size: str = "1 TB", **more: Any) -> dict[str, Any]:
    """One workload at a, one target at b, one line between them; a full on the evening of 1 March. Parts are changed by `more`."""
    plain: dict[str, Any] = {
        "format": "rested-shelf-design", "version": 2, "name": "House", "timezone": "UTC", "starts": "2027-01-01", "years": 1,
        "sites": [{"id": "a"}, {"id": "b"}],
        "links": [{"id": "l", "sites": ["a", "b"], **more.get("link", {})}],
        "targets": [{"id": "d", "media": "disk", "site": "b", **more.get("target", {})}],
        "workloads": [{"id": "w", "site": "a", "size": size, **more.get("workload", {})}],
        "cadences": [{"id": "c", "runs": more.get("runs", [FULL])}],
        "ladders": [{"id": "k", "recent": [{"keep": "P60D"}]}],
        "routes": [
            {"id": "r", "workloads": {"ids": ["w"]}, "copies": [
                {"id": "one", "target": "d", "cadence": "c", "ladder": "k", **more.get("copy", {})}
            ]}
        ],
    }  # fmt: skip
    return plain


def lasts(row: Row) -> float:
    """Seconds from asking to the end."""
    return float((np.datetime64(row.ended[:23]) - np.datetime64(row.asked[:23])) / np.timedelta64(1, "ms")) / 1000


@pytest.mark.parametrize(
    ("text", "speed"),
    [
        ("400 MB/s", 4e8),
        ("200 MiB/s", 209_715_200),
        ("10 Gbit/s", 1.25e9),
        ("800 Mbit/s", 1e8),
        ("1.5 kB/s", 1500),
        (7, 7),
        (0, 0),
    ],
)
def test_speeds_are_bytes_or_bits(text: str | int, speed: float) -> None:
    """SI prefixes are decimal (SI Brochure), binary ones those of IEC 80000-13; 8 bits are a byte."""
    assert bytes_per_second_of(text) == speed


@pytest.mark.parametrize("text", ["400 MB", "10 Gb/s", "fast", "-1 MB/s", "1e3 MB/s", True])
def test_other_speeds_are_refused(text: object) -> None:
    with pytest.raises(DesignError, match="expected a speed"):
        design_of(house(link={"speed": text}))


def test_ten_terabytes_over_ten_gigabits_take_8000_seconds() -> None:
    (row,) = night(house("10 TB", link={"speed": "10 Gbit/s"}), *DAY)
    assert lasts(row) == pytest.approx(8000)
    assert (row.held_most, row.mean_bytes_per_second) == ("link l a-b", 1.25e9)


def test_fifty_terabytes_over_100_megabits_take_46_3_days() -> None:
    (row,) = night(house("50 TB", link={"speed": "100 Mbit/s"}), *DAY)
    assert lasts(row) / 86_400 == pytest.approx(46.2963, abs=1e-3)


def test_a_limit_by_day_holds_up_what_began_at_night() -> None:
    """5 TB at 22:00 over 100 MB/s, 20 MB/s from 08:00 to 18:00: 3.6 TB by 08:00, 0.72 by 18:00, 0.68 more by 19:53:20."""
    link = {"speed": "100 MB/s", "limits": [{"from": "08:00", "to": "18:00", "speed": "20 MB/s"}]}
    (row,) = night(house("5 TB", link=link), *DAY)
    assert row.ended == "2027-03-02T19:53:20.000+00:00"


@pytest.mark.parametrize(("streams", "seconds"), [(2, [13_333.333, 13_333.333, 23_333.333]), (3, [20_000.0] * 3)])
def test_two_streams_or_three(streams: int, seconds: list[float]) -> None:
    """Three of 1 TB at 100 MB/s a stream on a target of 150 MB/s."""
    target = {"write_speed": "150 MB/s", "stream_speed": "100 MB/s", "streams": streams}
    rows = night(house(workload={"count": 3}, target=target), *DAY)
    assert [lasts(row) for row in rows] == pytest.approx(seconds, abs=0.01)
    if streams == 2:
        assert held_of(rows[2]) == pytest.approx({"stream": 13_333.333, "stream of d": 10_000.0}, abs=0.01)


def test_what_is_verified_takes_twice_as_long() -> None:
    """10 TB at 125 MB/s and read back at 125 MB/s: 44.4 hours."""
    target = {"write_speed": "125 MB/s", "read_speed": "125 MB/s"}
    (row,) = night(house("10 TB", target=target, copy={"verify": True}), *DAY)
    assert lasts(row) / 3600 == pytest.approx(44.444, abs=1e-3)
    assert held_of(row) == pytest.approx({"target d write": 80_000.0, "target d read": 80_000.0})


def test_a_gigabit_ethernet_carries_118_7_megabytes() -> None:
    """Of a frame of 1,538 bytes on the line 1,460 are payload of TCP over IPv4 (IEEE 802.3 frame sizes, from memory)."""
    usable = 100 * 1460 / 1538
    (row,) = night(house("1187 GB", link={"speed": "1 Gbit/s", "usable_percent": usable}), *DAY)
    assert lasts(row) == pytest.approx(10_000, rel=1e-3)


def test_reduction_reads_more_than_it_moves() -> None:
    """Fulls are read by `reduction`, changes by `change_reduction`: 400 MB/s of source are 100 or 200 MB/s of moved bytes."""
    daily = {"id": "i", "kind": "incremental", "rrule": "FREQ=DAILY", "at": ["23:00"]}
    workload = {"reduction": 4, "change_reduction": 2, "daily_change_percent": 1, "read_speed": "400 MB/s", "scan": "PT5M"}
    full, change = night(house("4 TB", workload=workload, runs=[FULL, daily]), "2027-03-01T22:00", "2027-03-02T10:00")[-2:]
    assert (full.kind, full.mean_bytes_per_second) == ("full", pytest.approx(1e8))
    assert change.kind == "incremental"
    held = held_of(change)
    assert held["scan"] == 300
    assert change.moved_bytes / held["machine"] == pytest.approx(2e8, rel=1e-3)
    assert held["source"] == pytest.approx(10_000 - 3600)


def test_a_spread_asks_one_machine_after_another() -> None:
    rows = night(house(workload={"count": 4}, copy={"spread": "PT2H"}, link={"speed": "1 GB/s"}), *DAY)
    assert [row.asked[11:19] for row in rows] == ["22:00:00", "22:30:00", "23:00:00", "23:30:00"]


@pytest.mark.parametrize(
    ("at_close", "ended", "late"),
    [("finish", "2027-03-02T02:46:40.000+00:00", "window"), ("stop", "", "no point")],
)
def test_a_window_closes_on_what_runs(at_close: str, ended: str, late: str) -> None:
    copy = {"window": {"opens": "23:00", "closes": "02:00"}, "at_close": at_close}
    (row,) = night(house("1.36 TB", link={"speed": "100 MB/s"}, copy=copy), *DAY)
    assert (row.started, row.ended, row.late) == ("2027-03-01T23:00:00.000+00:00", ended, late)
    if ended:
        assert held_of(row) == {"link l a-b": 13_600.0, "window": 3600.0}


def test_logs_know_no_window_and_wait_for_the_log_before_them() -> None:
    runs = [FULL, {"id": "g", "kind": "log", "rrule": "FREQ=HOURLY", "at": ["00:30"]}]
    workload = {"log_per_day": "240 GB"}
    copy = {"window": {"opens": "22:00", "closes": "22:01"}}
    rows = night(
        house(workload=workload, runs=runs, copy=copy, link={"speed": "2 MB/s"}), "2027-03-02T00:00", "2027-03-02T02:00"
    )
    logs = [row for row in rows if row.kind == "log"]
    assert logs[0].taken == "2027-03-01T22:30"
    assert all("window" not in held_of(row) for row in logs)
    assert all(row.late in ("", "behind") for row in logs)
    assert logs[1].started == logs[0].ended


def test_a_following_copy_begins_so_long_after_its_source_has_ended() -> None:
    plain = house(link={"speed": "100 MB/s"})
    plain["targets"].append({"id": "e", "media": "disk", "site": "b", "read_speed": "50 MB/s"})
    plain["routes"][0]["copies"].append({"id": "two", "from": "one", "target": "e", "ladder": "k", "delay": "PT1H"})
    one, two = night(plain, *DAY)
    assert (one.ended, two.asked) == ("2027-03-02T00:46:40.000+00:00", "2027-03-02T01:46:40.000+00:00")
    assert (two.how, two.from_target, two.ended) == ("follow", "d", two.asked)


def test_a_copy_that_reads_too_early_waits() -> None:
    plain = house(link={"speed": "100 MB/s"})
    plain["targets"].append({"id": "e", "media": "disk", "site": "b", "write_speed": "200 MB/s"})
    late = {"id": "n", "kind": "full", "rrule": "FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=2", "at": ["00:00"]}
    plain["cadences"].append({"id": "n", "runs": [late]})
    plain["routes"][0]["copies"].append({"id": "two", "from": "one", "cadence": "n", "target": "e", "ladder": "k"})
    one, two = night(plain, *DAY)
    assert (two.how, two.too_early, two.started) == ("read", "yes", one.ended)
    assert held_of(two) == pytest.approx({"target e write": 5000.0, "source": 2800.0})


def test_what_is_stopped_takes_with_it_what_copies_it() -> None:
    plain = house(
        "2 TB", link={"speed": "100 MB/s"}, copy={"window": {"opens": "22:00", "closes": "23:00"}, "at_close": "stop"}
    )
    plain["targets"].append({"id": "e", "media": "disk", "site": "b"})
    plain["routes"][0]["copies"].append({"id": "two", "from": "one", "target": "e", "ladder": "k"})
    one, two = night(plain, *DAY)
    assert [(row.ended, row.late) for row in (one, two)] == [("", "no point"), ("", "no point")]


def test_one_way_and_both_ways_of_a_line() -> None:
    """Two opposite transfers have the speed each, or share it."""
    for shared, seconds in ((False, 10_000), (True, 20_000)):
        plain = house(link={"speed": "100 MB/s", "shared": shared})
        plain["targets"].append({"id": "e", "media": "disk", "site": "a"})
        plain["workloads"].append({"id": "v", "site": "b", "size": "1 TB"})
        copies = [{"id": "one", "target": "e", "cadence": "c", "ladder": "k"}]
        plain["routes"].append({"id": "s", "workloads": {"ids": ["v"]}, "copies": copies})
        rows = night(plain, *DAY)
        assert [lasts(row) for row in rows] == pytest.approx([seconds] * 2)
        assert {row.held_most for row in rows} == ({"link l"} if shared else {"link l a-b", "link l b-a"})


def test_a_cartridge_is_mounted_when_it_is_begun() -> None:
    """2.5 TB on cartridges of 1 TB: three mounts, one after another on the drive of their set."""
    target = {"media": "tape", "cartridge": "1 TB", "drives": 2, "mount": "PT3M", "stream_speed": "250 MB/s"}
    (row,) = night(house("2.5 TB", target=target), *DAY)
    assert held_of(row) == pytest.approx({"stream of d": 10_000.0, "mount": 540.0})
    rows = night(house("0.4 TB", target=target, workload={"count": 2}), *DAY)
    assert rows[1].started == rows[0].ended
    assert ["mount" in held_of(row) for row in rows] == [True, False]


def test_a_synthetic_full_is_put_together_at_its_target() -> None:
    """The changes come over the line; then S/reduction is read and written there at once."""
    runs = [
        {"id": "i", "kind": "full", "rrule": "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=28", "at": ["22:00"]},
        {"id": "s", "kind": "synthetic", "rrule": "FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=1", "at": ["22:00"]},
    ]
    target = {"read_speed": "500 MB/s", "write_speed": "250 MB/s"}
    workload = {"daily_change_percent": 1, "reduction": 2}
    (row,) = night(house("2 TB", runs=runs, target=target, workload=workload, link={"speed": "100 MB/s"}), *DAY)
    assert row.moved_bytes == pytest.approx(10e9)
    assert held_of(row) == pytest.approx({"target d write": 4000.0, "link l a-b": 100.0})


def test_bytes_moved_are_what_was_used_and_streams_are_little_s_law() -> None:
    """Bytes = use integrated; mean streams in use = rate of arrival times mean time in the system (Little 1961, from memory)."""
    daily = {"id": "f", "kind": "full", "rrule": "FREQ=DAILY", "at": ["22:00"]}
    found = whole(house(workload={"count": 5}, runs=[daily], link={"speed": "200 MB/s"}, target={"streams": 2}))
    moved = sum(float(lane.moved_bytes.sum()) * lane.machines for lane in found.lanes)
    spans = np.nan_to_num(found.ended - found.started)
    # Two of them share the line at a time, but for the fifth, which has it alone.
    assert moved == pytest.approx(365 * 5e12)
    assert spans.reshape(5, -1).sum(axis=0)[0] == pytest.approx(4 * 10_000 + 5_000)
    days = float(found.result.frame.days * 86_400)
    in_use = spans.sum() / days
    assert in_use == pytest.approx(len(spans) / days * spans.mean())


def test_a_night_from_a_quiet_instant_is_the_same_night() -> None:
    """What comes after an instant at which nothing runs or waits does not depend on what was before."""
    daily = {"id": "f", "kind": "full", "rrule": "FREQ=DAILY", "at": ["22:00"]}
    plain = house(workload={"count": 3}, runs=[daily], link={"speed": "200 MB/s"}, copy={"spread": "PT1H"})
    plain["targets"].append({"id": "e", "media": "disk", "site": "b", "write_speed": "400 MB/s"})
    plain["routes"][0]["copies"].append({"id": "two", "from": "one", "target": "e", "ladder": "k", "delay": "PT30M"})
    result = forecast(design_of(plain))
    quiet = follow(result).quiet
    assert len(quiet) > 300
    begin, end = seconds_of(result, "2027-09-01T12:00"), seconds_of(result, "2027-09-02T12:00")
    since = max((one for one in quiet if one.instant <= begin), key=lambda one: one.instant)
    assert since.instant > begin - 86_400
    rows = [list(night_rows(follow(result, NightSpan(begin, end, since=start)), begin, end)) for start in (Quiet(0.0), since)]
    assert len(rows[0]) == 6
    assert rows[0] == rows[1]
