"""What goes over the wire about reasons, cost and what is not known, beside the core's own models."""

from ninja import Schema

from shelf_core.cost.overview import Overview
from shelf_core.cost.parts import PartOfCost
from shelf_core.forecast.charts import Chart
from shelf_core.forecast.consequences import Consequence
from shelf_core.forecast.series import DetailSeries, Series
from shelf_core.forecast.spines import SpineRow
from shelf_core.forecast.target_charts import DetailCharts
from shelf_core.reasons.keeps import LongestKeep
from shelf_core.reasons.sums import Explanation


class DetailOut(Schema):
    """All that is to be said of one target through time, and as it is drawn."""

    revision: int
    series: DetailSeries
    charts: DetailCharts


class ExplainOut(Schema):
    """The sum behind the points of a target, and the copies that lie on it."""

    revision: int
    copies: list[str]
    explanation: Explanation


class LongestKeepOut(Schema):
    """The longest keep of a rung or a recent rule that fits."""

    revision: int
    longest: LongestKeep


class OtherPackingOut(Schema):
    """A target with its packing the other way, beside how it is; `refused` says why it cannot be."""

    revision: int
    packing: str
    now: Consequence
    other: Consequence | None
    now_series: Series
    other_series: Series | None
    refused: str


class OverviewOut(Schema):
    """All targets on one page, with their shelves at the date as they are drawn small."""

    revision: int
    overview: Overview
    spines: list[SpineRow]


class CategoryCost(Schema):
    """One category of a target: what it costs in each month."""

    category: str
    per_month: list[float]


class TapesOn(Schema):
    """Cartridges of a tape target at the end of a day; `in_use` is the most of that day."""

    in_use: int
    free: int
    bought: int
    to_buy: int
    away: int
    lacking_slots: int | None
    stranded_bytes: float
    owned_at_start: int


class TargetCostOut(Schema):
    """What a target costs in each month by category, and its cartridges at the as-of date."""

    target: str
    per_month: list[float]
    by_category: list[CategoryCost]
    tapes: TapesOn | None


class BesideOut(Schema):
    """What something beside storage costs in each month: licences, rent, work."""

    id: str
    name: str
    per_month: list[float]


class CostOut(Schema):
    """What a design costs: `months` such as 2027-01, `at` the place of the month of the as-of date, `whole` all months.

    The charts have a shape for each target or category, and then one for each of what costs beside storage.
    """

    revision: int
    currency: str
    months: list[str]
    at: int
    per_month: list[float]
    whole: float
    by_category: list[CategoryCost]
    targets: list[TargetCostOut]
    beside: list[BesideOut]
    chart: Chart
    category_chart: Chart


class PartCost(Schema):
    """What a part of the design costs in each month; the key is empty for what several come to together."""

    key: str
    name: str
    per_month: list[float]


class CostPartsOut(Schema):
    """The cost of a design told apart, the dearest part first; the parts add up to all of it."""

    revision: int
    currency: str
    by: PartOfCost
    months: list[str]
    at: int
    parts: list[PartCost]
    chart: Chart


class TargetMonth(Schema):
    """What one target costs in a month, and the difference from the reference; None without a reference."""

    target: str
    cost: float
    change: float | None


class MonthOut(Schema):
    """What the month of a day costs on every target."""

    revision: int
    on: str
    currency: str
    targets: list[TargetMonth]
