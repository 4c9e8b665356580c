"""The geometry of charts, worked out by hand, and that the page and the report are given the same.

Common practice, no source: an axis ends at a round number, and its lines stand at round numbers; areas on top of each other begin
where the one below ends.
"""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as some

from shelf_core.cost.charts import cost_drawing
from shelf_core.cost.cost import cost_of
from shelf_core.design.reading import read_design
from shelf_core.engine.schedule.frame import Frame, frame_of
from shelf_core.forecast.charts import BOX, Box, chart_of, day_marks, lines_and_areas, month_begins, round_top, stacked
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.series import detail_series, series
from shelf_core.forecast.target_charts import bytes_drawing, detail_charts
from shelf_core.report.pictures import bytes_picture, cost_picture
from tests.designs import DEMO, NEWEST_14, WEEKLY_FULL, design


def frame(starts: str = "2027-01-01", years: int = 10) -> Frame:
    return frame_of(read_design(json.dumps({**design(WEEKLY_FULL, NEWEST_14), "starts": starts, "years": years})))


@pytest.fixture(scope="module")
def demo() -> Forecast:
    return forecast(read_design(DEMO.read_text()))


@given(some.floats(1e-6, 1e21))
def test_the_top_is_the_least_round_number_that_four_parts_divide(highest: float) -> None:
    top = round_top(highest)
    assert highest * (1 - 1e-9) <= top <= highest * 1.5
    digits = f"{top / 4:.6e}".split("e")[0].rstrip("0").rstrip(".")
    assert digits in {"1", "1.5", "2", "2.5", "3", "4", "5", "6", "8"}


def test_nothing_at_all_still_has_a_top() -> None:
    assert round_top(0) == 1


def test_a_line_and_an_area_lie_where_their_amounts_say() -> None:
    drawing = lines_and_areas(frame(), [0, 10, 20], {"peak": [10, 30, 40]}, {"stored": [10, 20, -5]})
    assert (drawing.top, drawing.marks) == (40, [0, 10, 20, 30, 40])
    shapes = {one.name: one.path for one in chart_of(drawing).shapes}
    assert shapes["peak"] == "M0.0,750.0L500.0,250.0L1000.0,0.0"
    # What is below nothing is drawn at nothing; an area goes back along the foot.
    assert shapes["stored"] == "M0.0,750.0L500.0,500.0L1000.0,1000.0L1000.0,1000.0L500.0,1000.0L0.0,1000.0Z"
    assert drawing.outlines[1].path(Box(70, 90, 0, 100)) == "M70.0,75.0L80.0,25.0L90.0,0.0"


def test_parts_lie_on_top_of_each_other() -> None:
    chart = chart_of(stacked(frame(), [0, 10], [("one", [1, 2]), ("two", [3, 6])], 20))
    assert (chart.top, chart.first, chart.last) == (8, 0, 20)
    assert [one.path for one in chart.shapes] == [
        "M0.0,875.0L500.0,750.0L500.0,1000.0L0.0,1000.0Z",
        "M0.0,500.0L500.0,0.0L500.0,750.0L0.0,875.0Z",
    ]


@pytest.mark.parametrize(
    ("starts", "years", "expected"),
    [
        ("2027-01-01", 4, ["2027", "2028", "2029", "2030"]),
        ("2027-03-15", 3, ["2028", "2029", "2030"]),
        ("2027-01-01", 1, ["2027-01", "2027-03", "2027-05", "2027-07", "2027-09", "2027-11"]),
        ("2027-01-01", 20, [str(year) for year in range(2027, 2047, 2)]),
    ],
)
def test_years_are_named_or_months_where_few_are_in_sight(starts: str, years: int, expected: list[str]) -> None:
    here = frame(starts, years)
    assert [mark.text for mark in day_marks(here, 0, here.days - 1)] == expected


def test_months_begin_on_the_first_day_and_on_each_first() -> None:
    assert month_begins(frame("2027-01-15", 1))[:3] == (0, 17, 45)


def test_the_report_draws_what_the_page_is_sent(demo: Forecast) -> None:
    """The shapes of both, brought to the same box: the report's own is another stretch of the same shares."""
    one = series(demo, 300)[0]
    drawing = bytes_drawing(demo.frame, one)
    assert [shape.path for shape in chart_of(drawing).shapes] == [outline.path(BOX) for outline in drawing.outlines]
    stored = next(outline for outline in drawing.outlines if outline.name == "stored")
    assert stored.path(Box(70, 634, 8, 152)) in bytes_picture(demo, one, None)
    costs = cost_of(demo)
    names = {target.id: target.name for target in demo.design.targets}
    for outline in cost_drawing(demo.frame, costs, names).outlines:
        assert outline.path(Box(70, 634, 8, 152)) in cost_picture(demo, costs)


def test_the_parts_of_the_cost_reach_as_high_as_the_bill(demo: Forecast) -> None:
    costs = cost_of(demo)
    drawing = cost_drawing(demo.frame, costs, {})
    highest = [share * drawing.top for share in drawing.outlines[-1].upper]
    assert highest == pytest.approx(costs.per_month().tolist())


def test_strips_stand_on_the_same_days_and_the_least_is_drawn_where_there_is_some(demo: Forecast) -> None:
    for target in demo.design.targets:
        one = detail_series(demo, target.id, 100, "2028-01-01", "2028-12-31")
        charts = detail_charts(demo.frame, one)
        edges = {(chart.first, chart.last) for chart in (charts.bytes, charts.points, charts.moved, charts.logical)}
        assert edges == {(one.places[0], one.places[-1])}
        names = {shape.name for shape in charts.bytes.shapes}
        assert ("least" in names) == any(amount > 0 for amount in one.least_bytes)
        assert ("room" in names) == (one.room_bytes is not None)
