"""What to start from: ready-made cadences, ladders and targets, and a design with nothing in it."""

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from shelf_core.design.duty_starts import DUTY_STARTS
from shelf_core.design.starting_designs import design_starts
from shelf_core.design.starting_points import CADENCES, LADDERS, TARGETS, empty_design
from shelf_server.api.problems import Problem
from shelf_server.api.starting_schemas import StartingPoints

router = Router(tags=["starting points"])


@router.get("/starting-points", response={200: StartingPoints, 401: Problem}, by_alias=True)
def starting_points(request: HttpRequest) -> StartingPoints:
    """What to start from: cadences, ladders, targets, duties and whole designs, and a design with nothing in it."""
    empty = empty_design(timezone.localdate().year + 1)
    return StartingPoints(
        cadences=list(CADENCES),
        ladders=list(LADDERS),
        targets=list(TARGETS),
        duties=list(DUTY_STARTS),
        designs=list(design_starts()),
        empty=empty,
    )
