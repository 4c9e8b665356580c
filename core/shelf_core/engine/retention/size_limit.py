"""How large a design is: its points, and the memory that they take with all that claims them."""

from shelf_core.digits import grouped
from shelf_core.engine.memory import bytes_of_all
from shelf_core.engine.retention.lifecycle import CopyLife
from shelf_core.engine.watching import BYTES_TO_ADD_UP, MOST_BYTES, MOST_POINTS


class SizeLimit:
    """How large a design is so far: points, and the memory that they take with all their claims."""

    def __init__(self) -> None:
        self._points, self._bytes = 0, 0

    def add(self, life: CopyLife) -> None:
        """Count the points of a copy. Raises ValueError when they are too many with those before."""
        points = sum(len(stage) for stage in life.stages)
        self._points += points
        self._bytes += life.once("bytes", lambda: bytes_of_all([life])) + BYTES_TO_ADD_UP * points
        if self._points > MOST_POINTS:
            raise ValueError(
                f"expected at most {grouped(MOST_POINTS)} points in a design, got {grouped(self._points)} up to this copy"
            )
        if self._bytes > MOST_BYTES:
            raise ValueError(
                f"expected points that take at most {MOST_BYTES // 2**20} MB of memory with all that claims them, got more up "
                f"to this copy ({grouped(self._points)} points): take fewer points, or let more copies share their rules"
            )
