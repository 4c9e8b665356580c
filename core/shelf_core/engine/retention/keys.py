"""What each kept result depends on, all of it in this place: results are the same wherever their keys are.

A part of the document stands for itself by its JSON. Points of a copy, holdings and frames are kept once for what they were
made from, so the objects themselves stand in keys; a key holds on to them, so that their identity is not used again.
"""

from collections.abc import Hashable, Sequence
from typing import NamedTuple

from shelf_core.arrays import Instants, Mask
from shelf_core.design.base import Part
from shelf_core.design.cadences import Cadence
from shelf_core.design.routes import Take
from shelf_core.design.targets import Target
from shelf_core.engine.retention.arrivals import Arrivals, Stock
from shelf_core.engine.retention.lifecycle import CopyLife
from shelf_core.engine.retention.lives import Circumstances, CopyRules
from shelf_core.engine.schedule.frame import Frame

Window = tuple[str | None, str | None]
"""The dates from which and until which a workload runs."""
Key = tuple[Hashable, ...]


class Ruled(NamedTuple):
    """The rules of a copy, and what stands for all of them in keys."""

    rules: CopyRules
    key: Key

    def with_sessions(self, sessions: Instants) -> "Ruled":
        """The rules of a rotation, once it is known when the copy writes."""
        return Ruled(self.rules._replace(sessions=sessions), (*self.key, sessions.tobytes()))


def runs_key(cadence: Cadence, frame: Frame) -> Key:
    """Runs of a cadence."""
    return ("runs", frame, _said(cadence))


def taken_key(cadence: Cadence, window: Window) -> Key:
    """What a copy takes itself."""
    return ("first", _said(cadence), window)


def read_key(source: CopyLife, cadence: Cadence, window: Window, not_taken: Mask) -> Key:
    """What a copy reads of another at its own runs."""
    return ("reading", source, _said(cadence), window, not_taken.tobytes())


def followed_key(source: CopyLife, take: Take | None, delay: str, comes_as: str) -> Key:
    """What a copy that follows another receives."""
    return ("following", source, _said(take) if isinstance(take, Part) else "all", delay, comes_as)


def arrived_key(arrivals: Arrivals) -> Key:
    """What has come to a copy, whatever it was found from: what a source keeps longer may be read by nobody."""
    return ("arrived", arrivals.digest())


def written_key(brought: Key, frame: Frame, stock: Stock) -> Key:
    """When a copy writes what is brought to it."""
    return ("written", brought, frame, stock.said)


def rules_key(rules: CopyRules) -> Key:
    """All rules of a copy but the sessions of a rotation."""
    return (
        _said(rules.ladder),
        _said(rules.rotation),
        tuple(map(_said, rules.locks)),
        rules.sweep,
        rules.traits,
        tuple((_said(stage.step), *stage[1:]) for stage in rules.stages),
        rules.taken_rungs,
    )


def life_key(brought: Key, frame: Frame, rules: Key, circumstances: Circumstances, stock: Stock) -> Key:
    """What becomes of points on a copy: what is brought, all of its rules, and what bears on them beside."""
    return (*brought, frame, rules, tuple(map(_said, circumstances.members)), circumstances.holds, stock.said)


def holding_key(*lies: Hashable) -> Key:
    """Points of workloads on a target: where they lie, the points, and what the workloads are like."""
    return ("holding", *lies)


def totals_key(target: Target, holdings: Sequence[Hashable], frame: Frame) -> Key:
    """What a target holds on each day: how it lays out what lies on it and gives space back."""
    return ("totals", target.media == "snapshot", target.packing, _said(target.reclaim), frame, tuple(holdings))


def slots_key(target: Target, holdings: Sequence[Hashable], frame: Frame) -> Key:
    """When a tape library has more cartridges than slots."""
    of_target = (target.slots, target.cartridge, target.batch_closes, target.returns_after)
    return ("slots", *of_target, frame, tuple(holdings))


def cost_key(
    target: Target, holdings: Sequence[Hashable], frame: Frame, readers: Sequence[Hashable], moves: Sequence[Hashable]
) -> Key:
    """What a target costs: itself and its prices, what lies on it and reads from it where, and what moved bytes go by."""
    return ("cost", _said(target), frame, tuple(holdings), tuple(readers), tuple(moves))


def _said(part: Part | None) -> str | None:
    return None if part is None else part.model_dump_json()
