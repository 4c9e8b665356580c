"""From when on the nights of two states of a design can differ: before that what was followed of one holds for the other."""

import math
from typing import Any

import numpy as np

from shelf_core.arrays import Mask
from shelf_core.design.document import Design
from shelf_core.design.routes import Copy
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.holding import Holding
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.moves import moved_of

_OF_TARGET = frozenset({
    "id", "media", "site", "packing", "drives", "cartridge", "batch_closes", "read_speed", "write_speed", "stream_speed",
    "streams", "mount",
})  # fmt: skip
_OF_WORKLOAD = frozenset(
    {"id", "site", "count", "reduction", "change_reduction", "priority", "read_speed", "scan"},
)
_OF_COPY = frozenset({"id", "target", "cadence", "from_", "delay", "window", "at_close", "spread", "verify", "priority"})
_OF_LIFE = ("taken", "written", "kind", "stored_as", "parent")

_Key = tuple[str, str, int, str]


def unchanged_until(before: Forecast, now: Forecast) -> float:
    """Seconds of the design until which all transfers of two of its states are asked for alike and pass the same.

    Infinity where nothing differs, 0 where something differs that holds from the beginning, such as a speed.
    """
    if (before.frame.begin, before.design.timezone) != (now.frame.begin, now.design.timezone):
        return 0.0
    if _fixed(before.design) != _fixed(now.design):
        return 0.0
    old, new = _by_key(before), _by_key(now)
    if old.keys() != new.keys():
        return 0.0
    found = min((_same_until(before, now, old[key], new[key]) for key in old), default=math.inf)
    # What lies beyond the end of the shorter one is in none of it.
    if before.frame.end != now.frame.end:
        found = min(found, float(min(before.frame.end, now.frame.end)))
    return max(0.0, found - before.frame.begin) if found < math.inf else math.inf


def _fixed(design: Design) -> dict[str, Any]:
    """All that bears on transfers through the whole design."""
    sites = [site.model_dump(exclude={"name"}) for site in design.sites]
    links = [link.model_dump(exclude={"name"}) for link in design.links]
    copies = [(route.id, _part(copy, _OF_COPY), len(copy.step_downs)) for route in design.routes for copy in route.copies]
    targets = [_part(one, _OF_TARGET) for one in design.targets]
    return {"sites": sites, "links": links, "targets": targets, "copies": copies, "workloads": _workloads(design)}


def _part(one: Target | Workload | Copy, fields: frozenset[str]) -> dict[str, Any]:
    return {name: getattr(one, name) for name in fields}


def _workloads(design: Design) -> list[dict[str, Any]]:
    return [_part(one, _OF_WORKLOAD) for one in design.workloads]


def _by_key(result: Forecast) -> dict[_Key, tuple[Holding, Workload]]:
    return {
        (one.route, one.copy, one.stage, workload.id): (one, workload) for one in result.holdings for workload in one.workloads
    }


def _same_until(before: Forecast, now: Forecast, one: tuple[Holding, Workload], other: tuple[Holding, Workload]) -> float:
    """The instant at which two of the same name first differ; infinity for never."""
    (holding, workload), (new, changed) = one, other
    if new.target != holding.target:
        return float(min(holding.life.written.min(initial=0), new.life.written.min(initial=0)))
    life, life_now = holding.life, new.life
    count = min(len(life), len(life_now))
    differs = np.zeros(count, bool)
    if holding.whole is not new.whole:
        for name in _OF_LIFE:
            differs |= getattr(life, name)[:count] != getattr(life_now, name)[:count]
        # Where a copy lies on several stages, what reads it reads from the one on which it still lies.
        if len(holding.whole.stages) > 1:
            differs |= life.removed[:count] != life_now.removed[:count]
    if holding.whole is not new.whole or workload != changed or _is_shared(now, new):
        moved, moved_now = moved_of(before, holding.of(workload)), moved_of(now, new.of(changed))
        differs |= ~np.isclose(moved[:count], moved_now[:count], rtol=1e-12, atol=0)
    return min(
        _first(differs, life.written, life.removed),
        _first(differs, life_now.written, life_now.removed),
        _tail(life, life_now, count),
    )


def _is_shared(now: Forecast, one: Holding) -> bool:
    return now.design.targets[one.target].packing == "shared"


def _first(differs: Mask, written: np.ndarray, removed: np.ndarray) -> float:
    where = np.flatnonzero(differs)
    return float(min(written[where].min(), removed[where].min())) if len(where) else math.inf


def _tail(life: Any, life_now: Any, count: int) -> float:
    """When the first point comes that only one of two has."""
    rest = np.concatenate([life.written[count:], life_now.written[count:]])
    return float(rest.min()) if len(rest) else math.inf
