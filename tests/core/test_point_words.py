"""The sentence of a point: the same on its shelf and in the list, true to the ends that the list gives beside it."""

import json
from typing import Any

import pytest

from shelf_core.calendar.zones import local_second
from shelf_core.design.reading import read_design
from shelf_core.engine.retention.states import DUE, KEPT, LOCKED, NEEDED
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.point_words import Stay, why_it_stays
from shelf_core.forecast.points import PointRow, points_on
from shelf_core.forecast.spines import spines_on
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design, run

DAILY = [run("full", "FREQ=DAILY")]


def of(document: dict[str, Any]) -> Forecast:
    return forecast(read_design(json.dumps(document)))


def by_taken(result: Forecast, day: str) -> dict[str, PointRow]:
    return {row.taken: row for row in points_on(result, day)}


def test_a_chain_says_which_point_needs_the_one_before() -> None:
    rows = by_taken(of(design(WEEKLY_FULL, NEWEST_14)), "2027-06-30")
    oldest = rows["2027-06-12T22:00"]
    assert (oldest.state, oldest.needed_by) == ("needed", "2027-06-13T22:00")
    assert oldest.why == (
        "No rule keeps it any longer, but the point of 13 June 2027, 22:00 needs it; it goes on 2 July 2027, 22:00."
    )
    newest = rows["2027-06-30T22:00"]
    assert newest.why == "Kept by recent until 14 July 2027, 22:00; it goes on 16 July 2027, 22:00."


def test_what_goes_as_its_claim_ends_goes_then() -> None:
    rows = by_taken(of(design(DAILY, NEWEST_14)), "2027-06-30")
    assert rows["2027-06-30T12:00"].why == "Kept by recent until 14 July 2027, 12:00; it goes then."


def test_a_lock_that_outlasts_the_ladder_is_named_before_and_after() -> None:
    document = design(DAILY, {"recent": [{"keep": "P3D"}]})
    document["routes"][0]["copies"][0]["lock"] = {"for": "P10D", "mode": "final"}
    rows = by_taken(of(document), "2027-06-30")
    assert rows["2027-06-30T12:00"].why == (
        "Kept by recent until 3 July 2027, 12:00, locked until 10 July 2027, 12:00; it goes on 10 July 2027, 12:00."
    )
    assert rows["2027-06-22T12:00"].why == (
        "No rule keeps it any longer, but it is locked until 2 July 2027, 12:00; it goes on 2 July 2027, 12:00."
    )


def test_what_never_ends_and_what_outlives_the_design_is_said_so() -> None:
    forever = {"recent": [{"keep": {"points": 1}}], "rungs": [{"name": "yearly", "every": "year", "keep": "forever"}]}
    rows = by_taken(of(design(DAILY, forever)), "2027-06-30")
    assert rows["2027-01-01T12:00"].why == "Kept by yearly for good; it does not go within this design."


AT = local_second("2027-06-30T22:00")


@pytest.mark.parametrize(
    ("stay", "words"),
    [
        (Stay(DUE, [], AT, None, AT, None), "No rule keeps it any longer; it goes at the next sweep, 30 June 2027, 22:00."),
        (Stay(DUE, [], AT, None, None, None), "No rule keeps it any longer; it does not go within this design."),
        (Stay(NEEDED, ["weekly"], AT, None, AT, AT), "It has stepped down from here, but the point of 30 June 2027, 22:00 needs it; it goes on 30 June 2027, 22:00."),
        (Stay(LOCKED, ["weekly"], None, AT, None, None), "It has stepped down from here, but it is locked until 30 June 2027, 22:00; it does not go within this design."),
        (Stay(LOCKED, [], AT, None, None, None), "No rule keeps it any longer, but it is locked for good; it does not go within this design."),
        (Stay(KEPT, ["a", "b"], AT, AT, AT, None), "Kept by a and b until 30 June 2027, 22:00; it goes then."),
    ],
    ids=lambda value: value if isinstance(value, str) else "",
)  # fmt: skip
def test_every_way_to_stay_has_its_words(stay: Stay, words: str) -> None:
    assert why_it_stays(stay) == words


@pytest.mark.parametrize("day", ["2027-01-31", "2028-12-31"])
def test_a_spine_says_what_its_rows_say(day: str) -> None:
    result = forecast(read_design(DEMO.read_bytes()))
    said: dict[tuple[str, str, str], list[str]] = {}
    for row in points_on(result, day):
        said.setdefault((row.route, row.copy, row.target), []).append(row.why)
    for shelf in spines_on(result, day):
        rows = said.get((shelf.route, shelf.copy, shelf.target), [])
        assert {spine.why for spine in shelf.spines} <= set(rows)
        assert {spine.state for spine in shelf.spines} <= {"kept", "locked", "needed", "due"}
    assert sum(len(shelf.spines) for shelf in spines_on(result, day)) > 100


def test_spines_stand_from_the_oldest_to_the_youngest() -> None:
    (shelf,) = spines_on(of(design(WEEKLY_FULL, NEWEST_14)), "2027-06-30")
    ages = [spine.age_days for spine in shelf.spines]
    assert ages == sorted(ages, reverse=True)
