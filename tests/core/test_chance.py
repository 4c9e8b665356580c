"""What is not known: draws against closed forms and scipy, bands against whole runs of the engine."""

import json
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats

from shelf_core.chance.bands import bands_of
from shelf_core.chance.draws import drawn
from shelf_core.chance.nodes import nodes_for
from shelf_core.chance.samples import samples_of
from shelf_core.cost.cost import TB, cost_of
from shelf_core.cost.months import months_of
from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of, read_design
from shelf_core.engine.watching import Stopped
from shelf_core.forecast.forecast import Forecast, forecast
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design, run

DAILY = [run("full", "FREQ=DAILY", "00:00")]
NEWEST_1 = {"recent": [{"keep": {"points": 1}}]}
SEED = 20270101


def unknown(**ranges: Any) -> list[dict[str, Any]]:
    return [{"id": "all", "workloads": {"ids": ["data"]}, **ranges}]


def lognormal_growth(low: float = 0.0, high: float = 21.0) -> Forecast:
    """One full a day of a source that grows by 10 % a year, a lognormal 1 + g with its tenths at `low` and `high`."""
    document = design(DAILY, NEWEST_1, workload={"annual_growth_percent": 10}, years=5)
    document["unknowns"] = unknown(annual_growth_percent={"low": low, "high": high})
    return forecast(design_of(document))


def test_lognormal_growth_has_the_quantiles_of_its_closed_form() -> None:
    """S(t) = 10 TB · (1 + g)^(t/365) with 1 + g lognormal is lognormal itself: quantiles of scipy.stats.lognorm.

    With low and high at equal factors of the median both pieces are one lognormal. 20,000 draws, quantiles within 3 standard
    errors of a sample quantile (order statistics, Serfling, Approximation Theorems, 2.3.3, from memory).
    """
    result = lognormal_growth(low=100 * (1.1 / 1.1 - 1), high=100 * (1.1 * 1.1 - 1))
    count = 20_000
    sample = samples_of(result, 0, drawn(result.design, count, SEED)).stored_bytes
    sigma_of_growth = np.log(1.1) / stats.norm.ppf(0.9)
    for day in (365, 1000, 1800):
        years = day / 365
        law = stats.lognorm(s=sigma_of_growth * years, scale=10e12 * 1.1**years)
        for share in (0.1, 0.25, 0.5, 0.75, 0.9):
            wanted = law.ppf(share)
            error = np.sqrt(share * (1 - share) / count) / law.pdf(wanted)
            assert abs(np.quantile(sample[day], share) - wanted) < 3 * error


def test_two_pieces_meet_at_what_is_expected() -> None:
    """A tenth below low, half below the expected value, a tenth above high, however far the two are."""
    document = design(DAILY, NEWEST_1, workload={"daily_change_percent": 1, "reduction": 2})
    document["unknowns"] = unknown(
        daily_change_percent={"low": 0.5, "high": 6}, reduction={"low": 0.9, "high": 1.5, "factors": True}
    )
    draws = drawn(design_of(document), 40_000, SEED)
    for values, low, middle, high in ((draws.change[0], 0.005, 0.01, 0.06), (draws.reduction[0], 0.9, 1.0, 1.5)):
        for at, share in ((low, 0.1), (middle, 0.5), (high, 0.9)):
            # Binomial: three standard deviations of a share of 40,000.
            assert abs((values < at).mean() - share) < 3 * np.sqrt(share * (1 - share) / 40_000)
    assert (draws.growth == 1).all(), "what is known is the same in all draws"


def test_workloads_move_together_as_far_as_is_said() -> None:
    """The correlation of the normal deviates behind two workloads is that of the design (Gaussian copula)."""
    for correlation in (0.0, 0.5, 1.0):
        document = design(DAILY, NEWEST_1, correlation=correlation)
        document["workloads"].append({"id": "more", "site": "here", "size": "1 TB"})
        document["unknowns"] = [
            {"id": "all", "workloads": {"ids": ["data", "more"]}, "annual_growth_percent": {"low": -10, "high": 12}}
        ]
        draws = drawn(design_of(document), 20_000, SEED)
        one, other = (stats.norm.ppf(stats.rankdata(row) / 20_001) for row in draws.growth)
        assert np.corrcoef(one, other)[0, 1] == pytest.approx(correlation, abs=0.02)


