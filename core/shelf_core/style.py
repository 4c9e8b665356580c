"""How somebody likes figures to be written, and a text for people written so."""

import re
from collections.abc import Collection, Iterator
from dataclasses import dataclass
from html import escape
from typing import Any, Literal

from shelf_core.design.patterns import MONTH_NAMES
from shelf_core.digits import SEPARATOR, Digits, with_digits

Dates = Literal["words", "iso"]
"""A date in words, such as `12 June 2027`, or as ISO 8601 has it."""
_ISO = re.compile(r"(?<![-\w])(\d{4})-(0[1-9]|1[0-2])(?:-(0[1-9]|[12]\d|3[01]))?(?![-\w])")
_IN_WORDS = re.compile(rf"\b(\d{{1,2}}) ({'|'.join(MONTH_NAMES)}) (\d{{4}})\b")
_LIKE_A_FIGURE = re.compile(rf"{_ISO.pattern}|{_IN_WORDS.pattern}|{SEPARATOR}")
_BETWEEN_TAGS = re.compile(r"(?<=>)[^<>]+(?=<)")
_TABLE = re.compile(r"(<table.*?</table>)", re.DOTALL)


@dataclass(frozen=True)
class FigureStyle:
    """What stands between thousands, and how dates are written."""

    digits: Digits = "space"
    dates: Dates = "words"


AT_FIRST = FigureStyle()
"""For whoever has chosen nothing."""


def names_like_figures(document: Any) -> frozenset[str]:
    """The names in a document, as plain JSON, in which something stands that looks like a figure: they are nobody's to restyle.

    >>> names_like_figures({"name": "House", "routes": [{"id": "r", "name": "Vault of 2028-04"}]})
    frozenset({'Vault of 2028-04'})
    """
    return frozenset(name for name in _names(document) if _LIKE_A_FIGURE.search(name))


def restyled(text: str, style: FigureStyle, *, short: bool = False, spared: Collection[str] = ()) -> str:
    """A text for people as somebody likes figures to be written, but for the names that are `spared`.

    With `short` names of months have three letters.

    >>> restyled("full on 2028-04-01; 2 January 2035 is late", FigureStyle(dates="iso"))
    'full on 2028-04-01; 2035-01-02 is late'
    >>> restyled("full on 2028-04-01; 2 January 2035 is late", FigureStyle())
    'full on 1 April 2028; 2 January 2035 is late'
    >>> restyled("full on 2028-04-01; 2028-04 costs more", FigureStyle(), short=True)
    'full on 1 Apr 2028; Apr 2028 costs more'
    >>> restyled("Vault of 2028-04 is full on 2028-04-01", FigureStyle(), spared=["Vault of 2028-04"])
    'Vault of 2028-04 is full on 1 April 2028'
    """
    if not spared:
        return _restyled(text, style, short=short)
    # What is split at is kept, in every second place: the names.
    longest_first = "|".join(re.escape(name) for name in sorted(spared, key=len, reverse=True))
    parts = re.split(f"({longest_first})", text)
    return "".join(part if place % 2 else _restyled(part, style, short=short) for place, part in enumerate(parts))


def _restyled(text: str, style: FigureStyle, *, short: bool) -> str:
    if style.dates == "iso":
        dated = _IN_WORDS.sub(lambda found: f"{found[3]}-{MONTH_NAMES.index(found[2]) + 1:02}-{int(found[1]):02}", text)
    else:
        dated = _ISO.sub(lambda found: _in_words(found, short=short), text)
    return with_digits(dated, style.digits)


def restyled_page(page: str, style: FigureStyle, spared: Collection[str] = ()) -> str:
    """A page of HTML with all that stands between its tags written so, in tables with short names of months.

    >>> restyled_page('<p id="2028-04-01">2028-04-01</p>', FigureStyle())
    '<p id="2028-04-01">1 April 2028</p>'
    """
    names = [escape(name) for name in spared]

    def part_of(part: str, *, short: bool) -> str:
        return _BETWEEN_TAGS.sub(lambda found: restyled(found[0], style, short=short, spared=names), part)

    # What is split at is kept, in every second place: the tables.
    return "".join(part_of(part, short=place % 2 == 1) for place, part in enumerate(_TABLE.split(page)))


def _names(value: Any) -> Iterator[str]:
    if isinstance(value, dict):
        if isinstance(value.get("name"), str):
            yield value["name"]
        value = list(value.values())
    if isinstance(value, list):
        for one in value:
            yield from _names(one)


def _in_words(found: re.Match[str], *, short: bool) -> str:
    year, month, day = found.groups()
    name = MONTH_NAMES[int(month) - 1]
    return f"{f'{int(day)} ' if day else ''}{name[:3] if short else name} {year}"
