"""Cadences: when points are taken."""

from typing import Literal

from pydantic import Field, model_validator

from shelf_core.calendar.names import ZoneName
from shelf_core.calendar.rules import RuleText
from shelf_core.design.base import Part
from shelf_core.design.values import Clock, Day, Id, LocalTime, Text

Kind = Literal["full", "synthetic", "differential", "incremental", "snapshot", "log"]
KINDS: tuple[Kind, ...] = ("full", "synthetic", "differential", "incremental", "snapshot", "log")


class Run(Part):
    """One run of a cadence: what it takes, and its recurrence or its single local times."""

    id: Id
    name: Text = ""
    kind: Kind
    rrule: RuleText | None = None
    at: list[Clock] = Field(default=["00:00"], min_length=1, max_length=1440)
    once: list[LocalTime] | None = None
    timezone: ZoneName | None = None
    from_: Day | None = Field(default=None, alias="from")
    until: Day | None = None
    except_: list[Day] = Field(default=[], alias="except")

    @model_validator(mode="after")
    def _one_way_of_saying_when(self) -> "Run":
        if (self.rrule is None) == (self.once is None):
            got = "neither" if self.rrule is None else "both"
            raise ValueError(f"expected either rrule (with at) or once, got {got}")
        if self.once is not None and self.at != ["00:00"]:
            raise ValueError("expected at only beside rrule, got it beside once")
        return self


class Cadence(Part):
    """A set of runs. Of runs at the same instant one is left."""

    id: Id
    name: Text = ""
    runs: list[Run] = Field(min_length=1)
