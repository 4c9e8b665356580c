"""Reasons: sums that add up, and what rules are worth, from runs of the engine without them."""

import json
from typing import Any

import pytest

from shelf_core.cost.cost import cost_of
from shelf_core.design.faults import DesignError
from shelf_core.design.ladders import KeepPeriods
from shelf_core.design.reading import design_of, read_design
from shelf_core.engine.memory import Memory
from shelf_core.engine.watching import Stopped
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.points import points_on
from shelf_core.forecast.series import detail_series, logical_each_day, moved_each_day
from shelf_core.forecast.unfree import cannot_be_freed, least_each_day
from shelf_core.reasons.keeps import longest_keep, one_month_longer
from shelf_core.reasons.longer import one_more_month
from shelf_core.reasons.marginals import marginals
from shelf_core.reasons.packing import other_packing
from shelf_core.reasons.rules import rules_of, without
from shelf_core.reasons.sums import explain
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design, run

ON = "2028-12-31"
DAILY = [run("full", "FREQ=DAILY")]


@pytest.fixture(scope="module")
def demo() -> Forecast:
    return forecast(read_design(DEMO.read_bytes()))


def small(*arguments: Any, **more: Any) -> Forecast:
    return forecast(design_of(design(*arguments, **more)))


def test_sums_add_up_to_the_list_of_points(demo: Forecast) -> None:
    listed = list(points_on(demo, ON))
    for target in demo.design.targets:
        why = explain(demo, target.id, ON)
        here = [row for row in listed if row.target == target.id and row.kind != "log"]
        assert why.points == sum(row.count for row in here)
        assert sum(one.points for one in why.states) == why.points
        kept = sum(row.count for row in here if row.state == "kept")
        # Each rule once, less what more than one rule claims as often as that is too much.
        too_often = sum((len(one.names) - 1) * one.points for one in why.together)
        assert sum(one.points for one in why.by_rule) - too_often == kept
        assert why.stored_bytes == pytest.approx(sum(row.count * row.stored_bytes for row in listed if row.target == target.id))


def test_sums_of_one_copy_are_a_part_of_those_of_its_target(demo: Forecast) -> None:
    whole = explain(demo, "moss-pool", ON)
    copies = ["files / house", "machines / house", "records / house"]
    parts = [explain(demo, "moss-pool", ON, copy) for copy in copies]
    assert sum(one.points for one in parts) == whole.points
    with pytest.raises(ValueError, match="expected a copy on this target"):
        explain(demo, "moss-pool", ON, "files / nowhere")
    with pytest.raises(KeyError):
        explain(demo, "nowhere", ON)


def test_sentences_say_the_extra_point_at_the_peak() -> None:
    """14 points kept with a weekly full: at most 20 at day's end, 21 before the sweep (common practice, no source)."""
    why = explain(small(WEEKLY_FULL, NEWEST_14), "disk", "2027-06-17")
    assert why.points_at_peak == 21
    assert why.points_after_peak == 14
    assert "21 are there before the sweep: 7 more than at its end." in why.sentences[-1]
    needed = next(one for one in why.states if one.names == ["needed"])
    assert f"{needed.points} only needed by newer ones" in " ".join(why.sentences)


def test_what_a_rule_is_worth_is_what_is_missing_without_it() -> None:
    """The newest 3 daily fulls, and the first of each month for 6: without the rung six points of 10 TB are missing on a
    day on which none of them is among the newest three. Plain arithmetic."""
    ladder = {"recent": [{"keep": {"points": 3}}], "rungs": [{"name": "monthly", "every": "month", "keep": {"periods": 6}}]}
    result = small(DAILY, ladder)
    worth = {one.rule.words: one for one in marginals(result, "2027-12-20")}
    (monthly,) = worth["the first point of each month for 6 months"].differences
    assert (monthly.points, monthly.stored_bytes) == (6, pytest.approx(60e12))
    (newest,) = worth["the newest 3 points"].differences
    # Without it the newest one stays all the same, by the floor.
    assert (newest.points, newest.stored_bytes) == (2, pytest.approx(20e12))
    assert worth["the newest in any case"].differences == []


def test_shares_of_rules_do_not_sum() -> None:
    """Two rules that claim the same: neither is worth anything alone."""
    result = small(DAILY, {"recent": [{"keep": {"points": 5}}, {"keep": {"points": 5}}]})
    assert all(one.differences == [] for one in marginals(result, "2027-06-01"))


def test_a_rung_without_its_claim_still_picks() -> None:
    """What is promoted from a rung stays what it was when that rung claims nothing."""
    rungs = [
        {"name": "weekly", "every": "week", "keep": {"periods": 4}},
        {"name": "monthly", "every": "month", "from": "weekly", "keep": {"periods": 6}},
    ]
    result = small(DAILY, {"recent": [{"keep": {"points": 2}}], "rungs": rungs})
    rule = next(one for one in rules_of(result.design) if one.words.startswith("the first point of each week"))
    other = forecast(without(result.design, rule))

    def months(found: Forecast) -> set[str]:
        return {row.taken for row in points_on(found, "2027-11-20") if "monthly" in row.claims}

    assert months(other) == months(result)
    assert len(months(result)) == 6
    assert other.targets[0].totals.points[-1] < result.targets[0].totals.points[-1]


