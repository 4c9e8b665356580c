"""Snapshots beside their source, and replicas of them on snapshot space at another site (docs/model.md, Bytes)."""

from shelf_core.design.routes import Copy
from shelf_core.design.targets import Media, Target

ORIGINAL: Media = "disk"
"""The medium that the original is taken to lie on."""


def is_replica(copy: Copy, target: Target) -> bool:
    """Whether what a copy has on a target are replicas of snapshots, a copy of the data.

    >>> is_replica(Copy(id="b", target="far", ladder="l", from_="a"), Target(id="far", media="snapshot", site="there"))
    True
    """
    return target.media == "snapshot" and copy.from_ is not None


def medium_of(target: Target) -> Media:
    """The medium of what lies on a target. Snapshot space is storage of the original's kind, no other medium."""
    return ORIGINAL if target.media == "snapshot" else target.media
