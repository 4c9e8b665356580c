"""Rows: the points of several holdings together, in the order in which they were taken, and how they are neighbours."""

from typing import NamedTuple

import numpy as np

from shelf_core.arrays import Instants, Places
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.schedule.kinds import LOG
from shelf_core.engine.volume.ledger import arrival_ticks, departure_ticks
from shelf_core.engine.volume.shared import Spans, neighbour_spans, oldest_spans, spans_in_any_order


class Row(NamedTuple):
    """The points, no logs, of some holdings in the order of `taken`, and the spans of neighbours and of the oldest."""

    holding: Places
    place: Places
    taken: Instants
    neighbours: Spans
    oldest: Spans


def row_of_points(holdings: list[Holding], places: tuple[int, ...]) -> Row:
    """The points of the holdings at these places together, and how they are neighbours."""
    chosen = [(at, holdings[at].life, np.flatnonzero(holdings[at].life.stored_as != LOG)) for at in places]
    taken = np.concatenate([life.taken[here] for _, life, here in chosen])
    arrived = np.concatenate([arrival_ticks(life)[here] for _, life, here in chosen])
    went = np.concatenate([departure_ticks(life)[here] for _, life, here in chosen])
    holding = np.concatenate([np.full(len(here), at) for at, _, here in chosen])
    place = np.concatenate([here for _, _, here in chosen])
    order = np.argsort(taken, kind="stable")
    taken, arrived, went = taken[order], arrived[order], went[order]
    if np.all(np.diff(arrived) >= 0):
        pairs, oldest = neighbour_spans(arrived, went), oldest_spans(arrived, went)
    else:
        pairs, oldest, _ = spans_in_any_order(arrived, went)
    return Row(holding[order], place[order], taken, pairs, oldest)
