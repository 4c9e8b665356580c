"""What arrays hold. Each is one-dimensional with an element for each thing, unless its place says otherwise.

The names say what a number means: an instant is never a place among points, and a count is never an amount of bytes.
"""

from typing import Any

import numpy as np
from numpy.typing import NDArray

Instants = NDArray[np.int64]
"""Instants since 1970-01-01T00:00 UTC, as civil time counts them: without leap seconds."""
Ticks = NDArray[np.int64]
"""Instants with the phase in which something happens within them: four to a second (`engine/volume/ledger.py`)."""
LocalSeconds = NDArray[np.int64]
"""Instants since 1970-01-01T00:00 on the clocks of a zone."""
Lengths = NDArray[np.int64]
"""Lengths of time, in seconds."""
Days = NDArray[np.int64]
"""Days of the calendar, counted from 1970-01-01."""
Numbers = NDArray[np.int64]
"""Numbers of months, years, weekdays or periods, each said where it is used."""
Places = NDArray[np.int64]
"""Places in another array or list, from 0."""
Counts = NDArray[np.int64]
"""How many there are of something."""
Mask = NDArray[np.bool_]
"""Which of some things are meant."""
Bytes = NDArray[np.float64]
"""Amounts of bytes."""
Shares = NDArray[np.float64]
"""Parts of a whole, from 0 to 1."""
Money = NDArray[np.float64]
"""Amounts of money in the currency of the design."""


def begins_anew(values: NDArray[np.integer[Any]] | NDArray[np.float64]) -> Mask:
    """Which elements differ from the one before them; the first does.

    >>> begins_anew(np.array([3, 3, 5, 5, 3])).tolist()
    [True, False, True, False, True]
    """
    found = np.ones(len(values), bool)
    np.not_equal(values[1:], values[:-1], out=found[1:])
    return found


def sums_before(changes: Bytes) -> Bytes:
    """The sum before each change, and after the last: one more than there are changes.

    >>> sums_before(np.array([2.0, 3.0, -1.0])).tolist()
    [0.0, 2.0, 5.0, 4.0]
    """
    sums = np.zeros(len(changes) + 1)
    np.cumsum(changes, out=sums[1:])
    return sums
