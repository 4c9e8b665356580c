"""The cartridges of the tape targets of a forecast."""

from shelf_core.design.targets import Target
from shelf_core.engine.holdings import Holding
from shelf_core.engine.tape import Cartridges, cartridges_of
from shelf_core.forecast.forecast import Forecast


def used_cartridges(result: Forecast, target: Target, holdings: list[Holding]) -> Cartridges:
    """The cartridges of a tape target that says what one holds."""
    rotations = {(route.id, copy.id): copy.rotation for route in result.design.routes for copy in route.copies}
    which = [rotations[one.route, one.copy] if one.stage == 0 else None for one in holdings]
    return cartridges_of(target, holdings, which, result.frame)
