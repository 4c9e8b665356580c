"""Long forecasts: how far they are, a way to stop them, and how much is too much."""

from collections.abc import Callable

MOST_POINTS = 10_000_000
"""Points of all distinct rules of a design together, whatever the number of workloads that share them."""
MOST_BYTES = 850 * 2**20
"""Memory for these points, all that claims them, and the sums made of them: a forecast stays below 1 GB."""
BYTES_TO_ADD_UP = 80
"""What it takes for each point, beside the point itself, to add up a target."""

Watch = Callable[[int, int], None]
"""Is told how many parts are done and how many there are; what it raises stops the forecast."""


class Stopped(Exception):
    """The forecast was stopped by whoever watched it."""


def nobody(_done: int, _of: int) -> None:
    """The watch of a forecast that nobody watches."""
