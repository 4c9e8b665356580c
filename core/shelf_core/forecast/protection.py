"""How well each workload is protected at a date: 3-2-1, judged from the points that are there (docs/model.md, Protection)."""

from collections import defaultdict
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from shelf_core.calendar.zones import DAY, day_number
from shelf_core.design.document import selected
from shelf_core.design.replicas import ORIGINAL, medium_of
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.digits import grouped
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.forecast.dates import written_day
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.shelves import Shelf, shelves_on

COPIES, MEDIA = 3, 2


@dataclass(frozen=True)
class Protection:
    """Workloads of a route that are protected alike at a date.

    `copies` counts the original, `media` and `sites` are those where a copy of the data lies, the original's among them;
    `locked` whether a lock runs on one of the points; `missing` says in words what 3-2-1 lacks, empty when it holds.
    `oldest_days` is the age in whole days of the newest point of that copy whose newest point is the oldest, None without a
    copy; `verdict` says all of it in a sentence.
    """

    workloads: tuple[str, ...]
    copies: int
    media: tuple[str, ...]
    sites: tuple[str, ...]
    locked: bool
    missing: tuple[str, ...]
    oldest_days: int | None
    verdict: str


def protection_on(result: Forecast, day: str) -> dict[str, list[Protection]]:
    """By route the protection of its workloads at the end of a day, counting the copies of all routes.

    What has not begun yet, or has ended and left nothing, is not judged: there is nothing to protect.
    Raises ValueError for a day outside the design.
    """
    lies: dict[str, dict[str, _OnTarget]] = defaultdict(dict)
    for shelf in shelves_on(result, day):
        on_target = result.design.targets[shelf.holding.target]
        is_copy = on_target.media != "snapshot" or shelf.holding.life.replica
        found_here, target = _points_of(shelf, is_copy=is_copy), on_target.id
        if found_here is not None:
            for workload in shelf.holding.workloads:
                before = lies[workload.id].get(target, found_here)
                lies[workload.id][target] = _OnTarget(
                    before.locked or found_here.locked,
                    min(before.newest_days, found_here.newest_days),
                    before.is_copy or found_here.is_copy,
                )
    on = written_day(day_number(day) * DAY)
    targets = {target.id: target for target in result.design.targets}
    found: dict[str, list[Protection]] = {}
    for route in result.design.routes:
        alike: dict[tuple[object, ...], list[str]] = defaultdict(list)
        for workload in selected(route.workloads, result.design.workloads):
            if not _is_there(workload, day) and workload.id not in lies:
                continue
            alike[_judged(workload, lies.get(workload.id, {}), targets, on)].append(workload.id)
        found[route.id] = [Protection(tuple(ids), *about) for about, ids in alike.items()]  # type: ignore[arg-type]
    return found


def _is_there(workload: Workload, day: str) -> bool:
    return (workload.from_ or day) <= day <= (workload.until or day)  # ISO dates sort as text


class _OnTarget(NamedTuple):
    """What a workload has on one target: whether a lock runs on a point, and the age of the newest in whole days.

    `is_copy` is False for snapshots on the source's own storage.
    """

    locked: bool
    newest_days: int
    is_copy: bool


def _points_of(shelf: Shelf, *, is_copy: bool) -> _OnTarget | None:
    """What lies on a shelf, None for no point. A log alone restores nothing."""
    life = shelf.holding.life
    points = life.stored_as[shelf.places] != LOG
    if not points.any():
        return None
    newest = int(life.taken[shelf.places[points]].max())
    locked = bool(np.any(shelf.locked[points] > shelf.midnight))
    return _OnTarget(locked, (shelf.midnight - newest) // DAY, is_copy)


def _judged(workload: Workload, lies: dict[str, _OnTarget], targets: dict[str, Target], on: str) -> tuple[object, ...]:
    copies = [targets[name] for name, one in lies.items() if one.is_copy]
    media = tuple(sorted({ORIGINAL, *(medium_of(target) for target in copies)}))
    sites = tuple(sorted({workload.site, *(target.site for target in copies)}))
    missing = []
    if len(copies) + 1 < COPIES:
        missing.append(_more(COPIES - 1 - len(copies), "copy", "copies"))
    if len(media) < MEDIA:
        missing.append("a second kind of media")
    if not any(target.site != workload.site for target in copies):
        missing.append("a copy off site")
    ages = [lies[target.id].newest_days for target in copies]
    oldest = max(ages, default=None)
    locked = any(one.locked for one in lies.values())
    return (len(copies) + 1, media, sites, locked, tuple(missing), oldest, _verdict(missing, oldest, on))


def _verdict(missing: list[str], oldest: int | None, on: str) -> str:
    age = "" if oldest is None else f", oldest copy {_counted(oldest, 'day', 'days')}"
    return f"3-2-1 {'lacks ' + ', '.join(missing) if missing else 'holds'} on {on}{age}"


def _more(count: int, one: str, several: str) -> str:
    return f"{count} more {one if count == 1 else several}"


def _counted(count: int, one: str, several: str) -> str:
    return f"{grouped(count)} {one if count == 1 else several}"
