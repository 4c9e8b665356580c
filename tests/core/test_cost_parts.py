"""Cost told apart by route, workload and tag: it adds up, and a part is what the design would cost with that part alone."""

import json
from typing import Any

import numpy as np
import pytest

from shelf_core.cost.cost import Cost, cost_of
from shelf_core.cost.parts import MOST_WORKLOADS, NO_TAG, PARTS_OF_COST, THE_DESIGN, PartOfCost, cost_by
from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import Forecast, forecast
from tests.designs import ROOT

DEMO: dict[str, Any] = json.loads((ROOT / "demo" / "lindmoor.json").read_text())


def costed(document: dict[str, Any]) -> tuple[Forecast, Cost]:
    result = forecast(design_of(document))
    return result, cost_of(result)


def parts(document: dict[str, Any], by: PartOfCost) -> dict[str, np.ndarray[Any, Any]]:
    return {one.key: one.per_month for one in cost_by(*costed(document), by)}


def house(**target: Any) -> dict[str, Any]:
    """Three workloads on two routes to an object store elsewhere, all by the same rules."""
    prices = {"capacity_tb_month": 20, "requests_thousand": 0.01, "retrieval_tb": 8, "traffic_tb": 50}
    store = {"id": "store", "site": "b", "media": "object", "minimum_days": 60, "prices": prices, **target}
    sizes = {"a": ("2 TB", ["files"]), "b": ("1 TB", ["files", "mail"]), "c": ("5 TB", [])}
    copy = {"id": "far", "target": "store", "cadence": "c", "ladder": "l"}
    return {
        "format": "rested-shelf-design",
        "version": 2,
        "name": "House",
        "timezone": "UTC",
        "starts": "2027-01-01",
        "years": 2,
        "sites": [{"id": "a"}, {"id": "b"}],
        "targets": [store],
        "workloads": [
            {"id": name, "site": "a", "size": size, "tags": tags, "daily_change_percent": 2, "annual_growth_percent": 10}
            for name, (size, tags) in sizes.items()
        ],
        "cadences": [{"id": "c", "runs": [{"id": "full", "kind": "full", "rrule": "FREQ=WEEKLY;BYDAY=SU", "at": ["22:00"]}]}],
        "ladders": [{"id": "l", "recent": [{"keep": {"points": 3}}]}],
        "routes": [
            {"id": "one", "workloads": {"ids": ["a", "b"]}, "copies": [copy]},
            {"id": "two", "workloads": {"ids": ["c"]}, "copies": [copy]},
        ],
    }


@pytest.mark.parametrize("by", PARTS_OF_COST)
def test_the_parts_of_the_demo_add_up_to_all_of_it(by: PartOfCost) -> None:
    result, cost = costed(DEMO)
    told = cost_by(result, cost, by)
    assert np.sum([one.per_month for one in told], axis=0) == pytest.approx(cost.per_month(), rel=1e-9)
    sums = [float(one.per_month.sum()) for one in told]
    assert sums == sorted(sums, reverse=True)
    assert all((one.per_month >= -1e-6).all() for one in told)
    assert len(told) > 5


@pytest.mark.parametrize("packing", ["separate", "shared"])
def test_a_workload_costs_what_the_design_costs_with_it_alone(packing: str) -> None:
    """Where nothing is bought in whole pieces and nothing is in common: a whole run of each by itself, apart from the sharing."""
    document = house(packing=packing)
    if packing == "shared":
        document["targets"][0]["minimum_days"] = 0  # what goes early is divided by what is stored, which is chosen
    found = parts(document, "workload")
    for kept in ("a", "b", "c"):
        alone = house(packing=packing) | {"workloads": [one for one in document["workloads"] if one["id"] == kept]}
        alone["targets"] = document["targets"]
        alone["routes"] = [
            {**one, "workloads": {"ids": [kept]}} for one in document["routes"] if kept in one["workloads"]["ids"]
        ]
        whole = costed(alone)[1].per_month()
        if packing == "shared":
            assert found[kept] == pytest.approx(whole, rel=1e-9)
        else:
            assert found[kept].sum() == pytest.approx(whole.sum(), rel=0.02)
    assert set(found) == {"a", "b", "c"}


def test_capacity_on_separate_packing_is_each_one_s_own_to_the_cent() -> None:
    document = house(minimum_days=0, prices={"capacity_tb_month": 20})
    found = parts(document, "route")
    for route in document["routes"]:
        alone = {**document, "routes": [route]}
        assert found[route["id"]] == pytest.approx(costed(alone)[1].per_month(), rel=1e-12)


def test_workloads_with_the_same_tags_are_one_part() -> None:
    found, by_workload = parts(house(), "tag"), parts(house(), "workload")
    assert found["files"] == pytest.approx(by_workload["a"])
    assert found["files, mail"] == pytest.approx(by_workload["b"])
    assert found[NO_TAG] == pytest.approx(by_workload["c"])


def test_what_costs_beside_storage_is_paid_by_the_workloads_it_is_for() -> None:
    """12 a year for each workload tagged files is 1 a month; 100 a month once is nobody's own."""
    document = house(prices={})
    document["costs"] = [
        {"id": "licence", "amount": 12, "every": "year", "for": "workload", "workloads": {"tags": ["files"]}},
        {"id": "rent", "amount": 100, "every": "month"},
    ]
    found = parts(document, "workload")
    assert {name: set(np.round(amounts, 9)) for name, amounts in found.items()} == {
        "a": {1.0},
        "b": {1.0},
        THE_DESIGN: {100.0},
    }
    assert {name: round(float(amounts[0]), 9) for name, amounts in parts(document, "route").items()} == {THE_DESIGN: 102.0}


def test_machines_that_come_later_are_of_their_workload() -> None:
    document = house()
    document["workloads"][0]["count_steps"] = [{"on": "2028-01-01", "add": 3}]
    found = parts(document, "workload")
    assert set(found) == {"a", "b", "c"}
    assert found["a"][20] > 3 * parts(house(), "workload")["a"][20]


def test_too_many_to_be_told_apart_one_by_one_are_refused() -> None:
    document = house()
    document["workloads"] = [{"id": f"w{at}", "site": "a", "size": "1 GB"} for at in range(MOST_WORKLOADS + 1)]
    document["routes"] = []
    with pytest.raises(ValueError, match="tell apart by tag"):
        cost_by(*costed(document), "workload")
