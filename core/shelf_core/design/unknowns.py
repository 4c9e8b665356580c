"""What is not known of workloads: low and high values of change, growth and reduction."""

from pydantic import Field, model_validator

from shelf_core.design.base import Part
from shelf_core.design.faults import expected
from shelf_core.design.routes import Selection
from shelf_core.design.values import GrowthPercent, Id, Percent, Reduction, Text


class Range(Part):
    """With one chance in ten each a value is below `low` and above `high`; what is expected is the workload's own.

    With `factors` the two are not values but what the workload's own value is multiplied by.
    """

    low: float = Field(allow_inf_nan=False)
    high: float = Field(allow_inf_nan=False)
    factors: bool = False

    @model_validator(mode="after")
    def _ordered(self) -> "Range":
        if self.low > self.high:
            raise expected(f"a low of at most high ({self.high:g})", self.low)
        if self.factors and not self.low <= 1 <= self.high:
            raise expected("factors of which low is at most 1 and high at least 1", f"{self.low:g} and {self.high:g}")
        return self

    def around(self, own: float) -> tuple[float, float]:
        """The low and high value of a workload whose own is given."""
        return (own * self.low, own * self.high) if self.factors else (self.low, self.high)


class GrowthRange(Range):
    """Annual growth in percent."""

    low: GrowthPercent
    high: GrowthPercent


class ChangeRange(Range):
    """Daily change in percent."""

    low: Percent = Field(gt=0)
    high: Percent


class ReductionRange(Range):
    """Reduction of fulls; that of changes moves along."""

    low: Reduction
    high: Reduction


class Unknown(Part):
    """What is not known of some workloads. The first that names a workload and a quantity counts."""

    id: Id
    name: Text = ""
    workloads: Selection
    annual_growth_percent: GrowthRange | None = None
    daily_change_percent: ChangeRange | None = None
    reduction: ReductionRange | None = None
