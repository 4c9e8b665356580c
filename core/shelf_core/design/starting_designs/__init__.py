"""Worked designs to begin with: small, whole, and each with something to find. All that they hold is invented."""

from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from shelf_core.design.document import Design
from shelf_core.design.reading import read_design


@dataclass(frozen=True)
class DesignStart:
    """A worked design to begin with, and what it shows. Its name, zone and years are to be edited as all else."""

    id: str
    fits: str
    design: Design


_FITS = {
    "small-office": "One disk and a rented store that locks. To find: the line out, and the year in which the disk is full.",
    "two-sites-and-a-cloud-region": "Snapshots, replicas, a pool that shares blocks, a region. To find: what is full first.",
    "archive-with-tape-and-decades": "Thirty years of films on a disk and on tape. To find: when the slots run out.",
    "databases-with-logs": "Fulls, differentials, logs and a locked copy. To find: the duty that the night breaks.",
}


@cache
def design_starts() -> tuple[DesignStart, ...]:
    """The worked designs, the smallest first.

    >>> [one.design.name for one in design_starts()][:2]
    ['Small office', 'Two sites and a cloud region']
    """
    folder = files(__name__)
    return tuple(DesignStart(key, fits, read_design((folder / f"{key}.json").read_bytes())) for key, fits in _FITS.items())
