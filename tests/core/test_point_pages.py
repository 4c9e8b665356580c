"""Pages of the list of points are the list itself, and parts of a target at chosen days are its split."""

import dataclasses

import numpy as np
import pytest

from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import forecast
from shelf_core.forecast.points import Chosen, PointRow, points_on, points_page
from shelf_core.forecast.series import MOST_PARTS, split_series
from shelf_core.forecast.splits import By, split
from tests.designs import DEMO

RESULT = forecast(read_design(DEMO.read_bytes()))
ON = "2029-12-31"
ALL = list(points_on(RESULT, ON))


def rows_of(chosen: Chosen, first: int, most: int) -> list[PointRow]:
    """The rows of a page as whole lists have them: without what restoring takes, which pages alone say of each."""
    rows = points_page(RESULT, ON, chosen, first, most).rows
    assert all(row.restore.startswith("Restoring it ") for row in rows)
    return [dataclasses.replace(row, restore="") for row in rows]


def paged(chosen: Chosen, most: int) -> list[PointRow]:
    found: list[PointRow] = []
    while True:
        rows = rows_of(chosen, len(found), most)
        found += rows
        if not rows:
            assert points_page(RESULT, ON, chosen, 0, 1).total == len(found)
            return found


@pytest.mark.parametrize("most", [997, 100_000])
def test_pages_together_are_the_whole_list(most: int) -> None:
    assert paged(Chosen(), most) == ALL


@pytest.mark.parametrize(
    "chosen",
    [
        Chosen(target="wall-disk"),
        Chosen(route="files", copy="house"),
        Chosen(workload="mail"),
        Chosen(state="needed"),
        Chosen(target="moss-pool", workload="mail", state="kept"),
        Chosen(target="none-such"),
        Chosen(kind="full", run="sat"),
        Chosen(run="no-such-run"),
        Chosen(rule="yearly"),
        Chosen(rule="no-such-rule"),
        Chosen(taken_from="2028-02-01", taken_to="2029-06-30", kind="incremental"),
        Chosen(taken_from="2029-12-31"),
        Chosen(taken_to="2027-01-05"),
    ],
    ids=str,
)
def test_a_choice_is_the_rows_of_the_whole_list_that_fit(chosen: Chosen) -> None:
    expected = [row for row in ALL if fits(row, chosen)]
    assert list(points_on(RESULT, ON, chosen)) == expected
    assert paged(chosen, 5000) == expected
    assert rows_of(chosen, 3, 7) == expected[3:10]


def fits(row: PointRow, chosen: Chosen) -> bool:
    """By the texts of the row alone, in which dates compare as they follow each other."""
    wanted = {name: value for name, value in dataclasses.asdict(chosen).items() if value is not None}
    first, last, rule = (wanted.pop(name, None) for name in ("taken_from", "taken_to", "rule"))
    return (
        all(getattr(row, name) == value for name, value in wanted.items())
        and (rule is None or rule in row.claims)
        and (first is None or row.taken[:10] >= first)
        and (last is None or row.taken[:10] <= last)
    )


def test_a_page_names_the_rules_and_runs_that_it_may_be_narrowed_to() -> None:
    page = points_page(RESULT, ON, Chosen(target="fern-disk", rule="yearly"), 0, 1)
    there = [row for row in ALL if row.target == "fern-disk"]
    assert page.rules == sorted({label for row in there for label in row.claims})
    assert page.runs == sorted({row.run for row in there})


@pytest.mark.parametrize("text", ["soon", "2029-02-30", "20290201"])
def test_a_date_that_is_none_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match=f'expected a date .*got "{text}"'):
        Chosen(taken_from=text)


def test_a_page_begins_where_it_is_asked_to() -> None:
    assert rows_of(Chosen(), 1234, 10) == ALL[1234:1244]
    assert rows_of(Chosen(), len(ALL) - 3, 10) == ALL[-3:]


@pytest.mark.parametrize("by", ["route", "workload", "state"])
@pytest.mark.parametrize("target", ["moss-pool", "fern-snaps"])
def test_parts_of_a_series_add_up_and_small_ones_are_one(by: By, target: str) -> None:
    thin = split_series(RESULT, target, by, 200, ON)
    assert RESULT.place_of(ON) in thin.places
    whole = next(one.totals for one in RESULT.targets if one.target.id == target)
    assert len(thin.parts) <= MOST_PARTS
    assert len(thin.places) <= 201
    stored = np.sum([part.stored_bytes for part in thin.parts], axis=0)
    assert stored == pytest.approx(whole.stored_bytes[thin.places], rel=1e-9, abs=1)
    assert np.sum([part.points for part in thin.parts], axis=0).tolist() == whole.points[thin.places].tolist()
    parts = split(RESULT, target, by)
    largest = max(parts, key=lambda name: float(parts[name].stored_bytes.sum()))
    assert thin.parts[0].name == largest
    assert thin.parts[0].stored_bytes == parts[largest].stored_bytes[thin.places].tolist()
    if len(parts) > MOST_PARTS:
        assert thin.parts[-1].name == f"{len(parts) - MOST_PARTS + 1} others"
