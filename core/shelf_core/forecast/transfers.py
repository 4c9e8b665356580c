"""Transfers: how long bytes take over a way, and how many requests they are."""

import math
from collections.abc import Sequence


def transfer_seconds(moved_bytes: float, bytes_per_second: float) -> float:
    """How long a transfer takes at a steady speed. Raises ValueError for a speed that is not above 0."""
    if bytes_per_second <= 0:
        raise ValueError(f"expected a speed above 0, got {bytes_per_second}")
    return moved_bytes / bytes_per_second


def run_seconds(moved_bytes: float, speeds: Sequence[float], *, verified: bool = False) -> float:
    """How long a run takes: its bytes over the slowest of source read, link and target, twice that when it is verified.

    Speeds are bytes a second. Raises ValueError for none, or for one that is not above 0.
    """
    if not speeds:
        raise ValueError("expected the speed of source, link or target, got none")
    return transfer_seconds(moved_bytes, min(speeds)) * (2 if verified else 1)


def requests(stored_bytes: float, part_bytes: float) -> int:
    """How many parts of a size an object is written or read in, the last one perhaps smaller.

    Raises ValueError for a part size that is not above 0.
    """
    if part_bytes <= 0:
        raise ValueError(f"expected a part size above 0, got {part_bytes}")
    # A millionth of a part is rounding, not a part.
    return math.ceil(stored_bytes / part_bytes - 1e-6)
