"""Dates as people type them: read where they can mean one day, asked about where they can mean two."""

import re
from datetime import date

from shelf_core.design.patterns import MONTH_NAMES

_YEAR_FIRST = re.compile(r"(\d{4})[-/. ](\d{1,2})[-/. ](\d{1,2})")
_YEAR_LAST = re.compile(r"(\d{1,2})([-/.] ?)(\d{1,2})[-/.] ?(\d{4})")
_DAY_MONTH = re.compile(r"(\d{1,2})\.?(?:st|nd|rd|th)? ([A-Za-z]+)\.?,? (\d{4})")
_MONTH_DAY = re.compile(r"([A-Za-z]+)\.? (\d{1,2})(?:st|nd|rd|th)?,? (\d{4})")
_EXAMPLES = 'such as 2027-03-31 or "31 March 2027"'


def typed_date(text: str) -> str:
    """The date that a text says, as it stands in a document: `2027-03-31`, `31 March 2027`, `Mar 31, 2027`, `31.3.2027`.

    Raises ValueError for what is no date, and for what may be two, such as `03/04/2027`.

    >>> typed_date("31 March 2027"), typed_date("31.3.2027")
    ('2027-03-31', '2027-03-31')
    """
    bare = " ".join(text.split())
    year, month, day = _parts(bare, text)
    try:
        return date(year, month, day).isoformat()
    except ValueError:
        raise ValueError(f'expected a date {_EXAMPLES}, got "{text}", which there is not') from None


def _parts(bare: str, text: str) -> tuple[int, int, int]:
    if found := _YEAR_FIRST.fullmatch(bare):
        return int(found[1]), int(found[2]), int(found[3])
    if found := _DAY_MONTH.fullmatch(bare):
        return int(found[3]), _month(found[2], text), int(found[1])
    if found := _MONTH_DAY.fullmatch(bare):
        return int(found[3]), _month(found[1], text), int(found[2])
    if found := _YEAR_LAST.fullmatch(bare):
        return _without_names(int(found[1]), int(found[3]), int(found[4]), found[2], text)
    raise ValueError(f'expected a date {_EXAMPLES}, got "{text}"')


def _without_names(first: int, second: int, year: int, mark: str, text: str) -> tuple[int, int, int]:
    """With points the day stands first; else it shows by a number above 12, or it is asked about."""
    if mark.startswith(".") or first > 12 or first == second:
        return year, second, first
    if second > 12:
        return year, first, second
    ways = f"{year:04}-{second:02}-{first:02} or {year:04}-{first:02}-{second:02}"
    raise ValueError(f'expected a date that reads one way, got "{text}", which may be {ways}')


def _month(word: str, text: str) -> int:
    found = [at for at, name in enumerate(MONTH_NAMES, start=1) if len(word) > 2 and name.lower().startswith(word.lower())]
    if len(found) != 1:
        raise ValueError(f'expected a date {_EXAMPLES}, got "{text}": there is no month "{word}"')
    return found[0]
