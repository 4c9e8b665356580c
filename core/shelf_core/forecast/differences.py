"""What differs between two states of an entry of the document, in words for people."""

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import islice
from typing import Any

from shelf_core.design.patterns import rule_sentence
from shelf_core.design.values import duration_of
from shelf_core.digits import grouped
from shelf_core.forecast.wording import duration_words

MOST = 40
NOTHING = "nothing"
_DURATION = re.compile(r"P(?=[\dT])[\dYMWDTHS]*")
_FIELDS = {"rrule": "when", "daily_change_percent": "change a day, %", "annual_growth_percent": "growth a year, %"}


@dataclass(frozen=True)
class FieldChange:
    """A field that differs: its words, and those of its value before and after.

    >>> differences({"id": "k", "recent": [{"keep": "P14D"}]}, {"id": "k", "recent": [{"keep": "P30D"}]})
    [FieldChange(field='recent, 1, keep', before='14 days', after='30 days')]
    """

    field: str
    before: str
    after: str


def differences(before: dict[str, Any] | None, after: dict[str, Any] | None, most: int = MOST) -> list[FieldChange]:
    """The fields that differ between two states of an entry, each as deep as both have it, at most so many.

    Entries of a list are told apart by their ids or names, where they have some, else by their places.
    """
    return list(islice(_differences((), before or {}, after or {}), most))


def _differences(path: tuple[str, ...], before: Any, after: Any) -> Iterator[FieldChange]:
    if before == after:
        return
    pairs = _pairs(before, after)
    if pairs is not None:
        for name, old, new in pairs:
            yield from _differences((*path, name), old, new)
        return
    was, now = value_words(before), value_words(after)
    if was != now:
        yield FieldChange(", ".join(path), was, now)


def _pairs(before: Any, after: Any) -> Iterable[tuple[str, Any, Any]] | None:
    """What two values are made of, side by side; None where one of them is no whole made of parts, or they are unlike."""
    if isinstance(before, dict) and isinstance(after, dict):
        return [(field_words(name), before.get(name), after.get(name)) for name in dict.fromkeys([*before, *after])]
    if not (isinstance(before, list) and isinstance(after, list)):
        return None
    named = [{_name_of(one): one for one in several} for several in (before, after)]
    if all(None not in one for one in named) and [len(before), len(after)] == [len(one) for one in named]:
        both = dict.fromkeys([*named[0], *named[1]])
        return [(str(name), named[0].get(name), named[1].get(name)) for name in both]
    if len(before) == len(after) and all(isinstance(one, dict) for one in (*before, *after)):
        return [(str(place + 1), *pair) for place, pair in enumerate(zip(before, after, strict=True))]
    return None


def _name_of(entry: Any) -> str | None:
    return (entry.get("id") or entry.get("name")) if isinstance(entry, dict) else None


def field_words(name: str) -> str:
    """The words for a field of the document.

    >>> field_words("minimum_days")
    'minimum days'
    """
    return _FIELDS.get(name, name.strip("_").replace("_percent", ", %").replace("_", " "))


def value_words(value: Any) -> str:
    """The words for a value of the document.

    >>> value_words({"for": "P30D", "kinds": ["full", "log"], "rungs": None})
    'for 30 days, kinds full and log'
    """
    if value is None or value in ([], {}, ""):
        return NOTHING
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return grouped(value)
    if isinstance(value, str):
        return _text_words(value)
    if isinstance(value, list):
        words = [value_words(one) for one in value]
        return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
    said = ((field_words(name), value_words(one)) for name, one in value.items())
    return ", ".join(f"{name} {words}" for name, words in said if words != NOTHING) or NOTHING


def _text_words(text: str) -> str:
    if _DURATION.fullmatch(text):
        return duration_words(duration_of(text))
    return rule_sentence(text) if text.startswith("FREQ=") else text