def test_draws_are_the_same_for_a_seed() -> None:
    result = lognormal_growth()
    again = [drawn(result.design, 1000, seed).growth for seed in (1, 1, 2)]
    assert (again[0] == again[1]).all()
    assert (again[0] != again[2]).any()


def with_values(design: Design, growth: Any, change: Any, reduction: Any) -> Design:
    """The design with the values of one draw written into its workloads, those that are added later among them."""
    workloads = []
    for place, one in enumerate(design.workloads):
        factor = float(reduction[place])
        values = {
            "annual_growth_percent": float((growth[place] - 1) * 100),
            "daily_change_percent": float(change[place] * 100),
            "reduction": one.reduction * factor,
            "change_reduction": None if one.change_reduction is None else one.change_reduction * factor,
        }
        workloads.append(one.model_copy(update=values))
    return design.model_copy(update={"workloads": workloads, "unknowns": []})


def assert_like_whole_runs(document: dict[str, Any], draws_checked: int, tolerance: float) -> None:
    result = forecast(design_of(document))
    draws = drawn(result.design, 40, SEED)
    samples = [samples_of(result, place, draws) for place in range(len(result.targets))]
    for number in range(draws_checked):
        whole = forecast(
            with_values(result.design, draws.growth[:, number], draws.change[:, number], draws.reduction[:, number])
        )
        for sample, one in zip(samples, whole.targets, strict=True):
            most = max(1.0, float(one.totals.peak_bytes.max()))
            apart = np.abs(sample.stored_bytes[:, number] - one.totals.stored_bytes).max()
            assert apart < tolerance * most, (one.target.id, number, apart / most)
            # The peak is taken at the instant of the expected peak: never above the true one, and near it.
            assert (sample.peak_bytes[:, number] - one.totals.peak_bytes).max() < tolerance * most
            assert_like_whole_months(sample.byte_seconds[:, number], whole, one.target.id, tolerance)
            assert abs(sample.peak_bytes[:, number].max() - one.totals.peak_bytes.max()) < max(tolerance, 2e-3) * most


def assert_like_whole_months(byte_seconds: Any, whole: Forecast, target: str, tolerance: float) -> None:
    """Stored bytes integrated over months, as the bill of a whole run has them; snapshots only from the ends of days."""
    seconds = months_of(whole.frame).seconds
    exact = next(one.tb_months for one in cost_of(whole).targets if one.target == target) * TB * seconds
    is_snapshot = next(one.media == "snapshot" for one in whole.design.targets if one.id == target)
    # What a group has in common is taken as the largest of the month's amounts, where a bill takes the largest at each instant.
    in_common = any(one.alike for one in whole.design.workloads)
    allowed = 0.05 if is_snapshot else max(tolerance, 2e-4 if in_common else 2e-5)
    apart = np.abs(byte_seconds - exact).max()
    assert apart <= allowed * max(1.0, exact.max()), (target, apart / exact.max())


@pytest.mark.parametrize("packing", ["separate", "shared"])
@pytest.mark.parametrize("pattern", ["scattered", "fresh"])
@pytest.mark.parametrize("reclaim", [None, {"rrule": "FREQ=WEEKLY;BYDAY=WE", "at": ["09:00"]}])
def test_each_draw_is_a_run_of_the_engine(packing: str, pattern: str, reclaim: Any) -> None:
    """Interpolated draws against the engine with the drawn values written into the design."""
    workload = {"annual_growth_percent": 8, "daily_change_percent": 1, "change_pattern": pattern, "reduction": 1.6}
    document = design(WEEKLY_FULL, NEWEST_14, packing=packing, workload=workload, years=3)
    document["workloads"][0] |= {"change_reduction": 2.0, "log_per_day": "10 GB"}
    document["workloads"].append({**document["workloads"][0], "id": "more", "steps": [{"on": "2028-05-01", "add": "3 TB"}]})
    document["routes"][0]["workloads"]["ids"].append("more")
    document["targets"][0]["reclaim"] = reclaim
    document["unknowns"] = [
        {
            "id": "all",
            "workloads": {"ids": ["data", "more"]},
            "annual_growth_percent": {"low": -4, "high": 25},
            "daily_change_percent": {"low": 0.4, "high": 3},
            "reduction": {"low": 0.8, "high": 1.3, "factors": True},
        }
    ]
    # Curves with corners are followed from node to node. Where space is given back later, the sweeps at which the sum of a
    # shared target falls are those of what is expected, which a draw may have otherwise.
    exact = pattern == "scattered" and not (reclaim and packing == "shared")
    assert_like_whole_runs(document, 6, 1e-5 if exact else 2e-3)


