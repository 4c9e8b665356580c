"""Instants at which nothing runs or waits: what comes after one depends on nothing before but what it says itself."""

from bisect import bisect_right
from dataclasses import dataclass

from shelf_core.nights.transfers import Lane


@dataclass(frozen=True)
class Pending:
    """A following transfer whose source has ended and that is to be asked for later: its lane, machine from 0, place and when.

    `lane` is a place among `QuietInstants.lanes`, `place` where the point stands in the lifecycle of its stage; `asked` is in
    seconds of the design.
    """

    lane: int
    machine: int
    place: int
    asked: float


@dataclass(frozen=True)
class Quiet:
    """An instant, in seconds of the design, at which nothing runs or waits, and what is still to be asked for."""

    instant: float
    pending: tuple[Pending, ...] = ()


@dataclass(frozen=True)
class LaneName:
    """Which lane is meant: transfers of a workload to a stage of a copy."""

    route: str
    copy: str
    stage: int
    workload: str


@dataclass(frozen=True)
class QuietInstants:
    """Quiet instants of a design in their order, the first at its beginning."""

    lanes: tuple[LaneName, ...]
    instants: tuple[Quiet, ...]

    def last_before(self, instant: float) -> Quiet:
        """The last one at or before an instant, the design's beginning if there is none."""
        at = bisect_right([one.instant for one in self.instants], instant) - 1
        return self.instants[at] if at >= 0 else BEGIN


BEGIN = Quiet(0.0)
BEGINNING = QuietInstants((), (BEGIN,))


def name_of(lane: Lane) -> LaneName:
    """The name of a lane."""
    return LaneName(lane.route.id, lane.copy.id, lane.stage, lane.workload.id)
