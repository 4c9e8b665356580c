"""What some workloads come to together on a date."""

from collections.abc import Collection
from dataclasses import dataclass

import numpy as np

from shelf_core.calendar.zones import DAY
from shelf_core.design.document import Design
from shelf_core.design.machines import lots_of
from shelf_core.design.values import bytes_of
from shelf_core.engine.schedule.frame import frame_of
from shelf_core.engine.volume.sizes import behaviour_of, changed_share, scale_of, source_bytes


@dataclass(frozen=True)
class Together:
    """Workloads that are there at the end of a date: how many, their machines, and bytes of all of them, unreduced.

    `changed_bytes` is what changes in a day, `log_bytes` what logs come to in one.
    """

    workloads: int
    machines: int
    source_bytes: float
    changed_bytes: float
    log_bytes: float


def together(design: Design, ids: Collection[str], on: str) -> Together:
    """What the workloads of these ids come to at the end of a date; machines that come later count from their date on.

    Raises ValueError for a date outside of the design.

    >>> from shelf_core.design.reading import design_of
    >>> plain = {"format": "rested-shelf-design", "version": 2, "name": "House", "timezone": "UTC", "starts": "2027-01-01",
    ...     "years": 1, "sites": [{"id": "a"}], "workloads": [
    ...         {"id": "w", "site": "a", "size": "1 TB", "count": 3, "count_steps": [{"on": "2027-03-01", "add": 2}]},
    ...         {"id": "v", "site": "a", "size": "4 TB", "until": "2027-01-31"}]}
    >>> found = together(design_of(plain), ["w", "v"], "2027-03-01")
    >>> found.workloads, found.machines, found.source_bytes
    (1, 5, 5000000000000.0)
    """
    frame, wanted = frame_of(design), set(ids)
    instant = np.array([int(frame.midnights[frame.place_of(on) + 1])])
    names, machines, source, changed, logs = set(), 0, 0.0, 0.0, 0.0
    for whole in design.workloads:
        if whole.id not in wanted:
            continue
        for one in lots_of(whole):
            if (one.from_ or "") > on or (one.until or on) < on:
                continue
            behaviour, scale = behaviour_of(one, frame), scale_of(one)
            size = float(source_bytes(behaviour, instant, frame.begin)[0]) * scale.full * one.reduction
            names.add(whole.id)
            machines += one.count
            source += size
            changed += size * float(changed_share(behaviour, np.array([DAY]))[0])
            logs += one.count * bytes_of(one.log_per_day or 0)
    return Together(len(names), machines, source, changed, logs)