def test_machines_with_much_in_common_and_snapshots_are_drawn_too() -> None:
    document = design(DAILY, NEWEST_14, packing="shared", years=2)
    document["workloads"] = [
        {
            "id": f"machine-{at}",
            "site": "here",
            "size": f"{40 + at} GB",
            "count": 3,
            "daily_change_percent": 1 + at,
            "alike": {"group": "same", "percent": 50},
        }
        for at in range(3)
    ]
    document["routes"][0]["workloads"] = {"ids": [one["id"] for one in document["workloads"]]}
    document["unknowns"] = [
        {
            "id": "all",
            "workloads": document["routes"][0]["workloads"],
            "annual_growth_percent": {"low": -10, "high": 30},
            "daily_change_percent": {"low": 0.5, "high": 2, "factors": True},
        }
    ]
    assert_like_whole_runs(document, 6, 1e-5)
    document["targets"][0] |= {"media": "snapshot", "packing": "separate"}
    document["cadences"][0]["runs"] = [run("snapshot", "FREQ=DAILY", "06:00")]
    assert_like_whole_runs(document, 6, 1e-5)


def test_the_demo_s_draws_are_runs_of_the_engine() -> None:
    assert_like_whole_runs(json.loads(DEMO.read_text()), 2, 3e-3)


def test_bands_hold_what_they_say() -> None:
    """Where growth alone is unknown the full-on day follows from the closed form: full once 10 TB (1 + g)^(d/365) at the peak
    of two fulls passes the room. The quantiles of the day are those days for the quantiles of g."""
    document = design(DAILY, NEWEST_1, workload={"annual_growth_percent": 10}, years=5)
    document["unknowns"] = unknown(annual_growth_percent={"low": 0, "high": 21})
    document["targets"][0]["capacity"] = "26 TB"
    result = forecast(design_of(document))
    found = bands_of(result, 5000, SEED)
    (band,) = found.bands

    def full(growth: float) -> float:
        """2 · 10 TB · (1 + g)^(d/365) = 26 TB, one full a day older than the other: a day's growth is no matter here."""
        return 365 * np.log(1.3) / np.log(1 + growth)

    sigma = np.log(1.1) / stats.norm.ppf(0.9)
    middle = full(0.10)
    assert band.full_middle
    assert abs(result.place_of(band.full_middle) - middle) < 30
    fastest = np.exp(np.log(1.1) + sigma * stats.norm.ppf(0.9)) - 1
    assert band.full_low
    assert abs(result.place_of(band.full_low) - full(fastest)) < 25
    slowest = np.exp(np.log(1.3) / 5) - 1  # full on the very last day
    chance = 1 - stats.norm.cdf((np.log(1 + slowest) - np.log(1.1)) / sigma)
    assert band.full_probability == pytest.approx(chance, abs=3 * np.sqrt(chance * (1 - chance) / 5000) + 0.002)
    assert band.full_by_year == sorted(band.full_by_year or [])
    assert (band.full_by_year or [])[-1] == band.full_probability
    assert band.full_high is None or band.full_high > band.full_middle


