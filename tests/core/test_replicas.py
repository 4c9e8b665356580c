"""Replicas: snapshots of snapshots on snapshot space at another site. Worked by hand; common practice, no source."""

from typing import Any

import pytest

from shelf_core.design.edits.copies import adding_copy
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of
from shelf_core.design.routes import Route
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.points import points_on
from shelf_core.forecast.protection import protection_on
from shelf_core.forecast.route_words import copy_sentence
from shelf_core.forecast.series import moved_each_day
from tests.core.nights import night
from tests.core.test_proof_facts import failed_days, lost

TB = 1e12
SHARE = 0.02
"""Of a source of 10 TB so much changes in a day, block by block."""


def house(*, workload: dict[str, Any] | None = None, copy: dict[str, Any] | None = None, **more: Any) -> dict[str, Any]:
    """A snapshot each evening at a, kept three deep, and a replica of it at b an hour later, kept three deep."""
    return {
        "format": "rested-shelf-design", "version": 2, "name": "House", "timezone": "UTC", "starts": "2027-01-01", "years": 1,
        "sites": [{"id": "a"}, {"id": "b"}],
        "targets": [
            {"id": "near", "media": "snapshot", "site": "a"},
            {"id": "far", "media": "snapshot", "site": "b", "read_speed": "500 MB/s"},
        ],
        "workloads": [{"id": "w", "site": "a", "size": "10 TB", "daily_change_percent": 2, **(workload or {})}],
        "cadences": [{"id": "c", "runs": [{"id": "s", "kind": "snapshot", "rrule": "FREQ=DAILY", "at": ["22:00"]}]}],
        "ladders": [{"id": "k", "recent": [{"keep": {"points": 3}}]}],
        "routes": [
            {"id": "r", "workloads": {"ids": ["w"]}, "copies": [
                {"id": "one", "target": "near", "cadence": "c", "ladder": "k"},
                {"id": "two", "target": "far", "from": "one", "delay": "PT1H", "ladder": "k", **(copy or {})},
            ]}
        ],
        **more,
    }  # fmt: skip


def of(plain: dict[str, Any]) -> Forecast:
    return forecast(design_of(plain))


def test_the_newest_counts_in_full_and_each_older_one_what_was_overwritten_until_the_next() -> None:
    result = of(house())
    near, far = (one.totals for one in result.targets)
    day = result.place_of("2027-03-10")
    assert int(far.points[day]) == 3
    assert far.stored_bytes[day] == pytest.approx(10 * TB * (1 + 2 * SHARE))
    # After the write and before the sweep four are there.
    assert far.peak_bytes[day] == pytest.approx(10 * TB * (1 + 3 * SHARE))
    # Beside the source the newest holds nothing but what was overwritten in its two hours.
    assert near.stored_bytes[day] == pytest.approx(10 * TB * (2 * SHARE + 1 - (1 - SHARE) ** (2 / 24)))


def test_the_first_moves_all_and_each_later_one_what_changed() -> None:
    result = of(house(workload={"annual_growth": "365 GB"}))
    moved = moved_each_day(result, "far")
    first, growth = result.place_of("2027-01-01"), 1e9
    since_start = 22 / 24 * growth
    assert moved[first] == pytest.approx(10 * TB + since_start)
    assert moved[first + 1] == pytest.approx((10 * TB + since_start) * SHARE + growth)
    assert not moved_each_day(result, "near").any()


def test_with_new_data_alone_older_ones_hold_nothing() -> None:
    result = of(house(workload={"change_pattern": "fresh"}))
    near, far = (one.totals.stored_bytes[result.place_of("2027-03-10")] for one in result.targets)
    assert (near, far) == (0.0, pytest.approx(10 * TB))


def test_replicas_are_not_reduced_and_points_add_up_to_the_target() -> None:
    result = of(house(workload={"reduction": 2, "count": 3}))
    sizes = [row.stored_bytes for row in points_on(result, "2027-03-10") if row.target == "far"]
    assert sizes == pytest.approx([10 * TB * SHARE, 10 * TB * SHARE, 10 * TB])
    assert 3 * sum(sizes) == pytest.approx(result.targets[1].totals.stored_bytes[result.place_of("2027-03-10")])


def test_a_replica_that_reads_at_its_own_runs_takes_the_newest_snapshot() -> None:
    weekly = {"id": "v", "runs": [{"id": "s", "kind": "snapshot", "rrule": "FREQ=WEEKLY;BYDAY=SU", "at": ["12:00"]}]}
    plain = house(copy={"cadence": "week"})
    plain["cadences"].append(weekly | {"id": "week"})
    del plain["routes"][0]["copies"][1]["delay"]
    taken = [(row.taken, row.kind) for row in points_on(of(plain), "2027-03-10") if row.target == "far"]
    assert taken == [(f"2027-{day}T22:00", "snapshot") for day in ("02-20", "02-27", "03-06")]


