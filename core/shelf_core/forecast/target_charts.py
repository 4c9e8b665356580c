"""Charts of one target through time: its bytes and what stands below them, and its parts on top of each other."""

from dataclasses import dataclass

from shelf_core.engine.schedule.frame import Frame
from shelf_core.forecast.charts import Chart, Drawing, chart_of, lines_and_areas, stacked
from shelf_core.forecast.series import DetailSeries, Series, SplitSeries


@dataclass(frozen=True)
class DetailCharts:
    """The bytes of a target (`stored`, `peak`, and `room` and `least` where there are some), and strips on the same days.

    The strips are its points, what is moved on each day, and what its points stand for.
    """

    bytes: Chart
    points: Chart
    moved: Chart
    logical: Chart


def bytes_drawing(frame: Frame, one: Series) -> Drawing:
    """Stored and peak bytes of a target through time, with its room, and with the least that must stay where there is any."""
    lines = {"peak": one.peak_bytes}
    if one.room_bytes is not None:
        lines["room"] = one.room_bytes
    if isinstance(one, DetailSeries) and max(one.least_bytes, default=0.0) > 0:
        lines["least"] = one.least_bytes
    return lines_and_areas(frame, one.places, lines, {"stored": one.stored_bytes})


def detail_charts(frame: Frame, one: DetailSeries) -> DetailCharts:
    """All charts of a target at the days of its series."""

    def strip(name: str, amounts: list[float]) -> Chart:
        return chart_of(lines_and_areas(frame, one.places, {name: amounts}))

    return DetailCharts(
        chart_of(bytes_drawing(frame, one)),
        strip("points", [float(count) for count in one.points]),
        strip("moved", one.moved_bytes),
        strip("logical", one.logical_bytes),
    )


def split_chart(frame: Frame, split: SplitSeries) -> Chart:
    """The parts of a target on top of each other, the first at the foot."""
    parts = [(part.name, part.stored_bytes) for part in split.parts]
    return chart_of(stacked(frame, split.places, parts, split.places[-1]))
