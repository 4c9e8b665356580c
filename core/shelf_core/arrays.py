"""What arrays hold. Each is one-dimensional with an element for each thing, unless its place says otherwise.

The names say what a number means: an instant is never a place among points, and a count is never an amount of bytes.
"""

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
