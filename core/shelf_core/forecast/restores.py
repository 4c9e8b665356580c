"""Restores: which points one takes, and the chance that all of them are whole."""

from shelf_core.engine.retention.lifecycle import Lifecycle
from shelf_core.engine.retention.parents import NONE
from shelf_core.engine.schedule.kinds import DIFFERENTIAL, INCREMENTAL, LOG


def restore_chain(life: Lifecycle, place: int) -> list[int]:
    """The places of all points that a restore of one reads, the full first and the one itself last.

    A full, synthetic or snapshot stands by itself; a differential reads its full, an incremental all back to one, a log the
    point before it with what that needs, and the logs since.
    """
    chain = [place]
    while life.stored_as[chain[-1]] in (DIFFERENTIAL, INCREMENTAL, LOG) and life.parent[chain[-1]] != NONE:
        chain.append(int(life.parent[chain[-1]]))
    return chain[::-1]


def chance_whole(points: int, chance_bad: float) -> float:
    """The chance that none of so many points is bad, each being bad by itself with that chance."""
    return (1 - chance_bad) ** points
