"""The cartridges of the tape targets of a forecast."""

from shelf_core.design.targets import Target
from shelf_core.engine.hardware.tape import Cartridges, cartridges_of
from shelf_core.engine.retention.holding import Holding
from shelf_core.forecast.forecast import Forecast


def used_cartridges(result: Forecast, target: Target, holdings: list[Holding]) -> Cartridges:
    """The cartridges of a tape target that says what one holds."""
    return cartridges_of(target, holdings, result.frame)
