"""What a finding is, and the copies that findings are looked for on."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from shelf_core.design.ladders import Ladder
from shelf_core.design.routes import Copy, Route
from shelf_core.engine.retention.holding import Holding
from shelf_core.forecast.forecast import Forecast

Kind = Literal[
    "rung without candidates",
    "minimum stay never met",
    "chain never closes",
    "lock outlasts its ladder",
    "ladder never lets go",
    "stock of an ended workload",
    "workload no route takes",
    "one site only",
    "on its source's storage only",
    "skipped by a clock change",
    "source gone before the copy",
    "most of it unlocked",
    "index on cold storage",
    "lock that its target cannot keep",
    "lock on tapes in turn",
    "more cartridges than slots",
    "synthetic on tape",
    "starts with its source",
    "no way",
    "late",
    "starts too early",
    "first full outlasts its window",
    "drive starves",
    "stream limit idles a line",
    "never catches up",
    "nothing is needed first",
    "none left of what is needed first",
]


@dataclass(frozen=True)
class Finding:
    """One slip. The ids say what it is about, None where it is about no such thing."""

    kind: Kind
    sentence: str
    way_out: str
    route: str | None = None
    copy: str | None = None
    ladder: str | None = None
    cadence: str | None = None
    workload: str | None = None
    target: str | None = None


@dataclass(frozen=True, eq=False)
class CopyInUse:
    """A copy with its ladder and what lies on each of its stages, for each group of workloads."""

    route: Route
    copy: Copy
    ladder: Ladder | None
    stages: list[list[Holding]]

    @property
    def name(self) -> str:
        """Its route and itself, as sentences call them."""
        return f"{self.route.name or self.route.id}: {self.copy.name or self.copy.id}"

    def finding(self, kind: Kind, sentence: str, way_out: str) -> Finding:
        """A finding about this copy, its ladder and its cadence."""
        return Finding(kind, sentence, way_out, self.route.id, self.copy.id, self.copy.ladder, self.copy.cadence)


def copies_in_use(result: Forecast) -> Iterator[CopyInUse]:
    """Each copy that ever has a point, in the order of the document."""
    ladders = {ladder.id: ladder for ladder in result.design.ladders}
    by_copy: dict[tuple[str, str], list[Holding]] = {}
    for holding in result.holdings:
        by_copy.setdefault((holding.route, holding.copy), []).append(holding)
    for route in result.design.routes:
        for copy in route.copies:
            holdings = by_copy.get((route.id, copy.id), [])
            stages = [[one for one in holdings if one.stage == stage] for stage in range(1 + len(copy.step_downs))]
            if stages[0] and any(len(one.life) for one in stages[0]):
                yield CopyInUse(route, copy, ladders.get(copy.ladder or ""), stages)
