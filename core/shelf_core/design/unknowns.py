"""What is not known of workloads: low and high values of change, growth and reduction."""

from typing import TypeVar

from pydantic import Field, model_validator

from shelf_core.design.base import Part
from shelf_core.design.faults import expected
from shelf_core.design.routes import Selection
from shelf_core.design.values import GrowthPercent, Id, Percent, Reduction, Text

T = TypeVar("T", "GrowthRange", "ChangeRange", "ReductionRange")


class GrowthRange(Part):
    """Annual growth in percent: with one chance in ten each it is below `low` and above `high`."""

    low: GrowthPercent
    high: GrowthPercent

    @model_validator(mode="after")
    def _ordered(self) -> "GrowthRange":
        return _ordered(self)


class ChangeRange(Part):
    """Daily change in percent: with one chance in ten each it is below `low` and above `high`."""

    low: Percent = Field(gt=0)
    high: Percent

    @model_validator(mode="after")
    def _ordered(self) -> "ChangeRange":
        return _ordered(self)


class ReductionRange(Part):
    """Reduction of fulls (that of changes moves along): with one chance in ten each it is below `low` and above `high`."""

    low: Reduction
    high: Reduction

    @model_validator(mode="after")
    def _ordered(self) -> "ReductionRange":
        return _ordered(self)


class Unknown(Part):
    """What is not known of some workloads; the expected values are their own. The first that names a workload counts."""

    id: Id
    name: Text = ""
    workloads: Selection
    annual_growth_percent: GrowthRange | None = None
    daily_change_percent: ChangeRange | None = None
    reduction: ReductionRange | None = None


def _ordered(one: T) -> T:
    if one.low > one.high:
        raise expected(f"a low of at most high ({one.high:g})", one.low)
    return one
