"""Restores: which points one takes, what it reads and writes, and the chance that all of them are whole."""

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.design.targets import Target
from shelf_core.design.workloads import Workload
from shelf_core.digits import grouped
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.retention.parents import NONE
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import DIFFERENTIAL, INCREMENTAL, LOG, is_one_of
from shelf_core.engine.volume.pieces import separate_bytes
from shelf_core.engine.volume.sizes import machine_bytes
from shelf_core.forecast.figure_words import bytes_words


def read_before(life: Lifecycle) -> list[int]:
    """For each point the place of the one that a restore reads right before it, NONE where it stands by itself.

    A full, synthetic or snapshot stands by itself; a differential reads its full, an incremental all back to one, a log the
    point before it with what that needs, and the logs since.
    """
    found: list[int] = np.where(is_one_of(life.stored_as, DIFFERENTIAL, INCREMENTAL, LOG), life.parent, NONE).tolist()
    return found


def restore_chain(before: list[int], place: int) -> list[int]:
    """The places of all points that a restore of one reads, the full first and the one itself last."""
    chain = [place]
    while before[chain[-1]] != NONE:
        chain.append(before[chain[-1]])
    return chain[::-1]


def chance_whole(points: int, chance_bad: float) -> float:
    """The chance that none of so many points is bad, each being bad by itself with that chance."""
    return (1 - chance_bad) ** points


class RestoreWords:
    """Says of points of one workload on one stage what restoring each takes, for one machine (docs/model.md, Restores)."""

    def __init__(self, life: Lifecycle, target: Target, workload: Workload, frame: Frame) -> None:
        self._life, self._target, self._workload, self._frame = life, target, workload, frame
        self._before = read_before(life)
        self._is_log = (life.stored_as == LOG).tolist()
        self._stored: Bytes | None = None
        self._written: Bytes | None = None

    def of(self, place: int) -> str:
        """What restoring a point reads and writes, in a sentence."""
        if self._target.media == "snapshot":
            return self._of_snapshot(place)
        chain = restore_chain(self._before, place)
        logs = [one for one in chain if self._is_log[one]]
        points = [one for one in chain if not self._is_log[one]]
        if self._target.packing == "shared":
            points = points[-1:]
        source = self._source(points[-1]) if points else 0.0
        log_bytes = float(self._sizes()[logs].sum()) if logs else 0.0
        is_shared = self._target.packing == "shared"
        read = source / self._workload.reduction if is_shared else float(self._sizes()[points].sum())
        change_reduction = self._workload.change_reduction or self._workload.reduction
        written = bytes_words(source + log_bytes * change_reduction)
        machine = " for each machine" if self._workload.count > 1 else ""
        what = f"{_parts(len(points), len(logs))}, {bytes_words(read + log_bytes)}"
        return f"Restoring it reads {what}, and writes {written}{machine}."

    def _of_snapshot(self, place: int) -> str:
        if not self._life.replica:
            return "Restoring it puts it back at once on its own storage."
        machine = " for each machine" if self._workload.count > 1 else ""
        return f"Restoring it reads {bytes_words(self._source(place))}, and writes as much{machine}."

    def _sizes(self) -> Bytes:
        if self._stored is None:
            self._stored = separate_bytes(self._life, (self._workload,), self._frame) / self._workload.count
        return self._stored

    def _source(self, place: int) -> float:
        if self._written is None:
            self._written = machine_bytes(self._workload, self._life.taken, self._frame)
        return float(self._written[place])


def _parts(points: int, logs: int) -> str:
    said = [
        f"{grouped(count)} {name if count == 1 else f'{name}s'}" for count, name in ((points, "point"), (logs, "log")) if count
    ]
    return " and ".join(said)
