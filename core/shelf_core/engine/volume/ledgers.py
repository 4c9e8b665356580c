"""The ledger of a target that is no snapshot space: the pieces of all that lies on it, as they come and go."""

from collections.abc import Iterator
from functools import partial

from shelf_core.arrays import Bytes, Ticks
from shelf_core.design.targets import Target
from shelf_core.engine.retention.holding import Holding
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.volume.ledger import Ledger
from shelf_core.engine.volume.pieces import Pieces, separate_pieces, shared_pieces


def pieces_of(target: Target, holdings: list[Holding], frame: Frame, *, by_workload: bool = False) -> Iterator[Pieces]:
    """The pieces of all that lies on a target that is no snapshot space."""
    make = shared_pieces if target.packing == "shared" else separate_pieces
    return make(holdings, frame, by_workload=by_workload)


def ledger_of(target: Target, holdings: list[Holding], frame: Frame) -> Ledger:
    """All bytes that come to a target, that is no snapshot space, and that go."""
    if target.packing == "shared":
        pieces = shared_pieces(holdings, frame)
        return _ledger(pieces)
    stored = Ledger()
    for holding in holdings:
        entries = partial(_entries, holding, frame)
        stored.add(*holding.once("entries", entries, frame))
    return stored


def _entries(holding: Holding, frame: Frame) -> tuple[Ticks, Bytes]:
    """What one holding brings to a ledger, in order, as long as its points lie each by itself."""
    pieces = separate_pieces([holding], frame)
    return _ledger(pieces).entries(frame)


def _ledger(pieces: Iterator[Pieces]) -> Ledger:
    stored = Ledger()
    for one in pieces:
        stored.add_between(one.begin, one.end, one.stored_bytes)
    return stored
