"""The life of all points of one copy, computed once for all workloads that share its rules."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from shelf_core.calendar.zones import Seconds
from shelf_core.engine.frame import NEVER
from shelf_core.engine.kinds import Kinds
from shelf_core.engine.parents import Parents
from shelf_core.engine.removals import with_what_needs_it


@dataclass(frozen=True, eq=False)
class Lifecycle:
    """The points of a copy in the order in which they were written, one array element per point.

    `removed` is the sweep at which a point goes (FAR when it stays past the design's end), `parent` the place of what it
    builds on (-1 for none), `needs_parent` whether it cannot be there without it, `claims` the end of each rule's claim,
    `locked` the end of its own lock (NEVER for none).
    """

    taken: Seconds
    written: Seconds
    kind: Kinds
    run: Seconds
    run_ids: tuple[str, ...]
    parent: Parents
    needs_parent: NDArray[np.bool_]
    removed: Seconds
    claims: dict[str, Seconds]
    locked: Seconds

    def locked_at(self, instant: int) -> Seconds:
        """The end of each point's lock as it stands just before an instant: its own, or that of what needs it by then."""
        own = np.where(self.written < instant, self.locked, NEVER)
        return with_what_needs_it(own, self.parent, self.needs_parent)

    def __len__(self) -> int:
        return len(self.taken)
