"""When the transfers of each point were over, written small enough to be kept: what proof asks of nights that were followed."""

import base64
import zlib
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from shelf_core.arrays import Bytes, Mask
from shelf_core.nights.followed import Followed
from shelf_core.nights.quiet import LaneName, name_of


@dataclass(frozen=True)
class LaneEnded:
    """Of each point of a stage of a copy, for one workload, when the last of its machines had come, and was over.

    `came` and `over` are compressed floating-point numbers, eight bytes each, in seconds of the design: inf for never, and
    for a part of a design -inf for what is not asked for in it. What was given up is over, but has not come; where nothing was,
    `over` is empty.
    """

    name: LaneName
    came: str
    over: str = ""

    def columns(self) -> tuple[Bytes, Bytes]:
        """When each point had come, and was over."""
        came = unpacked(self.came)
        return came, unpacked(self.over) if self.over else came


def _lane_ended(name: LaneName, came: Bytes, over: Bytes) -> LaneEnded:
    return LaneEnded(name, packed(came), "" if (came == over).all() else packed(over))


def ended_of(followed: Followed, chosen: Mask) -> list[LaneEnded]:
    """When what is chosen of all transfers was over, lane by lane."""
    found = []
    for lane in followed.lanes:
        part = slice(lane.first, lane.first + lane.points * lane.machines)
        ended = np.where(np.isnan(followed.ended[part]), np.inf, followed.ended[part])
        given_up = followed.given_up[part]
        over = np.where(np.isnan(given_up), ended, given_up)
        count = int(lane.place.max(initial=-1)) + 1
        columns = []
        for values in (ended, over):
            shown = np.where(chosen[part], values, -np.inf).reshape(lane.machines, lane.points).max(axis=0)
            column = np.full(count, -np.inf)
            column[lane.place] = shown
            columns.append(column)
        found.append(_lane_ended(name_of(lane), *columns))
    return found


def put_together_ended(parts: Sequence[Sequence[LaneEnded]]) -> list[LaneEnded]:
    """The same of stretches that follow one another: of machines that were asked for in several the last counts."""
    by_name: dict[LaneName, list[LaneEnded]] = {}
    for part in parts:
        for one in part:
            by_name.setdefault(one.name, []).append(one)
    found = []
    for name, several in by_name.items():
        came, over = (_latest(column) for column in zip(*(one.columns() for one in several), strict=True))
        found.append(_lane_ended(name, came, over))
    return found


def _latest(columns: Sequence[Bytes]) -> Bytes:
    found = np.full(max(len(one) for one in columns), -np.inf)
    for one in columns:
        np.maximum(found[: len(one)], one, out=found[: len(one)])
    return found


def packed(values: Bytes) -> str:
    """Numbers as text.

    >>> unpacked(packed(np.array([1.5, np.inf]))).tolist()
    [1.5, inf]
    """
    # Bytes of the same weight beside one another are more alike than numbers are.
    planes = np.frombuffer(values.astype("<f8").tobytes(), np.uint8).reshape(-1, 8).T
    return base64.b85encode(zlib.compress(planes.tobytes(), 6)).decode()


def unpacked(text: str) -> Bytes:
    """The numbers of a text."""
    planes = np.frombuffer(zlib.decompress(base64.b85decode(text)), np.uint8).reshape(8, -1)
    return np.frombuffer(planes.T.tobytes(), "<f8").copy()
