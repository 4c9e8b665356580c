"""Points of the reference, and where each lies."""

from dataclasses import dataclass, field
from typing import Any


@dataclass(eq=False)
class Point:
    """One point of one copy of one workload."""

    taken: int
    written: int
    kind: str
    run: str
    parent: "Point | None"
    source: "Point | None" = None
    given: float | None = None
    goes_with: "Point | None" = None
    picked_by: set[str] = field(default_factory=set)
    holds: list[dict[str, Any]] = field(default_factory=list)
    lies: "dict[int, Lying]" = field(default_factory=dict)

    @property
    def there(self) -> bool:
        """Whether it is on any stage of its copy."""
        return any(lying.there for lying in self.lies.values())


@dataclass(eq=False)
class Lying:
    """A point on one stage: stored there as a kind, building on what lies there too."""

    point: Point
    stage: int
    came: int
    stored_as: str
    parent: "Lying | None"
    locked_until: int = -1
    there: bool = True
    left: bool = False
