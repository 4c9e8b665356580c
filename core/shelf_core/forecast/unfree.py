"""What nobody can free: the bytes that stay if every rule were cut on a day, because of locks and what they need."""

from dataclasses import replace

import numpy as np

from shelf_core.engine.frame import NEVER
from shelf_core.engine.holdings import Holding
from shelf_core.engine.lifecycle import CopyLife, Lifecycle
from shelf_core.engine.parents import NONE
from shelf_core.engine.picks import Places
from shelf_core.engine.sizes import Bytes
from shelf_core.engine.states import standing_on
from shelf_core.engine.totals import totals_of
from shelf_core.forecast.forecast import Forecast


def cannot_be_freed(result: Forecast, target: str, day: str) -> Bytes:
    """From a day on, the stored bytes at the end of each day that locks hold there if no rule claimed anything any more.

    Only what is there at the end of `day` counts. Raises KeyError for an unknown target, ValueError for a day outside.
    """
    first = result.place_of(day)
    place = next((at for at, one in enumerate(result.design.targets) if one.id == target), None)
    if place is None:
        raise KeyError(target)
    one = result.design.targets[place].model_copy(update={"reclaim": None})
    locked = [_locked_alone(holding, result, first) for holding in result.holdings if holding.target == place]
    return totals_of(one, locked, result.frame).stored_bytes[first:]


def _locked_alone(holding: Holding, result: Forecast, day: int) -> Holding:
    """A holding with what is locked at the end of a day, each point until its lock ends."""
    life = holding.life
    there = standing_on(life, result.frame, np.array([day]))
    kept = there.locked >= result.frame.midnights[day + 1]
    order = np.argsort(there.place[kept])
    stays = _subset(life, there.place[kept][order], there.locked[kept][order])
    whole = CopyLife((stays,), stays.removed, {}, 0)
    return Holding(holding.route, holding.copy, holding.target, 0, whole, holding.workloads)


def _subset(life: Lifecycle, places: Places, removed: Places) -> Lifecycle:
    place = np.full(len(life) + 1, NONE, np.int64)
    place[places] = np.arange(len(places))
    return replace(
        life,
        **{name: getattr(life, name)[places] for name in ("taken", "written", "kind", "stored_as", "run", "needs_parent")},
        **{name: getattr(life, name)[places] for name in ("locked", "moved_on", "given", "place")},
        parent=place[life.parent[places]],
        removed=removed,
        claims={"locked": np.full(len(places), NEVER, np.int64)},
        held=(),
    )
