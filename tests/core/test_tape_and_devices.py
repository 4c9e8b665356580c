"""Rotations, cartridges and devices, by published sequences, common practice and small sums."""

import json
from collections import Counter
from typing import Any

import numpy as np
import pytest

from shelf_core.calendar.zones import DAY
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import read_design
from shelf_core.design.routes import Rotation
from shelf_core.engine.hardware.devices import placement_of
from shelf_core.engine.hardware.tape import cartridges_of
from shelf_core.engine.retention.rotations import sets_of, turns_of
from shelf_core.engine.schedule.frame import AFTER_ALL, frame_of
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.points import points_on
from tests.designs import design, run

LTO_TB = {5: 1.5, 6: 2.5, 7: 6, 8: 12, 9: 18}
"""Native capacities of the open LTO format by generation (from memory)."""


def on_tape(runs: list[dict[str, Any]], keeping: dict[str, Any], tape: dict[str, Any], **workload: Any) -> Forecast:
    document = design(runs, {}, workload={"daily_change_percent": 0, **workload})
    document["targets"][0] |= {"media": "tape", **tape}
    document["routes"][0]["copies"][0] = {"id": "first", "target": "disk", "cadence": "beat", **keeping}
    if "ladder" in keeping:
        document["ladders"] = [{"id": "rule", **keeping["ladder"]}]
        document["routes"][0]["copies"][0]["ladder"] = "rule"
    return forecast(read_design(json.dumps(document)))


def cartridges(found: Forecast) -> tuple[np.ndarray, np.ndarray]:
    used = cartridges_of(found.design.targets[0], found.holdings, found.frame)
    return used.in_use.at_end, used.stranded_bytes.at_end


