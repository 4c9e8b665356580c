"""Starting points as the API gives them."""

from ninja import Schema

from shelf_core.design.document import Design
from shelf_core.design.duty_starts import DutyStart
from shelf_core.design.starting_designs import DesignStart
from shelf_core.design.starting_points import CadenceStart, LadderStart, TargetStart


class StartingPoints(Schema):
    """Ready-made cadences, ladders, targets, duties and whole designs, and a design with nothing in it."""

    cadences: list[CadenceStart]
    ladders: list[LadderStart]
    targets: list[TargetStart]
    duties: list[DutyStart]
    designs: list[DesignStart]
    empty: Design