def test_the_bill_of_each_draw_has_its_own_capacity_and_the_rest_as_expected() -> None:
    """With growth alone unknown and one full at a time, a month costs more exactly where more is stored: its quantiles are the
    closed form's, 10 TB (1 + g)^(t/365) integrated over the month, for the quantiles of g (scipy.stats.lognorm for g)."""
    document = design(DAILY, NEWEST_1, workload={"annual_growth_percent": 10}, years=5)
    document["targets"][0]["prices"] = {"capacity_tb_month": 7, "requests_thousand": 0.5}
    document["unknowns"] = unknown(annual_growth_percent={"low": 0, "high": 21})
    result = forecast(design_of(document))
    found, expected = bands_of(result, 5000, SEED).cost, cost_of(result).targets[0]
    rest = expected.per_month() - expected.by_category["capacity"]
    assert rest.min() > 0
    month = 40
    for growth, at in ((0.0, found.month_low), (0.1, found.month_middle), (0.21, found.month_high)):
        document["workloads"][0]["annual_growth_percent"] = 100 * growth
        capacity = cost_of(forecast(design_of({**document, "unknowns": []}))).targets[0].by_category["capacity"]
        assert at[month] == pytest.approx(capacity[month] + rest[month], rel=0.02)
    assert found.whole_low < float(expected.per_month().sum()) < found.whole_high
    assert sum(found.month_low) <= found.whole_middle <= sum(found.month_high)


def test_swings_are_runs_with_one_assumption_at_its_ends() -> None:
    result = lognormal_growth()
    found = bands_of(result, 1000, SEED)
    (swing,) = found.swings
    for peak, growth in ((swing.peak_at_low, 0.0), (swing.peak_at_high, 21.0)):
        document = design(DAILY, NEWEST_1, workload={"annual_growth_percent": growth}, years=5)
        assert peak == pytest.approx(float(forecast(design_of(document)).targets[0].totals.peak_bytes.max()))
    demo = bands_of(forecast(read_design(DEMO.read_bytes())), 1000, SEED)
    for target in {one.target for one in demo.swings}:
        widths = [one.width for one in demo.swings if one.target == target]
        assert widths == sorted(widths, reverse=True)


def test_unsound_ranges_and_counts_are_refused() -> None:
    result = lognormal_growth()
    with pytest.raises(ValueError, match="expected 1\u202f000 to 5\u202f000 draws, got 10"):
        bands_of(result, 10, 1)
    with pytest.raises(ValueError, match="says what is not known"):
        bands_of(forecast(design_of(design(DAILY, NEWEST_1))), 1000, 1)
    with pytest.raises(DesignError, match="expected a range that holds the 10 of data, got 12 to 21"):
        bands_of(lognormal_growth(low=12), 1000, 1)
    for wrong, words in (
        ({"annual_growth_percent": {"low": 5, "high": 2}}, "expected a low of at most high"),
        ({"reduction": {"low": 1.2, "high": 2, "factors": True}}, "expected factors of which low is at most 1"),
        ({"daily_change_percent": {"low": 0, "high": 2}}, "daily_change_percent"),
    ):
        document = design(DAILY, NEWEST_1)
        document["unknowns"] = unknown(**wrong)
        with pytest.raises(DesignError, match=words):
            design_of(document)
    document["unknowns"] = [{"id": "x", "workloads": {"ids": ["nobody"]}}]
    with pytest.raises(DesignError, match="expected the id of a workload"):
        design_of(document)


def test_drawing_is_watched_and_stopped() -> None:
    def watch(done: int, _of: int) -> None:
        if done == 1:
            raise Stopped

    with pytest.raises(Stopped):
        bands_of(lognormal_growth(), 1000, 1, watch=watch)


@settings(max_examples=40, deadline=None)
@given(st.floats(0.05, 3), st.lists(st.floats(-1, 1), min_size=14, max_size=60, unique=True), st.integers(10, 14))
def test_nodes_follow_smooth_curves(steep: float, places: list[float], count: int) -> None:
    """Chebyshev interpolation of exp on an interval: the error bound 2 (s/2)^n / n! of the textbook (from memory)."""
    at = np.array(places)
    nodes = nodes_for(at, count)
    values = np.exp(steep * nodes.values)
    bound = 4 * (steep / 2) ** count / np.prod(np.arange(1.0, count + 1)) * np.exp(steep) + 1e-12
    assert np.abs(values @ nodes.weights - np.exp(steep * at)).max() <= bound


def test_few_values_are_nodes_themselves() -> None:
    nodes = nodes_for(np.array([[3.0, 1.0], [1.0, 2.0]]), 5)
    assert nodes.values.tolist() == [1, 2, 3]
    assert (nodes.values @ nodes.weights).tolist() == [3, 1, 1, 2]
