"""Bytes of points that lie each by itself (docs/model.md, Bytes: separate)."""

import numpy as np

from shelf_core.engine.frame import Frame
from shelf_core.engine.kinds import DIFFERENTIAL, INCREMENTAL, LOG
from shelf_core.engine.lifecycle import Lifecycle
from shelf_core.engine.sizes import Behaviour, Bytes, Scale, changed_bytes, source_bytes


def point_bytes(life: Lifecycle, behaviour: Behaviour, scale: Scale, frame: Frame) -> Bytes:
    """The stored size of each point of a copy, summed over the workloads of this scale."""
    is_change = (life.stored_as == INCREMENTAL) | (life.stored_as == DIFFERENTIAL)
    is_log = life.stored_as == LOG
    is_full = ~(is_change | is_log)
    sizes = np.zeros(len(life))
    sizes[is_full] = scale.full * source_bytes(behaviour, life.taken[is_full], frame.begin)
    sizes[is_change] = scale.change * changed_bytes(
        behaviour, life.taken[life.parent[is_change]], life.taken[is_change], frame.begin
    )
    sizes[is_log] = log_bytes(life, scale)[is_log]
    return sizes


def log_bytes(life: Lifecycle, scale: Scale) -> Bytes:
    """What the source logs between each log and its parent; 0 for points that are no logs."""
    is_log = life.stored_as == LOG
    if not is_log.any():
        return np.zeros(len(life))
    since = np.where(is_log, life.taken - life.taken[life.parent], 0)
    return scale.log_per_second * since
