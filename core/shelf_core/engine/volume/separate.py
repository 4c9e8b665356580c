"""Bytes of points that lie each by itself (docs/model.md, Bytes: separate)."""

from collections.abc import Mapping

import numpy as np

from shelf_core.arrays import Bytes
from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.kinds import DIFFERENTIAL, INCREMENTAL, LOG
from shelf_core.engine.volume.sizes import Behaviour, Scale, changed_sum, source_sum


def point_bytes(life: Lifecycle, scales: Mapping[Behaviour, Scale], frame: Frame) -> Bytes:
    """The stored size of each point of a copy, summed over the workloads of these scales."""
    is_change = (life.stored_as == INCREMENTAL) | (life.stored_as == DIFFERENTIAL)
    is_log = life.stored_as == LOG
    is_full = ~(is_change | is_log)
    sizes = log_bytes(life, Scale(0.0, 0.0, sum(scale.log_per_second for scale in scales.values())))
    fulls = {behaviour: scale.full for behaviour, scale in scales.items()}
    sizes[is_full] = source_sum(fulls, life.taken[is_full], frame.begin)
    changes = {behaviour: scale.change for behaviour, scale in scales.items()}
    sizes[is_change] = changed_sum(changes, life.taken[life.parent[is_change]], life.taken[is_change], frame.begin)
    return sizes


def log_bytes(life: Lifecycle, scale: Scale) -> Bytes:
    """What the source logs between each log and its parent; 0 for points that are no logs."""
    is_log = life.stored_as == LOG
    if not is_log.any():
        return np.zeros(len(life))
    since = np.where(is_log, life.taken - life.taken[life.parent], 0)
    return scale.log_per_second * since
