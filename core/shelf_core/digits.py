"""How digits are grouped wherever a number is written for people: in threes, with a narrow space that no line breaks at."""

SEPARATOR = "\u202f"


def grouped(number: float, decimals: int | None = None) -> str:
    """A number with its thousands apart, with so many decimals, or with those it has.

    >>> grouped(12_345), grouped(-1_234_567.891, 2), grouped(42.5)
    ('12\u202f345', '-1\u202f234\u202f567.89', '42.5')
    """
    written = f"{number:,}" if decimals is None else f"{number:,.{decimals}f}"
    return written.replace(",", SEPARATOR)
