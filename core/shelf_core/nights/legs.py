"""What the bytes of each transfer pass, one after another."""

import numpy as np

from shelf_core.arrays import Bytes, Mask
from shelf_core.engine.schedule.kinds import DIFFERENTIAL, INCREMENTAL, LOG, SYNTHETIC
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.moving import Alike
from shelf_core.nights.resources import Ends, Leg, Resources
from shelf_core.nights.transfers import NONE, Lane

CHANGES = (INCREMENTAL, DIFFERENTIAL, LOG, SYNTHETIC)


class Legs:
    """The legs of all transfers of a design, each kept once."""

    def __init__(self, result: Forecast, resources: Resources) -> None:
        self._targets, self._resources = result.design.targets, resources
        self._kept: dict[tuple[int, int, float, float], Leg] = {}
        self._unreduced: dict[int, Bytes] = {}

    def without_way(self, lane: Lane) -> Mask:
        """Which points of a lane no way leads to."""
        found = np.zeros(lane.points, bool)
        for source in np.unique(lane.source_target).tolist():
            if self._resources.way(self._ends(lane, source)) is None:
                found |= lane.source_target == source
        return found

    def to_move(self, lane: Lane, point: int) -> list[tuple[Alike, float]]:
        """The bytes that a transfer moves with what they pass, the last first: its own, those put together, those verified."""
        amount, together = float(lane.moved_bytes[point]), float(lane.put_together[point])
        legs = [(self._over_the_way(lane, point), amount)]
        if together:
            legs.append((self._resources.within(lane.target), together))
        if lane.copy.verify:
            legs.append((self._resources.reading_back(lane.target), together or amount))
        return [(Alike(lane.priority, leg), moved) for leg, moved in reversed(legs)]

    def amounts(self, lane: Lane) -> dict[int, Bytes]:
        """The bytes that each point of a lane, for one machine, takes of each resource."""
        found: dict[int, Bytes] = {}

        def add(leg: Leg, amounts: Bytes) -> None:
            for one in leg.constraints:
                if one.resource is not None:
                    found[one.resource] = found.get(one.resource, np.zeros(lane.points)) + amounts * one.amount

        keys = np.stack([lane.source_target.astype(float), self.unreduced(lane), lane.read])
        _, first, which = np.unique(keys, axis=1, return_index=True, return_inverse=True)
        for number, point in enumerate(first.tolist()):
            add(self._over_the_way(lane, point), np.where(which.ravel() == number, lane.moved_bytes, 0.0))
        if lane.put_together.any():
            add(self._resources.within(lane.target), lane.put_together)
        if lane.copy.verify:
            back = np.where(lane.put_together > 0, lane.put_together, lane.moved_bytes)
            add(self._resources.reading_back(lane.target), back)
        return found

    def unreduced(self, lane: Lane) -> Bytes:
        """How many bytes are read of the source for each that is moved: changes by their own reduction."""
        if lane.first not in self._unreduced:
            workload = lane.workload
            change = workload.change_reduction or workload.reduction
            # A synthetic full that has nothing to be put together from is all read.
            is_change = np.isin(lane.kind, CHANGES) & ~lane.comes_whole
            unreduced = np.where(is_change, change, workload.reduction)
            # Replicas are moved as they are, without reduction.
            self._unreduced[lane.first] = np.ones(lane.points) if lane.holding.life.replica else unreduced
        return self._unreduced[lane.first]

    def _over_the_way(self, lane: Lane, point: int) -> Leg:
        source, read = int(lane.source_target[point]), float(lane.read[point])
        key = (lane.first, source, float(self.unreduced(lane)[point]), read)
        if key not in self._kept:
            self._kept[key] = self._resources.over_the_way(self._ends(lane, source), key[2], read)
        return self._kept[key]

    def _ends(self, lane: Lane, source: int) -> Ends:
        if source == NONE:
            return Ends(lane.workload, None, lane.target)
        return Ends(None, self._targets[source], lane.target)
