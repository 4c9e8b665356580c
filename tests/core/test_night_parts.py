"""Nights followed in stretches, from quiet instants, or after an edit, are the nights that following all of them gives."""

import copy
import json
import math
from dataclasses import asdict
from typing import Any

import pytest

from shelf_core.design.reading import design_of
from shelf_core.engine.divided import in_one_go
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.nights import parts as stretches
from shelf_core.nights.followed import NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.parts import NightsWork
from shelf_core.nights.picture import AllNights, NightPicture, all_nights, copy_ends, night_of
from shelf_core.nights.quiet import BEGINNING
from shelf_core.nights.sums import sums_of
from shelf_core.nights.tables import late_ones, lateness
from shelf_core.nights.unchanged import unchanged_until
from tests.core.test_night_balance import slowed
from tests.designs import ROOT

NAMES = ["one-disk", "shared-then-cold", "three-copies", "chains-and-machines"]


def in_stretches(result: Forecast, monkeypatch: pytest.MonkeyPatch) -> AllNights:
    """All nights in stretches of 40 days."""
    monkeypatch.setattr(stretches, "STRETCH_DAYS", 40)
    work = NightsWork(result)
    assert len(work) > 5
    return in_one_go(work)


def alike(one: NightPicture, other: NightPicture) -> None:
    """Two pictures of a night say the same, instants to a thousandth of a second."""
    assert [(b.route, b.copy, b.late) for b in one.bundles] == [(b.route, b.copy, b.late) for b in other.bundles]
    for bundle, same in zip(one.bundles, other.bundles, strict=True):
        said = [(bar.workload, bar.machine, bar.kind, bar.late, bar.too_early) for bar in bundle.bars]
        assert said == [(bar.workload, bar.machine, bar.kind, bar.late, bar.too_early) for bar in same.bars]
        times = [(bar.asked, bar.started, bar.ended) for bar in bundle.bars]
        for mine, theirs in zip(times, [(bar.asked, bar.started, bar.ended) for bar in same.bars], strict=True):
            assert mine == pytest.approx(theirs, abs=1e-3)


@pytest.mark.parametrize("name", NAMES)
def test_stretches_put_together_are_the_whole(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    result = forecast(design_of(slowed(name)))
    parts = in_stretches(result, monkeypatch)
    whole = all_nights(result, sums_of(follow(result, NightSpan(begin=math.inf))), BEGINNING)
    mine, theirs = asdict(parts.years), asdict(whole.years)
    for one, other in zip(mine["copies"], theirs["copies"], strict=True):
        for field in ("transfers", "late", "first_late"):
            assert one[field] == other[field]
        for end, same in zip(one["last_end_hours"], other["last_end_hours"], strict=True):
            assert end == same or end == pytest.approx(same, abs=1e-5)
    for one, other in zip(mine["loads"], theirs["loads"], strict=True):
        assert (one["resource"], one["from_day"]) == (other["resource"], other["from_day"])
        assert one["asked_bytes"] == pytest.approx(other["asked_bytes"], rel=1e-9)
    assert mine["findings"] == theirs["findings"]


def test_stretches_that_never_meet_are_followed_in_one_go(monkeypatch: pytest.MonkeyPatch) -> None:
    """A disk that is asked for more than it takes is never idle: no stretch can begin so."""
    plain = slowed("one-disk")
    for target in plain["targets"]:
        target["write_speed"] = "100 kB/s"
    result = forecast(design_of(plain))
    found = in_stretches(result, monkeypatch)
    whole = all_nights(result, sums_of(follow(result, NightSpan(begin=math.inf))), BEGINNING)
    assert asdict(found.years) == asdict(whole.years)
    assert any(one.kind == "never catches up" for one in found.years.findings)


@pytest.mark.parametrize("name", NAMES)
def test_a_night_from_a_quiet_instant_is_the_night(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    result = forecast(design_of(slowed(name)))
    quiet = in_stretches(result, monkeypatch).quiet
    assert len(quiet.instants) > 50
    for place in (100, 211, 300):
        day = result.day(place)
        alike(night_of(result, day, quiet), night_of(result, day))


@pytest.mark.parametrize("name", NAMES)
def test_the_late_are_the_same_one_by_one_and_all_at_once(name: str) -> None:
    followed = follow(forecast(design_of(slowed(name))))
    assert late_ones(followed).tolist() == [bool(lateness(followed, number)) for number in range(len(followed.asked))]


def _edited(plain: dict[str, Any], change: str) -> dict[str, Any]:
    edited = copy.deepcopy(plain)
    if change == "a step of size in June":
        day = f"{int(plain['starts'][:4])}-06-10"
        edited["workloads"][0].setdefault("steps", []).append({"on": day, "add": "3 TB"})
    if change == "a speed":
        edited["targets"][0]["write_speed"] = "50 MB/s"
    if change == "a price":
        edited["targets"][0]["prices"] = {"capacity_tb_month": 3}
    return edited


@pytest.mark.parametrize("change", ["a step of size in June", "a speed", "a price"])
def test_what_was_followed_holds_until_something_changes(change: str, monkeypatch: pytest.MonkeyPatch) -> None:
    plain = slowed("one-disk")
    before, now = forecast(design_of(plain)), forecast(design_of(_edited(plain, change)))
    until = unchanged_until(before, now)
    assert unchanged_until(before, before) == math.inf
    expected = {"a speed": (0.0, 0.0), "a price": (math.inf, math.inf), "a step of size in June": (100 * 86_400, 200 * 86_400)}
    low, high = expected[change]
    assert low <= until <= high
    quiet = in_stretches(before, monkeypatch).quiet
    for place in (60, 150, 260):
        day = now.day(place)
        known = type(quiet)(quiet.lanes, tuple(one for one in quiet.instants if one.instant <= until))
        alike(night_of(now, day, known), night_of(now, day))


def test_a_crowded_night_shows_every_copy_and_counts_what_it_does_not_draw(monkeypatch: pytest.MonkeyPatch) -> None:
    """Beside the same night drawn whole: each copy has as many bars, and late ones and last ends stay what they are."""
    result = forecast(design_of(json.loads((ROOT / "demo" / "lindmoor.json").read_text())))
    whole = night_of(result, "2027-01-02")
    monkeypatch.setattr("shelf_core.nights.picture.MOST_BARS", 40)
    few = night_of(result, "2027-01-02")
    assert whole.left_out == 0
    assert sum(len(one.bars) for one in few.bundles) <= 40
    assert few.left_out == sum(len(one.bars) for one in whole.bundles) - sum(len(one.bars) for one in few.bundles) > 0
    assert copy_ends(few) == copy_ends(whole)
    assert all(one.bars for one in few.bundles)
    assert sum(one.late for one in whole.bundles) > 0
