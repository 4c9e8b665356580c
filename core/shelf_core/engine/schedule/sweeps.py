"""When copies are swept, and when targets give back the space of what went (docs/model.md, Sweeps)."""

import numpy as np

from shelf_core.arrays import Instants, begins_anew
from shelf_core.calendar.recurrence import occurrences
from shelf_core.calendar.rules import parse_rule
from shelf_core.calendar.zones import DAY, clock_seconds
from shelf_core.design.targets import Reclaim
from shelf_core.engine.schedule.frame import Frame


def sweep_instants(own_runs: Instants, frame: Frame, sweep: str) -> Instants:
    """When a copy is swept: at its own runs and, unless it is swept with its runs alone, at the end of each day."""
    swept = own_runs if sweep == "with-runs" else np.concatenate([own_runs, frame.midnights[1:]])
    instants = np.sort(swept, kind="stable")
    return instants[begins_anew(instants)]


def reclaims_of(reclaim: Reclaim | None, frame: Frame) -> Instants | None:
    """When a target gives back the space of what went, in order; None for at once."""
    if reclaim is None:
        return None
    last_day = frame.first_day + frame.days
    rule = parse_rule(reclaim.rrule)
    local = np.concatenate([occurrences(rule, frame.first_day * DAY + clock_seconds(text), last_day) for text in reclaim.at])
    return np.unique(frame.zone.instants(local))
