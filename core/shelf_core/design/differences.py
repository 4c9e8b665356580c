"""What tells one design from another, entry by entry."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from shelf_core.design.document import Design
from shelf_core.design.editing import PARTS, WHOLE, WHOLES, Change, entry_of

How = Literal["added", "changed", "taken out"]


@dataclass(frozen=True)
class EntryDifference:
    """One entry that is not the same: its part, key and name, and what becomes of it."""

    part: str
    key: str
    name: str
    how: How


def changes_between(before: Design, after: Design) -> list[Change]:
    """The changes that make a design into another; the order of lists aside."""
    return [change for part in PARTS for change in _of_part(before, after, part)]


def differences(before: Design, after: Design) -> list[EntryDifference]:
    """The same in words."""
    found = []
    for change in changes_between(before, after):
        was = entry_of(before, change.part, change.key)
        how: How = "taken out" if change.value is None else "added" if was is None else "changed"
        named = change.value or was
        found.append(EntryDifference(change.part, change.key, getattr(named, "name", "") or change.key, how))
    return found


def _of_part(before: Design, after: Design, part: str) -> Iterator[Change]:
    if part in WHOLES:
        value = entry_of(after, part, WHOLE)
        if value != entry_of(before, part, WHOLE):
            yield Change(part, WHOLE, value)
        return
    was = {one.id: one for one in getattr(before, part)}
    now = {one.id: one for one in getattr(after, part)}
    for key in was:
        if key not in now:
            yield Change(part, key, None)
    for key, value in now.items():
        if value != was.get(key):
            yield Change(part, key, value)
