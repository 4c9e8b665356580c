"""Long work in parts that can be done apart: in any order, by anybody, and put together in the end."""

from collections.abc import Sequence
from typing import Protocol, TypeVar

from shelf_core.engine.watching import Watch, nobody

Part = TypeVar("Part")
Whole_co = TypeVar("Whole_co", covariant=True)


class Divided(Protocol[Part, Whole_co]):
    """Work that falls into parts, none of which needs another one's result."""

    def __len__(self) -> int:
        """How many parts there are."""
        ...

    def part(self, number: int) -> Part:
        """Do one part, counted from 0."""
        ...

    def joined(self, parts: Sequence[Part]) -> Whole_co:
        """The result, of all parts in their order."""
        ...


def in_one_go(work: Divided[Part, Whole_co], watch: Watch = nobody) -> Whole_co:
    """All parts one after another. `watch` is told after each how many are done; what it raises stops the work."""
    parts = []
    for number in range(len(work)):
        parts.append(work.part(number))
        watch(number + 1, len(work))
    return work.joined(parts)
