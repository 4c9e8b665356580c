"""Calendar arithmetic on arrays of local seconds."""

import numpy as np

from shelf_core.arrays import Instants, LocalSeconds
from shelf_core.calendar.names import Duration
from shelf_core.calendar.zones import DAY, Zone


def add_to_instants(instants: Instants, length: Duration, zone: Zone) -> Instants:
    """Instants plus a duration: months and days on the local wall clock, then the hours as elapsed time."""
    if length.months or length.days:
        instants = zone.instants(add_to_local(zone.local(instants), length.months, length.days))
    return instants + length.seconds


def add_to_local(local: LocalSeconds, months: int, days: int) -> LocalSeconds:
    """Local times plus calendar months, then days. A day that the month lacks becomes its last one."""
    if months:
        number = local // DAY
        day = number.astype("datetime64[D]")
        month = day.astype("datetime64[M]")
        day_of_month = number - month.astype("datetime64[D]").astype(np.int64)
        target = month + months
        number_of_target = target.astype("datetime64[D]").astype(np.int64)
        last = (target + 1).astype("datetime64[D]").astype(np.int64) - 1
        local = np.minimum(number_of_target + day_of_month, last) * DAY + local % DAY
    return local + days * DAY
