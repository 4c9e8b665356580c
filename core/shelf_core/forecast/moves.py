"""What the points of a forecast move to their targets (docs/model.md, Moved bytes)."""

from functools import partial
from typing import NamedTuple

from shelf_core.arrays import Bytes
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.volume.moved import moved_bytes
from shelf_core.forecast.forecast import Forecast


class MoveBasis(NamedTuple):
    """What moved bytes depend on beside the points themselves: see `moved_bytes`."""

    shares: bool
    packing: str
    on_target: tuple[Holding, ...]


def move_basis(result: Forecast, holding: Holding) -> MoveBasis:
    """What the moved bytes of a holding depend on in a forecast."""
    before, target = result.before(holding), result.design.targets[holding.target]
    shares = before is not None and before.packing == "shared" and before.media != "snapshot" and target.packing == "shared"
    return MoveBasis(shares, target.packing, _on_target(result, holding) if shares else ())


def moved_of(result: Forecast, holding: Holding) -> Bytes:
    """The bytes that each point of a holding, or of one workload of it, moves, summed over its workloads."""
    basis, target = move_basis(result, holding), result.design.targets[holding.target]
    compute = partial(moved_bytes, holding, target, result.frame, shares=basis.shares, on_target=basis.on_target)
    return holding.once("moved", compute, basis)


def _on_target(result: Forecast, holding: Holding) -> tuple[Holding, ...]:
    """The holdings on the same target that have a workload of this one, this one among them."""
    mine = {workload.id for workload in holding.workloads}
    on_target = (other for other in result.holdings if other.target == holding.target)
    return tuple(other for other in on_target if any(workload.id in mine for workload in other.workloads))