def test_rules_of_copies_and_holds_are_taken_away_too(demo: Forecast) -> None:
    rules = rules_of(demo.design)
    assert {rule.sort for rule in rules} >= {"recent", "rung", "floor", "lock", "step-down"}
    for rule in rules:
        assert without(demo.design, rule) != demo.design
    lock = next(rule for rule in rules if rule.sort == "lock")
    assert lock.words.startswith("the lock of ")


def test_marginals_are_watched_and_stopped(demo: Forecast) -> None:
    seen: list[tuple[int, int]] = []

    def watch(done: int, of: int) -> None:
        seen.append((done, of))
        if done == 3:
            raise Stopped

    with pytest.raises(Stopped):
        marginals(demo, ON, watch=watch)
    assert seen == [(1, seen[0][1]), (2, seen[0][1]), (3, seen[0][1])]


def test_longest_keep_fits_and_one_more_does_not(demo: Forecast) -> None:
    memory = Memory()
    found = longest_keep(demo, "moss-pool", "pooled", "weekly", "2030-12-31", memory)
    assert found.count
    assert found.full_on
    assert not found.limit

    def full_with(count: int) -> str | None:
        document = demo.design.canonical()
        (ladder,) = (one for one in document["ladders"] if one["id"] == "pooled")  # type: ignore[attr-defined]
        (rung,) = (one for one in ladder["rungs"] if one["name"] == "weekly")
        rung["keep"] = {"periods": count}
        result = forecast(design_of(document))
        place = next(one.full_on for one in result.targets if one.target.id == "moss-pool")
        return None if place is None else result.day(place)

    assert (full_with(found.count) or "9999") > "2030-12-31"
    assert full_with(found.count + 1) == found.full_on
    assert found.keep == KeepPeriods(periods=found.count)


@pytest.mark.parametrize(
    ("keep", "name", "count", "unit", "now"),
    [
        ({"points": 2}, "recent", 6, "point", "2 points"),
        ("P3D", "recent", 6, "day", "3 days"),
        ("PT30H", "recent", 156, "hour", "30 hours"),
        ("P1M2D", "recent", None, "month", "1 month and 2 days"),
        ("forever", "recent 2", None, "month", "for good"),
    ],
)
def test_longest_keep_of_a_recent_rule(keep: Any, name: str, count: int | None, unit: str, now: str) -> None:
    """Daily fulls of 10 TB on 70 TB: six stay, and a seventh comes before the oldest goes. A month never fits.

    Hours end at some midnight's sweep: 156 hours after noon it is midnight, and the next write is at noon.
    """
    recent = [{"keep": keep}] if name == "recent" else [{"keep": "P1D"}, {"keep": keep}]
    document = design(DAILY, {"recent": recent}, workload={"daily_change_percent": 0})
    document["targets"][0]["capacity"] = "70 TB"
    found = longest_keep(forecast(design_of(document)), "disk", "rule", name, "2027-12-31")
    assert (found.count, found.unit, found.now_words) == (count, unit, now)
    with pytest.raises(DesignError, match="expected a rung or recent rule of rule"):
        longest_keep(forecast(design_of(document)), "disk", "rule", "recent 3", "2027-12-31")


def test_longest_keep_says_when_none_or_any_fits() -> None:
    ladder = {"recent": [{"keep": {"points": 2}}], "rungs": [{"name": "monthly", "every": "month", "keep": "P6M"}]}
    for capacity, count, limit in (("15 TB", None, False), ("90 PB", 1800, True), ("75 TB", 4, False)):
        document = design(DAILY, ladder)
        document["targets"][0]["capacity"] = capacity
        found = longest_keep(forecast(design_of(document)), "disk", "rule", "monthly", "2027-12-31")
        assert (found.count, found.limit, found.unit, found.now) == (count, limit, "month", 6)
    document["targets"][0].pop("capacity")
    with pytest.raises(ValueError, match="expected a target with a capacity"):
        longest_keep(forecast(design_of(document)), "disk", "rule", "monthly", "2027-12-31")
    with pytest.raises(DesignError, match="expected a rung of rule"):
        one_month_longer(design_of(document), "rule", "daily")


