"""When the transfers of points have ended, so that they can be restored from where they came to."""

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.design.document import Design
from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.ended import LaneEnded, ended_of
from shelf_core.nights.followed import NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.quiet import BEGINNING, LaneName, QuietInstants
from shelf_core.nights.unchanged import unchanged_until


class Ended(NamedTuple):
    """Of each point of a stage, for one workload: when it had come (inf for never), and when its transfers were over.

    Instants, the latest of all machines of the workload. What was given up is over, but has not come.
    """

    came: Bytes
    over: Bytes


def as_written(holding: Holding) -> Ended:
    """What comes when it is written, as what takes no time does."""
    written = holding.life.written.astype(float)
    return Ended(written, written)


class Arrivals:
    """When each point of a design has come."""

    def __init__(self, ended: dict[tuple[str, str, int, str], Ended]) -> None:
        self._ended = ended

    def of(self, holding: Holding, workload: Workload) -> Ended:
        """Of one workload on one stage of a copy; what is followed by no transfer comes when it is written."""
        found = self.followed(holding, workload)
        return as_written(holding) if found is None else found

    def followed(self, holding: Holding, workload: Workload) -> Ended | None:
        """The same for what is followed by transfers; None for what comes when it is written."""
        return self._ended.get((holding.route, holding.copy, holding.stage, workload.id))

    def as_far_as_known(self, before: Forecast, now: Forecast) -> "Arrivals":
        """The same for another state of the design, where the same points are taken and written at the same instants."""
        lives = {
            (one.route, one.copy, one.stage, workload.id): one.life for one in before.holdings for workload in one.workloads
        }
        known = {}
        for holding in now.holdings:
            for workload in holding.workloads:
                key = (holding.route, holding.copy, holding.stage, workload.id)
                ended, life = self._ended.get(key), lives.get(key)
                if ended is not None and life is not None and _same_points(life, holding.life):
                    known[key] = ended
        return Arrivals(known)


def _same_points(life: Lifecycle, other: Lifecycle) -> bool:
    if life is other:
        return True
    return np.array_equal(life.written, other.written) and np.array_equal(life.taken, other.taken)


def arrivals_of(result: Forecast, until: float = math.inf, quiet: QuietInstants = BEGINNING) -> Arrivals:
    """When all points have come that are asked for before an instant of the design, in seconds of it.

    `quiet` are instants from which it may be followed; what came before one had come then.
    """
    if not takes_time(result.design):
        return Arrivals({})
    since = quiet.last_before(until) if until < math.inf else quiet.instants[0]
    followed = follow(result, NightSpan(begin=math.inf, end=until, since=since, lanes=quiet.lanes))
    return arrivals_in(result, ended_of(followed, np.ones(len(followed.ended), bool)))


def arrivals_in(result: Forecast, ended: Sequence[LaneEnded]) -> Arrivals:
    """When all points of a design have come by what was noted when its nights were followed.

    What is not noted comes when it is written; so do points of a stage that no longer is as it was then.
    """
    holdings = {
        LaneName(one.route, one.copy, one.stage, workload.id): one for one in result.holdings for workload in one.workloads
    }
    found: dict[tuple[str, str, int, str], Ended] = {}
    for one in ended:
        holding = holdings.get(one.name)
        came, over = one.columns()
        if holding is None or len(came) > len(holding.life):
            continue
        written = holding.life.written.astype(float)
        columns = [written.copy(), written.copy()]
        for column, values in zip(columns, (came, over), strict=True):
            known = np.flatnonzero(values > -np.inf)
            column[known] = values[known] + result.frame.begin
        found[one.name.route, one.name.copy, one.name.stage, one.name.workload] = Ended(*columns)
    return Arrivals(found)


_OF_TARGET = ("read_speed", "write_speed", "stream_speed", "streams", "mount")
_OF_WORKLOAD = ("read_speed", "scan")
_OF_SITE = ("read_speed", "network")
_OF_COPY = ("window", "spread")


def takes_time(design: Design) -> bool:
    """Whether anything of a design holds a transfer up, so that it takes time at all."""
    copies = [copy for route in design.routes for copy in route.copies]
    said = ((design.sites, _OF_SITE), (design.targets, _OF_TARGET), (design.workloads, _OF_WORKLOAD), (copies, _OF_COPY))
    return bool(design.links) or any(getattr(one, name) is not None for parts, names in said for one in parts for name in names)


class LastArrivals:
    """The arrivals that were followed last: those of a design whose transfers are the same are not followed again."""

    def __init__(self) -> None:
        self._last: tuple[Forecast, float, Arrivals] | None = None

    def of(self, result: Forecast, until: float = math.inf, quiet: QuietInstants = BEGINNING) -> Arrivals:
        """When all points have come, as `arrivals_of` says it: followed anew, or as known from following as far or further."""
        last = self._last
        if last is not None and until <= last[1] and unchanged_until(last[0], result) == math.inf:
            return last[2]
        found = arrivals_of(result, until, quiet)
        self._last = (result, until, found)
        return found
