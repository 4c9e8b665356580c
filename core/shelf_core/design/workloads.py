"""Workloads: the bodies of data to protect."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from shelf_core.design.base import Part
from shelf_core.design.faults import expected
from shelf_core.design.values import Day, DurationText, GrowthPercent, Id, Percent, Reduction, Size, SizeChange, Speed, Text


class Step(Part):
    """A dated change of a workload's size."""

    on: Day
    add: SizeChange


class CountStep(Part):
    """From a date on so many machines more."""

    on: Day
    add: int = Field(ge=1, le=1_000_000)


class Alike(Part):
    """The share of its data that a workload has in common with the others of a group."""

    group: Id
    percent: Percent


class Member(Part):
    """A part of an index or catalogue: offline for a while, or closed from a date on."""

    id: Id
    offline: list[Annotated[list[Day], Field(min_length=2, max_length=2)]] = []
    closed_from: Day | None = None
    keep_closed: bool | Day | None = None


class Workload(Part):
    """A body of data: a database, a file share, a machine; `count` says how many that are alike in everything.

    Of one machine are `read_speed`, `write_speed` (a restore writes it) and `scan`, the time to find what changed. `priority`
    is 1 for what comes first to 9, and 5 where it is not said. What is `needed_first` (a catalogue, keys) is
    restored before all else.

    It grows by `annual_growth_percent` of itself a year, or evenly by `annual_growth`, a size; of machines there are more from
    the dates of `count_steps` on.
    """

    id: Id
    name: Text = ""
    site: Id
    size: Size
    count: int = Field(default=1, ge=1, le=1_000_000)
    daily_change_percent: Percent = 0
    hot_percent: float = Field(default=100, gt=0, le=100)
    change_pattern: Literal["scattered", "fresh"] = "scattered"
    annual_growth_percent: GrowthPercent = 0
    annual_growth: SizeChange | None = None
    steps: list[Step] = []
    count_steps: list[CountStep] = []
    reduction: Reduction = 1
    change_reduction: Reduction | None = None
    alike: Alike | None = None
    log_per_day: Size | None = None
    members: list[Member] = []
    from_: Day | None = Field(default=None, alias="from")
    until: Day | None = None
    tags: list[Id] = []
    priority: int | None = None
    read_speed: Speed | None = None
    write_speed: Speed | None = None
    scan: DurationText | None = None
    needed_first: bool = False

    @model_validator(mode="after")
    def _change_fits_the_hot_part(self) -> "Workload":
        if self.change_pattern == "scattered" and self.daily_change_percent > self.hot_percent:
            raise expected(f"a daily_change_percent of at most hot_percent ({self.hot_percent:g})", self.daily_change_percent)
        if self.annual_growth is not None and self.annual_growth_percent != 0:
            raise expected("annual_growth or annual_growth_percent, not both", self.annual_growth)
        return self
