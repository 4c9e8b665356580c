"""Finding what a command names, and ids for what is new."""

from collections.abc import Sequence
from typing import Any, TypeVar

from shelf_core.design.faults import DesignError, fault, shown

Named = TypeVar("Named", bound=Any)


def the(field: str, entries: Sequence[Named], key: str) -> Named:
    """The entry with an id. Raises DesignError at the field of the command that names it when there is none."""
    found = next((one for one in entries if one.id == key), None)
    if found is None:
        known = ", ".join(one.id for one in entries) or "none"
        raise DesignError([fault(field, message=f"expected one of {known}, got {shown(key)}")])
    return found


def fresh_id(wanted: str, entries: Sequence[Any]) -> str:
    """An id that no entry has: the wanted one, or it with the first number that is free.

    >>> from shelf_core.design.targets import Site
    >>> fresh_id("house", [Site(id="house"), Site(id="house-2")])
    'house-3'
    """
    taken = {one.id for one in entries}
    number, free = 1, wanted
    while free in taken:
        number += 1
        free = f"{wanted}-{number}"
    return free


def replaced(entries: Sequence[Named], entry: Named) -> list[Named]:
    """The entries with another in the place of the one that has its id."""
    return [entry if one.id == entry.id else one for one in entries]
