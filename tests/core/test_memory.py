"""What is remembered: results that are those of a fresh run, whatever was asked before, in so many bytes and no more."""

import copy
import json
from collections.abc import Iterator
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from shelf_core.cost.cost import cost_of
from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of
from shelf_core.engine.memory import Memory, bytes_of_all
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.series import moved_each_day
from tests.core.strategies import designs
from tests.designs import DEMO

OTHER: dict[str, list[Any]] = {
    "packing": ["separate", "shared"],
    "lock": ["none", "liftable", "final"],
    "minimum_days": [0, 4, 20],
    "capacity": ["3 TB", "90 TB"],
    "slots": [1, 5],
    "batch_closes": ["run", "week", "full"],
    "returns_after": ["P1D", "P9D"],
    "size": ["700 GB", "3 TB"],
    "count": [1, 7],
    "annual_growth_percent": [0, 40],
    "daily_change_percent": [0, 1, 5],
    "reduction": [1, 2],
    "log_per_day": ["9 GB"],
    "until": ["2027-04-10", "2027-11-20"],
    "kind": ["full", "incremental", "synthetic"],
    "rrule": ["FREQ=DAILY", "FREQ=WEEKLY;BYDAY=WE"],
    "at": [["03:00"], ["00:00", "12:00"]],
    "every": ["day", "week", "month"],
    "pick": ["first", "last"],
    "keep": ["P6D", "forever"],
    "floor": [0, 2],
    "logs": ["P2D"],
    "delay": ["PT0S", "P2D"],
    "sweep": ["daily", "with-runs"],
    "after": ["P0D", "P5D"],
    "which": ["all", "rungs"],
    "as": ["full", "chain"],
    "keep_source": [True, False],
    "skip_if_short": [True, False],
    "for": ["P3D", "P3W", "kept"],
    "mode": ["liftable", "final"],
    "sets": [1, 4],
    "released": ["2027-05-01"],
    "placed": ["2027-03-25", "2027-10-28"],
    "taken_to": ["2027-12-31"],
    "week_starts": ["MO", "SU"],
    "timezone": ["UTC", "Europe/Oslo"],
    "starts": ["2027-01-01", "2027-03-20"],
    "offline": [[["2027-03-25", "2027-04-20"]]],
    "take": ["all", {"kinds": ["full"]}],
    "site": ["here", "there"],
}
"""Other values by the name of a field; where one does not fit, the edit is refused and another is tried."""


def places(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """The paths of all fields of a document that OTHER has values for."""
    pairs = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for name, held in pairs:
        if name in OTHER:
            yield (*path, name)
        yield from places(held, (*path, name))


def with_value(document: dict[str, Any], path: tuple[Any, ...], value: Any) -> dict[str, Any]:
    changed = copy.deepcopy(document)
    here: Any = changed
    for part in path[:-1]:
        here = here[part]
    here[path[-1]] = value
    return changed


def sums(found: Forecast, memory: Memory) -> list[np.ndarray]:
    cost = cost_of(found, memory)
    each = [(one.totals.points, one.totals.stored_bytes, one.totals.peak_bytes) for one in found.targets]
    moved = [moved_each_day(found, one.target.id) for one in found.targets]
    return [*(column for columns in each for column in columns), *moved, *(one.per_month() for one in cost.targets)]


def priced(document: dict[str, Any]) -> dict[str, Any]:
    prices = {"capacity_tb_month": 5, "requests_thousand": 1, "retrieval_tb": 3, "traffic_tb": 2}
    tape = {"cartridge": "2 TB", "slots": 3, "batch_closes": "week", "returns_after": "P5D"}
    targets = [
        {**one, "prices": prices} | (tape if one["media"] == "tape" and one.get("packing") != "shared" else {})
        for one in document["targets"]
    ]
    return {**document, "sites": [{"id": "here"}, {"id": "there"}], "targets": targets}


@settings(max_examples=40, suppress_health_check=list(HealthCheck))
@given(document=designs().map(priced), data=st.data())
def test_edits_of_single_fields_through_one_memory_equal_a_fresh_run(document: dict[str, Any], data: st.DataObject) -> None:
    """Each result is kept by all that it depends on: a field that a key forgot would bring back what was there before it."""
    memory = Memory()
    forecast(design_of(document), memory)
    for _ in range(6):
        path = data.draw(st.sampled_from(list(places(document))))
        changed = with_value(document, path, data.draw(st.sampled_from(OTHER[path[-1]])))
        try:
            design = design_of(changed)
            fresh = forecast(design)
        except DesignError:
            continue
        document = changed
        remembered, again = sums(forecast(design, memory), memory), sums(fresh, Memory())
        for one, other in zip(remembered, again, strict=True):
            np.testing.assert_allclose(one, other, rtol=1e-12, atol=1e-3)


def test_memory_stays_within_its_bytes() -> None:
    """A hundred designs that share nothing, through a memory that holds a few of them."""
    document = json.loads(DEMO.read_text())
    memory = Memory(most_bytes=40 * 2**20)
    for year in range(12):
        forecast(design_of({**document, "starts": f"{2027 + year}-01-01", "years": 3}), memory)
        assert memory.weight() <= 40 * 2**20
    assert memory.weight() > 10 * 2**20


def test_what_is_asked_for_again_is_kept_and_what_is_not_goes() -> None:
    memory = Memory(most_bytes=25 * 8_200)
    made: list[int] = []

    def array(number: int) -> np.ndarray:
        made.append(number)
        return np.zeros(1_000)

    for number in range(100):
        memory.get("often", lambda: array(-1))
        memory.get(number, lambda number=number: array(number))  # type: ignore[misc]
    assert made == [-1, *range(100)]
    memory.get(99, lambda: array(99))
    memory.get(0, lambda: array(0))
    assert made[-2:] == [99, 0]


def test_bytes_are_counted_once_for_what_is_shared() -> None:
    shared = np.zeros(1_000_000)
    assert bytes_of_all([shared, [shared], {"a": shared}]) == pytest.approx(8e6, rel=0.001)
    assert bytes_of_all([shared, np.zeros(1_000)], {id(shared)}) == pytest.approx(8e3, rel=0.1)


def test_what_holds_on_to_a_result_is_counted_without_it() -> None:
    """Ten that hold on to one large result fit beside it; counted with it, they would take more than there is."""
    memory = Memory(most_bytes=20_000_000)
    large = memory.get("large", lambda: np.zeros(500_000))
    for number in range(10):
        memory.get(number, lambda: (large, np.zeros(10)))
    assert memory.kept("large") is large
    assert all(memory.kept(number) is not None for number in range(10))


def test_a_copy_that_reads_the_same_as_before_is_not_made_anew() -> None:
    """More recent points on disk are more than tape reads of them, once a week: what lies on tape is what lay there before."""
    document = json.loads(DEMO.read_text())
    longer = copy.deepcopy(document)
    house = next(ladder for ladder in longer["ladders"] if ladder["id"] == "house")
    house["recent"][0]["keep"]["points"] += 1
    memory = Memory()
    before, after = (forecast(design_of(one), memory) for one in (document, longer))
    same = [one.whole is other.whole for one, other in zip(before.holdings, after.holdings, strict=True)]
    on_tape = [before.design.targets[one.target].media == "tape" for one in before.holdings]
    assert any(on_tape)
    assert all(kept for kept, tape in zip(same, on_tape, strict=True) if tape)
    assert not all(same)
    totals = {one.target.id: one.totals for one in before.targets}
    changed = {one.target.id for one in after.targets if one.totals is not totals[one.target.id]}
    assert changed == {"fern-disk", "wall-disk"}
