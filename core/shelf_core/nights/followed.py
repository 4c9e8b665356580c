"""What is known of transfers that are followed: the stretch that is asked about, and what became of each transfer."""

import math
from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes, Mask, Places
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.legs import Legs
from shelf_core.nights.moving import Held, Use
from shelf_core.nights.quiet import BEGIN, LaneName, Quiet
from shelf_core.nights.resources import Resources
from shelf_core.nights.transfers import NONE, Lane, lanes_of
from shelf_core.nights.windows import Openings

SCAN, MOUNT, SOURCE, WINDOW, STREAM = "scan", "mount", "source", "window", "stream"


@dataclass(frozen=True)
class NightSpan:
    """From when until when it is to be known what held transfers and how resources were used; in seconds of the design."""

    begin: float = -math.inf
    end: float = math.inf
    with_use: bool = False
    since: Quiet = BEGIN
    """Nothing that came before this instant still ran or waited at it, as `Followed.quiet` says: it need not be followed."""
    lanes: tuple[LaneName, ...] = ()
    """The lanes that `since` speaks of."""
    counts_from: float = -math.inf
    """What is asked for from here to the end counts in what held each lane together."""


@dataclass(eq=False)
class Followed:
    """What became of all transfers, each by its number. Instants are seconds since the design's beginning, NaN for never.

    `foreseen` is when each would be asked for if nothing took any time, `given_up` when it was given up at a closing,
    `too_early` whether it was asked for before what it reads had come, `held` what held each that ended within the span,
    `held_in_all` what held those of each lane together, `lane_of` the place of its lane, `openings` the window of each lane. At
    the instants of `quiet` nothing runs or waits: what comes after does not depend on what was before.
    """

    result: Forecast
    lanes: list[Lane]
    resources: Resources
    legs: Legs
    openings: list[Openings | None]
    lane_of: Places
    foreseen: Bytes
    asked: Bytes
    started: Bytes
    ended: Bytes
    given_up: Bytes
    too_early: Mask
    no_way: Mask
    held: dict[int, Held]
    held_in_all: list[Held]
    use: list[Use]
    quiet: list[Quiet]

    def lane(self, number: int) -> tuple[Lane, int, int]:
        """The lane of a transfer, its machine from 0, and its point."""
        lane = self.lanes[self.lane_of[number]]
        machine, point = divmod(number - lane.first, lane.points)
        return lane, machine, point

    def window(self, number: int) -> Openings | None:
        """The window in which a transfer may start; None for always, as for logs."""
        lane, _, point = self.lane(number)
        return None if lane.kind[point] == LOG else self.openings[self.lane_of[number]]

    def after(self, number: int) -> int | None:
        """The next transfer of the same copy and machine, logs among themselves; None for the last."""
        lane, _, point = self.lane(number)
        after = int(lane.after[point])
        return None if after == NONE else number - point + after

    def when_asked(self) -> Bytes:
        """When each is asked for; what waits for what never comes, when it would be."""
        return np.where(np.isnan(self.asked), self.foreseen, self.asked)


def begun(result: Forecast, since: float, until: float) -> Followed:
    """All transfers of what arrives from one instant to before another, before anything has happened."""
    lanes, resources = lanes_of(result, since, until), Resources(result.design, result.frame)
    legs = Legs(result, resources)
    sizes = [lane.points * lane.machines for lane in lanes]
    count = sum(sizes)
    never = np.full(count, np.nan)
    no_way = [np.tile(legs.without_way(lane), lane.machines) for lane in lanes]
    foreseen = [lane.asked for lane in lanes if lane.asked is not None]
    return Followed(
        result=result,
        lanes=lanes,
        resources=resources,
        legs=legs,
        openings=_openings(result, lanes),
        lane_of=np.repeat(np.arange(len(lanes)), sizes),
        foreseen=np.concatenate([np.zeros(0), *foreseen]),
        asked=never,
        started=never.copy(),
        ended=never.copy(),
        given_up=never.copy(),
        too_early=np.zeros(count, bool),
        no_way=np.concatenate([np.zeros(0, bool), *no_way]),
        held={},
        held_in_all=[{} for _ in lanes],
        use=[],
        quiet=[],
    )


def _openings(result: Forecast, lanes: list[Lane]) -> list[Openings | None]:
    kept: dict[tuple[str, str], Openings] = {}
    found: list[Openings | None] = []
    for lane in lanes:
        window = lane.copy.window
        if window is not None and (window.opens, window.closes) not in kept:
            kept[window.opens, window.closes] = Openings(window, result.frame)
        found.append(None if window is None else kept[window.opens, window.closes])
    return found