def test_over_a_line_of_100_megabytes_a_day_s_change_takes_2000_seconds() -> None:
    plain = house(links=[{"id": "l", "sites": ["a", "b"], "speed": "100 MB/s"}])
    (first,) = night(plain, "2027-01-01T12:00", "2027-01-02T12:00")
    assert (first.started[:16], first.ended[:16]) == ("2027-01-01T23:00", "2027-01-03T02:46")
    (row,) = night(plain, "2027-03-01T12:00", "2027-03-02T12:00")
    assert (row.copy, row.started[:16], row.ended[11:19]) == ("two", "2027-03-01T23:00", "23:33:20")
    assert row.moved_bytes == pytest.approx(10 * TB * SHARE)


def test_what_a_disk_takes_off_a_replica_is_read_where_the_replica_lies() -> None:
    """Read at b from the replica, 10 TB unreduced at 500 MB/s, though half of it is written."""
    plain = house(workload={"reduction": 2})
    plain["targets"].append({"id": "disk", "media": "disk", "site": "b"})
    plain["routes"][0]["copies"].append({"id": "three", "target": "disk", "from": "two", "ladder": "k"})
    rows = night(plain, "2027-01-01T12:00", "2027-01-02T12:00")
    (full,) = [row for row in rows if row.copy == "three"]
    assert full.moved_bytes == pytest.approx(5 * TB)
    begun, ended = (
        float(text[8:10]) * 86_400 + float(text[11:13]) * 3600 + float(text[14:16]) * 60 + float(text[17:19])
        for text in (full.started, full.ended)
    )
    assert ended - begun == pytest.approx(20_000, abs=1)


def test_it_survives_its_source_and_goes_with_its_own_site() -> None:
    case = {"id": "fire", "lost": {"sites": ["a"]}}
    (one,) = lost(house(loss_cases=[case]), "2027-03-10T12:00").workloads
    assert one.newest is not None
    assert one.newest.lying.target.id == "far"
    flood = {"id": "flood", "lost": {"sites": ["b"], "source": True}}
    (one,) = lost(house(loss_cases=[flood]), "2027-03-10T12:00").workloads
    assert one.newest is not None
    assert one.newest.lying.target.id == "near"
    both = {"id": "both", "lost": {"sites": ["a", "b"]}}
    (one,) = lost(house(loss_cases=[both]), "2027-03-10T12:00").workloads
    assert one.newest is None


@pytest.mark.parametrize(
    ("in_place", "read"),
    [(False, 10 * TB), (True, 10 * TB * (1 - (1 - SHARE) ** (14 / 24)))],
)
def test_all_of_it_is_read_where_it_lies_or_in_place_what_changed_since(in_place: bool, read: float) -> None:
    """At 500 MB/s. In place of all what changed in the 14 hours since the snapshot of the evening before."""
    plan = {"id": "p", "in_place": in_place, "groups": [{"workloads": ["w"]}]}
    case = {"id": "array", "lost": {"targets": ["near"], "source": False}, "plan": "p"}
    found = lost(house(recovery_plans=[plan], loss_cases=[case]), "2027-03-10T12:00").carried_out
    assert found is not None
    assert found.read_bytes == pytest.approx(read)
    assert found.back_at == pytest.approx(found.begins + read / 5e8)


def test_it_counts_as_a_copy_off_site_but_not_as_another_medium() -> None:
    (group,) = protection_on(of(house()), "2027-03-10")["r"]
    assert (group.copies, group.media, group.sites) == (2, ("disk",), ("a", "b"))
    assert group.missing == ("1 more copy", "a second kind of media")
    two, two_media = failed_days(house(), {"copies": 2, "media": 1, "off_site": 1}, {"copies": 2, "media": 2, "off_site": 1})
    assert two == []
    assert len(two_media) > 300
    beside = house()
    del beside["routes"][0]["copies"][1]
    assert len(failed_days(beside, {"copies": 2, "media": 1, "off_site": 0})[0]) > 300


def test_a_copy_added_on_snapshot_space_elsewhere_replicates() -> None:
    design = design_of(house())
    (route,) = design.routes
    bare = design.model_copy(update={"routes": [route.model_copy(update={"copies": route.copies[:1]})]})
    (change,) = adding_copy(bare, "r", "far")
    assert isinstance(change.value, Route)
    (_, added) = change.value.copies
    assert (added.from_, added.cadence) == ("one", None)
    assert copy_sentence(added, change.value, design).startswith("Replicates one, taking every point")


@pytest.mark.parametrize(
    ("change", "place"),
    [
        (lambda plain: plain["targets"][1].update(site="a"), "copies/1/target"),
        (lambda plain: plain["targets"][0].update(media="disk"), "copies/1/from"),
    ],
)
def test_only_snapshots_are_replicated_and_only_to_another_site(change: Any, place: str) -> None:
    plain = house()
    change(plain)
    with pytest.raises(DesignError) as caught:
        design_of(plain)
    assert any("/".join(map(str, fault.path)).endswith(place) for fault in caught.value.faults)