def ruler(number: int) -> int:
    return 1 if number % 2 else 1 + ruler(number // 2)


def test_hanoi_is_the_ruler_sequence() -> None:
    """OEIS A001511: 1, 2, 1, 3, 1, 2, 1, 4, …; set n comes every 2^(n-1) sessions, the last one takes what is above it."""
    frame = frame_of(read_design(json.dumps(design([run("full", "FREQ=DAILY")], {}))))
    sessions = frame.begin + DAY * np.arange(128)
    order = sets_of(Rotation(scheme="hanoi", sets=5), sessions, frame).tolist()
    assert order == [min(5, ruler(number)) for number in range(1, 129)]
    for number in range(1, 5):
        places = [place for place, one in enumerate(order) if one == number]
        assert set(np.diff(places)) == {2**number}
    assert set(np.diff([place for place, one in enumerate(order) if one == 5])) == {16}


def test_age_of_the_oldest_point_under_hanoi() -> None:
    """With n sets the oldest point is between 2^(n-2) and 2^(n-1) - 1 sessions old once all sets are in use (n = 5: 8 to 15).

    Ages are counted in sessions after each one, common to descriptions of the rotation.
    """
    frame = frame_of(read_design(json.dumps(design([run("full", "FREQ=DAILY")], {}))))
    sessions = frame.begin + DAY * np.arange(200)
    ends = turns_of(Rotation(scheme="hanoi", sets=5), sessions, sessions, frame).ends
    ages = [now - min(place for place in range(now + 1) if ends[place] > sessions[now]) for now in range(40, 200)]
    assert (min(ages), max(ages)) == (8, 15)


def test_fifo_keeps_as_many_sessions_as_it_has_sets() -> None:
    found = on_tape([run("full", "FREQ=DAILY")], {"rotation": {"scheme": "fifo", "sets": 5}}, {})
    assert set(found.targets[0].totals.points[10:].tolist()) == {5}
    assert [row.claims for row in points_on(found, "2027-02-01")] == [("rotation",)] * 5


def test_gfs_over_a_five_day_week_uses_twenty_sets() -> None:
    """Common practice, no source: sons daily, fathers weekly, grandfathers monthly: 4 + 4 + 12 = 20 tape sets."""
    document = design([run("full", "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR", "20:00")], {}, years=3)
    frame = frame_of(read_design(json.dumps(document)))
    days = np.arange(frame.days)
    sessions = frame.midnights[:-1][(frame.first_day + days + 3) % 7 < 5] + 20 * 3600
    used = Counter(sets_of(Rotation(scheme="gfs", weekly_on="FR"), sessions, frame).tolist())
    assert len(used) == 20
    with_years = Counter(sets_of(Rotation(scheme="gfs", weekly_on="FR", years=2), sessions, frame).tolist())
    assert len(with_years) == 4 + 4 + 11 + 2


@pytest.mark.parametrize(("closes", "how_many"), [("full", 8), ("run", 12)])
def test_144_terabytes_on_cartridges_of_18(closes: str, how_many: int) -> None:
    """Twelve runs of 12 TB: 8 cartridges appended, 12 if a set closes after each run."""
    runs = [run("full", "FREQ=DAILY;COUNT=12")]
    tape = {"cartridge": f"{LTO_TB[9]} TB", "batch_closes": closes}
    found = on_tape(runs, {"ladder": {"recent": [{"keep": "forever"}]}}, tape, size="12 TB")
    in_use, stranded = cartridges(found)
    assert (in_use[-1], stranded[-1]) == (how_many, 0)


def test_gone_points_are_stranded_until_all_on_the_cartridge_is_gone() -> None:
    """Daily fulls of 10 TB, the newest 3 stay, appended to cartridges of 25 TB.

    Points 1, 2 and half of 3 fill the first cartridge, the other half, 4 and 5 the second. After day 4 point 1 is gone: 10 TB
    are stranded, 20 after day 5; on day 6 point 3 goes, the first cartridge returns and 5 TB are stranded on the second.
    """
    found = on_tape([run("full", "FREQ=DAILY")], {"ladder": {"recent": [{"keep": {"points": 3}}]}}, {"cartridge": "25 TB"})
    in_use, stranded = cartridges(found)
    assert stranded[:4].tolist() == [0, 0, 0, 10e12]
    assert in_use[:7].tolist() == [1, 1, 2, 2, 2, 2, 2]
    used = cartridges_of(found.design.targets[0].model_copy(update={"slots": 5}), found.holdings, found.frame)
    assert (used.free_at_end()[:3].tolist(), used.slots) == ([4, 4, 3], 5)
    assert stranded[4:7].tolist() == [20e12, 5e12, 15e12]


def test_cartridge_returns_after_its_time() -> None:
    keeping = {"ladder": {"recent": [{"keep": {"points": 1}}]}}
    at_once = on_tape([run("full", "FREQ=DAILY")], keeping, {"cartridge": "10 TB"})
    later = on_tape([run("full", "FREQ=DAILY")], keeping, {"cartridge": "10 TB", "returns_after": "P3D"})
    assert cartridges(at_once)[0][50] == 1
    assert cartridges(later)[0][50] == 4
    assert cartridges(later)[1][50] == 30e12


def test_rotation_writes_over_its_own_tapes() -> None:
    found = on_tape([run("full", "FREQ=DAILY")], {"rotation": {"scheme": "fifo", "sets": 3}}, {"cartridge": "5 TB"})
    in_use, stranded = cartridges(found)
    assert (in_use[20:].max(), in_use[20:].min(), stranded.max()) == (6, 6, 0)


@pytest.mark.parametrize(
    ("copy", "message"),
    [
        ({"rotation": {"scheme": "fifo"}}, r"rotation.sets: expected the number of sets for fifo, got nothing"),
        ({"rotation": {"scheme": "gfs"}}, r"rotation.weekly_on: expected a weekday such as FR for gfs, got nothing"),
    ],
)
def test_rotation_that_says_too_little_is_refused(copy: dict[str, Any], message: str) -> None:
    with pytest.raises(DesignError, match=message):
        on_tape([run("full", "FREQ=DAILY")], copy, {})


def test_rotation_takes_only_what_can_be_restored_by_itself() -> None:
    with pytest.raises(DesignError, match="rotation: expected sessions that can be restored by themselves"):
        on_tape([run("incremental", "FREQ=DAILY")], {"rotation": {"scheme": "fifo", "sets": 3}}, {})


def devices(placement: str, sizes: list[str], **more: Any) -> tuple[list[list[float]], list[int | None], int | None]:
    """Stored terabytes at the ends of the first days per device, full-on days, and the first day nothing fits."""
    document = design(
        [run("full", "FREQ=WEEKLY;BYDAY=FR"), run("incremental", "FREQ=DAILY")], {"recent": [{"keep": "forever"}]}
    )
    document["targets"][0] |= {"fill_order": placement, **more}
    document["targets"][0]["devices"] = [{"name": f"d{place}", "capacity": size} for place, size in enumerate(sizes)]
    found = forecast(read_design(json.dumps(document)))
    placed = placement_of(found.design.targets[0], found.holdings, found.frame)
    stored = [np.round(one.stored.at_end[:9] / 1e12, 3).tolist() for one in placed.devices]
    return stored, [one.full_on for one in placed.devices], placed.fits_nowhere_on


def test_devices_in_order_even_and_with_the_chain() -> None:
    """A full of 10 TB on 1 January, a Friday, 0.2 TB each day after it, the next full on the eighth day."""
    in_order, full, _ = devices("in-order", ["10.3 TB", "30 TB"])
    assert [day[0] for day in (in_order[0], in_order[1])] == [10, 0]
    assert in_order[0][1:3] == [10.2, 10.2]
    assert in_order[1][1:4] == [0, 0.2, 0.4]
    assert full[0] == 2
    even, _, _ = devices("even", ["20 TB", "22 TB"])
    assert (even[0][:3], even[1][:3]) == ([0, 0.2, 0.4], [10, 10, 10])
    chain, _, nowhere = devices("with-chain", ["11 TB", "11 TB", "5 TB"])
    assert (chain[0][5], chain[1][5], chain[2][5]) == (11.0, 0, 0)
    assert (chain[1][6], chain[1][7]) == (0.2, 10.2)
    assert nowhere == 14


def test_sum_over_devices_is_the_sum_of_the_target() -> None:
    document = design([run("full", "FREQ=DAILY")], {"recent": [{"keep": {"points": 5}}]}, workload={"count": 3})
    document["targets"][0]["devices"] = [{"name": name, "capacity": "90 TB"} for name in "abc"]
    found = forecast(read_design(json.dumps(document)))
    placed = placement_of(found.design.targets[0], found.holdings, found.frame)
    together = np.sum([one.stored.at_end for one in placed.devices], axis=0)
    assert np.allclose(together, found.targets[0].totals.stored_bytes)
    assert placed.fits_nowhere_on is None


def test_ends_of_sets_that_are_not_written_again_are_open() -> None:
    frame = frame_of(read_design(json.dumps(design([run("full", "FREQ=DAILY")], {}))))
    sessions = frame.begin + DAY * np.arange(4)
    ends = turns_of(Rotation(scheme="fifo", sets=9), sessions, sessions, frame).ends
    assert ends.tolist() == [AFTER_ALL] * 4
