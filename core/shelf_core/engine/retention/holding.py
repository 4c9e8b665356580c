"""A holding: which points of which workloads lie on a target."""

from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from typing import Any, TypeVar

from shelf_core.design.workloads import Workload
from shelf_core.engine.retention.lifecycle import CopyLife, Lifecycle

T = TypeVar("T")


@dataclass(frozen=True, eq=False)
class Holding:
    """The points of one copy on one of its targets, for workloads that share its rules and all that bears on them.

    `stage` is 0 for the copy's own target, 1 for that of its first step-down, and so on; `whole` the copy over all stages.
    """

    route: str
    copy: str
    target: int
    stage: int
    whole: CopyLife
    workloads: tuple[Workload, ...]
    _known: dict[str, tuple[Hashable, Any]] = field(default_factory=dict)

    def once(self, name: str, compute: Callable[[], T], depends: Hashable = None) -> T:
        """What is computed from this holding and what it `depends` on beside, computed once.

        The next forecast meets the same holding again; what depends on something else then is computed anew.
        """
        if name not in self._known or self._known[name][0] != depends:
            self._known[name] = (depends, compute())
        found: T = self._known[name][1]
        return found

    @property
    def life(self) -> Lifecycle:
        """The points on this target."""
        return self.whole.stages[self.stage]

    def of(self, *workloads: Workload) -> "Holding":
        """The same points for one or some of the workloads alone."""
        return Holding(self.route, self.copy, self.target, self.stage, self.whole, workloads)
