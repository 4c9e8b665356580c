"""How well each workload is protected at a date: 3-2-1, judged from the points that are there (docs/model.md, Protection)."""

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from shelf_core.design.document import selected
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.engine.kinds import LOG
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.shelves import Shelf, shelves_on

COPIES, MEDIA = 3, 2
ORIGINAL = "disk"
"""The medium of the original, and of snapshots, which lie on its storage."""


@dataclass(frozen=True)
class Protection:
    """Workloads of a route that are protected alike at a date.

    `copies` counts the original, `media` and `sites` are those where a copy of the data lies, the original's among them;
    `locked` whether a lock runs on one of the points; `missing` says in words what 3-2-1 lacks, empty when it holds.
    """

    workloads: tuple[str, ...]
    copies: int
    media: tuple[str, ...]
    sites: tuple[str, ...]
    locked: bool
    missing: tuple[str, ...]


def protection_on(result: Forecast, day: str) -> dict[str, list[Protection]]:
    """By route the protection of its workloads at the end of a day, counting the copies of all routes.

    Raises ValueError for a day outside the design.
    """
    lies: dict[str, dict[str, bool]] = defaultdict(dict)
    for shelf in shelves_on(result, day):
        there, locked = _points_of(shelf)
        if there:
            target = result.design.targets[shelf.holding.target].id
            for workload in shelf.holding.workloads:
                lies[workload.id][target] = lies[workload.id].get(target, False) or locked
    targets = {target.id: target for target in result.design.targets}
    found: dict[str, list[Protection]] = {}
    for route in result.design.routes:
        alike: dict[tuple[object, ...], list[str]] = defaultdict(list)
        for workload in selected(route.workloads, result.design.workloads):
            alike[_judged(workload, lies.get(workload.id, {}), targets)].append(workload.id)
        found[route.id] = [Protection(tuple(ids), *about) for about, ids in alike.items()]  # type: ignore[arg-type]
    return found


def _points_of(shelf: Shelf) -> tuple[bool, bool]:
    """Whether points are there, and whether a lock runs on one of them. A log alone restores nothing."""
    points = shelf.holding.life.stored_as[shelf.places] != LOG
    return bool(np.any(points)), bool(np.any(shelf.locked[points] > shelf.midnight))


def _judged(workload: Workload, lies: dict[str, bool], targets: dict[str, Target]) -> tuple[object, ...]:
    on = [targets[name] for name in lies]
    copies = [target for target in on if target.media != "snapshot"]
    media = tuple(sorted({ORIGINAL, *(target.media for target in copies)}))
    sites = tuple(sorted({workload.site, *(target.site for target in copies)}))
    missing = []
    if len(copies) + 1 < COPIES:
        missing.append(_more(COPIES - 1 - len(copies), "copy", "copies"))
    if len(media) < MEDIA:
        missing.append("a second kind of media")
    if not any(target.site != workload.site for target in copies):
        missing.append("a copy off site")
    return (len(copies) + 1, media, sites, any(lies.values()), tuple(missing))


def _more(count: int, one: str, several: str) -> str:
    return f"{count} more {one if count == 1 else several}"
