"""How digits are grouped wherever a number is written for people: in threes, with a narrow space that no line breaks at.

Somebody may like something else between thousands: what was written for people is then written so (`with_digits`).
"""

import re
from typing import Literal

SEPARATOR = "\u202f"
Digits = Literal["space", "comma", "apostrophe", "none"]
"""What somebody likes to see between thousands."""
SEPARATORS: dict[Digits, str] = {"space": SEPARATOR, "comma": ",", "apostrophe": "\u2019", "none": ""}
_THOUSANDS = re.compile(rf"(?<=\d){SEPARATOR}(?=\d{{3}})")


def grouped(number: float, decimals: int | None = None) -> str:
    """A number with its thousands apart, with so many decimals, or with those it has.

    >>> grouped(12_345), grouped(-1_234_567.891, 2), grouped(42.5)
    ('12\u202f345', '-1\u202f234\u202f567.89', '42.5')
    """
    written = f"{number:,}" if decimals is None else f"{number:,.{decimals}f}"
    return written.replace(",", SEPARATOR)


def with_digits(text: str, digits: Digits) -> str:
    """A text for people with what somebody likes between thousands.

    >>> with_digits(f"{grouped(1_234_567)} points", "comma")
    '1,234,567 points'
    """
    return text if digits == "space" else _THOUSANDS.sub(SEPARATORS[digits], text)
