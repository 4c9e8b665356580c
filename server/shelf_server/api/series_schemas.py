"""Series through the days, and what stands beside them, as the API gives them."""

from ninja import Schema

from shelf_core.forecast.charts import Chart
from shelf_core.forecast.effects import Effect
from shelf_core.forecast.finding import Finding
from shelf_core.forecast.series import Series, SplitSeries


class SeriesOut(Schema):
    """Series of all targets, and of the reference where it has them."""

    revision: int
    targets: list[Series]
    reference: list[Series]


class SplitOut(Schema):
    """One target told apart, and its parts as they are drawn."""

    revision: int
    split: SplitSeries
    chart: Chart


class UnfreeOut(Schema):
    """Bytes that nobody can free, one figure for each day from the place `first` on.

    `locked_bytes` are those of them that locks hold; the rest is only billed, for the minimum stay of its target.
    """

    revision: int
    first: int
    stored_bytes: list[float]
    locked_bytes: list[float]


class DaysAsked(Schema):
    """Which days: those from `first` to `last`, all where they are not said, and `on` in any case."""

    on: str | None = None
    first: str | None = None
    last: str | None = None


class EffectsOut(Schema):
    """What changes would come to, copy by copy."""

    on: str
    effects: list[Effect]


class FindingsOut(Schema):
    """The slips that a forecast shows."""

    revision: int
    findings: list[Finding]