@pytest.mark.parametrize(
    ("every", "keep", "longer", "words"),
    [
        ("day", {"periods": 14}, {"periods": 44}, "30 days more"),
        ("week", {"periods": 5}, {"periods": 9}, "4 weeks more"),
        ("month", {"periods": 12}, {"periods": 13}, "1 month more"),
        ("year", {"periods": 3}, {"periods": 4}, "1 year more"),
        ("month", "P1Y2M10D", "P1Y3M10D", "a month more"),
        ("month", "P7Y", "P7Y1M", "a month more"),
        ("week", "P90D", "P1M90D", "a month more"),
        ("hour", "PT6H", "P1MT6H", "a month more"),
    ],
)
def test_one_month_longer(every: str, keep: Any, longer: Any, words: str) -> None:
    ladder = {"recent": [{"keep": {"points": 2}}], "rungs": [{"name": "one", "every": every, "keep": keep}]}
    found = one_month_longer(design_of(design(DAILY, ladder)), "rule", "one")
    assert found is not None
    made, said = found
    assert (made.ladders[0].plain()["rungs"][0]["keep"], said) == (longer, words)
    ladder["rungs"][0]["keep"] = "forever"  # type: ignore[index]
    assert one_month_longer(design_of(design(DAILY, ladder)), "rule", "one") is None


def test_one_more_month_costs_what_its_point_costs() -> None:
    """One more monthly full of 10 TB at 2 a TB and month: 20 a month. Plain arithmetic."""
    rungs = [{"name": "monthly", "every": "month", "keep": {"periods": 3}}]
    document = design(DAILY, {"recent": [{"keep": {"points": 1}}], "rungs": rungs}, years=2)
    document["targets"][0]["prices"] = {"capacity_tb_month": 2}
    result = forecast(design_of(document))
    (found,) = one_more_month(result)
    assert found.monthly_cost == pytest.approx(20, rel=0.01)
    rungs[0]["keep"] = {"periods": 4}
    document["ladders"][0]["rungs"] = rungs
    more = cost_of(forecast(design_of(document))).per_month().sum() - cost_of(result).per_month().sum()
    assert found.whole_cost == pytest.approx(more)


def test_other_packing_is_the_same_design_written_so(demo: Forecast) -> None:
    document = json.loads(DEMO.read_text())
    next(one for one in document["targets"] if one["id"] == "wall-pool")["packing"] = "separate"
    assert other_packing(demo.document, "wall-pool") == design_of(document)
    with pytest.raises(DesignError, match="cartridge"):
        other_packing(demo.design, "salt-tape")


def test_least_of_a_day_is_what_nobody_can_free_on_it(demo: Forecast) -> None:
    """The curve of all days and the one from a single day on agree on that day."""
    for target in ("north-bucket", "cold-cellar", "wall-disk"):
        least = least_each_day(demo, target)
        for day in ("2027-03-31", ON, "2033-07-15"):
            assert cannot_be_freed(demo, target, day)[0] == pytest.approx(float(least[demo.place_of(day)]), rel=1e-9, abs=1)


def test_minimum_stay_keeps_what_no_lock_keeps() -> None:
    """One full a day of 10 TB, kept two days on a store that bills 30: what came within 30 days and is still there. A cut on
    any day frees none of the two; they are free 28 days later. Plain arithmetic."""
    document = design(DAILY, {"recent": [{"keep": {"points": 2}}]})
    document["targets"][0] |= {"media": "object", "minimum_days": 30}
    result = forecast(design_of(document))
    held = cannot_be_freed(result, "disk", "2027-06-10")
    assert held[0] == pytest.approx(20e12)
    assert held[28] == pytest.approx(20e12)
    assert held[29] == pytest.approx(10e12)
    assert held[30] == 0
    assert least_each_day(result, "disk")[100] == pytest.approx(20e12)


def test_logical_and_moved_bytes() -> None:
    """Weekly full of 10 TB and six days of 0.2 TB, reduced two to one: they stand for 11.2 TB a week, and half is stored."""
    found = small(WEEKLY_FULL, NEWEST_14, workload={"reduction": 2})
    stored = found.targets[0].totals.stored_bytes
    assert logical_each_day(found, "disk")[100] == pytest.approx(2 * stored[100])
    moved = moved_each_day(found, "disk")
    assert moved[100:107].sum() == pytest.approx(5e12 + 6 * 0.1e12)
    shared = small(WEEKLY_FULL, NEWEST_14, packing="shared")
    # Where blocks are shared each of the 14 points can be read as a whole.
    assert logical_each_day(shared, "disk")[100] == pytest.approx(14 * 10e12)


def test_detail_keeps_its_peaks_when_it_is_thinned(demo: Forecast) -> None:
    one = detail_series(demo, "fern-disk", 120)
    fern = demo.targets[0].totals
    assert len(one.places) <= 125
    assert max(one.peak_bytes) == pytest.approx(float(fern.peak_bytes.max()))
    assert max(one.moved_bytes) == pytest.approx(float(moved_each_day(demo, "fern-disk").max()))
    part = detail_series(demo, "fern-disk", 400, "2028-01-01", "2028-12-31")
    assert part.places == list(range(demo.place_of("2028-01-01"), demo.place_of("2028-12-31") + 1))
    with pytest.raises(ValueError, match="expected a last day after"):
        detail_series(demo, "fern-disk", 100, "2028-12-31", "2028-01-01")
