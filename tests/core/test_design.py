"""The design document: canonical forms, and faults that name their place."""

import json
from typing import Any

import pytest
from hypothesis import given, settings

from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of, read_design
from tests.core.strategies import designs
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design


def faults(change: Any) -> list[str]:
    document = design(WEEKLY_FULL, NEWEST_14)
    change(document)
    with pytest.raises(DesignError) as caught:
        read_design(json.dumps(document))
    return [str(fault) for fault in caught.value.faults]


@pytest.mark.parametrize(
    ("change", "expected"),
    [
        (lambda d: d.update(colour="red"), "colour: unknown field"),
        (lambda d: d.update(years="1"), 'years: expected a whole number, got "1"'),
        (lambda d: d.update(years=True), "years: expected a whole number, got true"),
        (
            lambda d: d.update(starts="2027-02-30"),
            'starts: expected a date of the calendar such as 2027-01-31, got "2027-02-30"',
        ),
        (lambda d: d.update(timezone="Mars/Base"), 'timezone: expected an IANA time zone such as Europe/Oslo, got "Mars/Base"'),
        (lambda d: d["targets"][0].pop("site"), "targets[0].site: expected this field, got nothing"),
        (lambda d: d["workloads"][0].update(size="ten"), 'workloads[0].size: expected a size such as "12 TB"'),
        (lambda d: d["workloads"][0].update(size="-1 TB"), "workloads[0].size: expected a size that is not negative"),
        (
            lambda d: d["workloads"][0].update(hot_percent=1),
            "workloads[0]: expected a daily_change_percent of at most hot_percent (1), got 2",
        ),
        (
            lambda d: d["ladders"][0]["recent"][0].update(keep="14 days"),
            'ladders[0].recent[0].keep: expected an ISO 8601 duration such as P14D, P5W, P12M, P7Y or PT6H, got "14 days"',
        ),
        (
            lambda d: d["ladders"][0]["recent"][0].update(keep={"points": 1, "x": 2}),
            "ladders[0].recent[0].keep.x: unknown field",
        ),
        (
            lambda d: d["ladders"][0].update(rungs=[{"name": "recent", "every": "day", "keep": "P1D"}]),
            "ladders[0].rungs[0].name: expected a name",
        ),
        (
            lambda d: d["ladders"][0].update(rungs=[{"name": "a", "every": "week", "on": "1SU", "keep": "P1D"}]),
            'ladders[0].rungs[0]: on: expected a weekday such as SU, got "1SU"',
        ),
        (
            lambda d: d["ladders"][0].update(
                rungs=[
                    {"name": "a", "every": "week", "pick": "last", "keep": "P1D"},
                    {"name": "b", "every": "year", "from": "a", "keep": "P1Y"},
                ]
            ),
            "ladders[0].rungs[1].from: expected self-contained, any, or the name of an earlier rung that picks first",
        ),
        (
            lambda d: d["cadences"][0]["runs"][0].update(rrule="FREQ=OFTEN"),
            "cadences[0].runs[0].rrule: expected FREQ to be one of",
        ),
        (lambda d: d["cadences"][0]["runs"][0].update(once=["2027-01-01T10:00"]), "cadences[0].runs[0]: expected either rrule"),
        (
            lambda d: d["cadences"][0]["runs"].append(d["cadences"][0]["runs"][0]),
            "cadences[0].runs[2].id: expected an id of its own",
        ),
        (
            lambda d: d["routes"][0]["copies"][0].update(target="nowhere"),
            "routes[0].copies[0].target: expected the id of a target",
        ),
        (lambda d: d["routes"][0]["copies"][0].pop("cadence"), "routes[0].copies[0]: expected a cadence, or from"),
        (lambda d: d["routes"][0]["copies"][0].update(lock={"for": "P1"}), "routes[0].copies[0].lock.for: expected"),
        (lambda d: d["workloads"].append(d["workloads"][0]), "workloads[1].id: expected an id of its own"),
        (
            lambda d: d["cadences"][0]["runs"][0].update(kind="snapshot"),
            "routes[0].copies[0].cadence: expected a cadence without snapshots",
        ),
    ],
)
def test_each_fault_names_its_place(change: Any, expected: str) -> None:
    found = faults(change)
    assert any(fault.startswith(expected) for fault in found), found


def test_all_faults_are_told_at_once() -> None:
    def spoil(document: dict[str, Any]) -> None:
        document["years"] = 0
        document["workloads"][0]["size"] = "big"
        document["extra"] = 1

    assert len(faults(spoil)) == 3


@settings(max_examples=60)
@given(document=designs())
def test_canonical_form_reads_back_the_same(document: dict[str, Any]) -> None:
    first = read_design(json.dumps(document))
    again = design_of(first.canonical())
    assert again == first
    assert json.dumps(again.canonical()) == json.dumps(first.canonical())


def test_values_reach_one_form() -> None:
    document = design(WEEKLY_FULL, NEWEST_14)
    document["workloads"][0] |= {"size": "12.50TB", "log_per_day": 5e9}
    document["targets"][0] |= {"used_otherwise": "1 TB"}
    found = read_design(json.dumps(document)).canonical()
    assert found["workloads"][0]["size"] == "12.5 TB"  # type: ignore[index]
    assert found["workloads"][0]["log_per_day"] == 5_000_000_000  # type: ignore[index]
    assert found["targets"][0]["used_otherwise"] == {"size": "1 TB"}  # type: ignore[index]


def test_demo_is_sound_and_has_what_it_promises() -> None:
    demo = read_design(DEMO.read_bytes())
    assert 38 <= len(demo.workloads) <= 45
    assert len(demo.targets) >= 7
