"""What costs beside storage: licences, rent, work."""

from typing import Literal

from pydantic import Field

from shelf_core.design.base import Part
from shelf_core.design.routes import Selection
from shelf_core.design.standing import Workloads
from shelf_core.design.values import Day, Id, Price, Text

CostFor = Literal["design", "workload", "machine", "tb"]


class ExtraCost(Part):
    """An amount a month or a year, from one date to another: once, or for each workload, machine or decimal TB of source.

    `workloads` says of which; nothing said means all of them.
    """

    id: Id
    name: Text = ""
    amount: Price
    every: Literal["month", "year"] = "month"
    for_: CostFor = Field(default="design", alias="for")
    workloads: Workloads = Selection()
    from_: Day | None = Field(default=None, alias="from")
    until: Day | None = None
