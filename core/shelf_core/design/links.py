"""Links between sites, and what limits them by the hour."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from shelf_core.design.base import Part
from shelf_core.design.values import Clock, Id, Percent, Speed, Text

Weekday = Literal["MO", "TU", "WE", "TH", "FR", "SA", "SU"]


class Limit(Part):
    """What a link may carry in some hours; 0 is a pause.

    It stands in local time from `from` to before `to`, past midnight where `to` is not later, and then belongs to the day on
    which it begins; without both for the whole day. Without `days` it stands on all of them.
    """

    days: list[Weekday] | None = Field(default=None, min_length=1)
    from_: Clock | None = Field(default=None, alias="from")
    to: Clock | None = None
    speed: Speed

    @model_validator(mode="after")
    def _has_both_ends(self) -> "Limit":
        if (self.from_ is None) != (self.to is None):
            raise ValueError("expected from and to, or neither for the whole day, got one of them")
        return self


class Link(Part):
    """A line between two sites.

    Each direction has the `speed`; where it is `shared`, both have it together. Of it only `usable_percent` counts; limits
    count as they stand, and the lowest of all counts. `stream_speed` is what one transfer alone gets at most.
    """

    id: Id
    name: Text = ""
    sites: Annotated[list[Id], Field(min_length=2, max_length=2)]
    speed: Speed | None = None
    shared: bool = False
    stream_speed: Speed | None = None
    usable_percent: Percent = 100
    limits: list[Limit] = []

    @model_validator(mode="after")
    def _joins_two(self) -> "Link":
        if self.sites[0] == self.sites[1]:
            raise ValueError(f"expected two sites that differ, got {self.sites[0]} twice")
        return self
