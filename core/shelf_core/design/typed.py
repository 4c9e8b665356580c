"""Numbers and sizes as people type them: read where they can mean one thing, asked about where they can mean two.

The one reader of them all: cells of the grid, fields, pasted blocks, tables and workbooks. Nothing is guessed by a factor.
"""

import re
from decimal import Decimal
from typing import Literal

from shelf_core.design.values import UNITS, bytes_per_second_of, duration_of

Decimals = Literal[".", ","]
_SPACES = "\u0020\u00a0\u2009\u202f\u2007'\u2019"
_FIGURES = re.compile(rf"[+-]?[\d.,{_SPACES}]*\d[\d.,]*")
_GROUPED = re.compile(rf"\d{{1,3}}(?:([{_SPACES}.,])\d{{3}})(?:\1\d{{3}})*")
_SIZE = re.compile(rf"(?P<figures>[+-]?[\d.,{_SPACES}]*?\d[\d.,]*)[{_SPACES}]*(?P<unit>[A-Za-z]*)")
_SPEED = re.compile(
    rf"(?P<figures>[+-]?[\d.,{_SPACES}]*?\d[\d.,]*)[{_SPACES}]*(?:(?P<unit>[A-Za-z]+)[{_SPACES}]*(?:/[{_SPACES}]*s(?:ec)?)?)?"
)
_LETTERS = {"": "", "k": "k", "m": "M", "g": "G", "t": "T", "p": "P", "e": "E"}


def typed_number(text: str, decimals: Decimals | None = None, *, dot_is_decimal: bool = True) -> float:
    """The number that a text says, such as `1 250`, `1.250,5`, `12,5`, `-3.5 %`.

    `decimals` is the decimal mark where it is known, as from other cells of a table. `dot_is_decimal` says that a single point
    is one without being asked, as where figures above a thousand make no sense. Raises ValueError for what is no number and
    for what can be read two ways, such as `1,250`; the message says both.

    >>> typed_number("1.250,5")
    1250.5
    """
    bare = text.strip().removesuffix("%").strip()
    if not _FIGURES.fullmatch(bare):
        raise ValueError(f'expected a number, got "{text}"')
    sign, figures = (bare[0], bare[1:].strip()) if bare[0] in "+-" else ("", bare)
    return float(Decimal(sign + _plain_figures(figures, text, decimals, dot_is_decimal=dot_is_decimal)))


def typed_whole(text: str, decimals: Decimals | None = None) -> int:
    """The whole number that a text says. Raises ValueError as `typed_number` does, and for a part of one."""
    number = typed_number(text, decimals, dot_is_decimal=False)
    if not number.is_integer():
        raise ValueError(f'expected a whole number, got "{text}"')
    return int(number)


def typed_size(text: str, unit: str | None, decimals: Decimals | None = None) -> str:
    """The size that a text says, as it stands in a document: `12tb` and `12T` are `12 TB`, `1 250 GB` is `1250 GB`.

    `unit` is the one that a bare number takes: that of the value before it, or of the column's heading. Raises ValueError for
    what is no size, for a bare number where no unit is known, and for what can be read two ways.

    >>> typed_size("34", "TB")
    '34 TB'
    """
    match = _SIZE.fullmatch(text.strip())
    if match is None:
        raise ValueError(f'expected a size such as "12 TB" or "1.5 TiB", got "{text}"')
    number = typed_number(match["figures"], decimals, dot_is_decimal=decimals == ".")
    found = unit_of(match["unit"]) if match["unit"] else unit
    if found is None:
        raise ValueError(f'expected a size with its unit, as in "{text.strip()} TB", got "{text}"')
    return f"{_written(number)} {found}"


def typed_speed(text: str, before: str | None = None) -> str:
    """The speed that a text says, as it stands in a document: `400mb/s` is `400 MB/s`, `1 gbit/s` is `1 Gbit/s`.

    `before` is the speed that stood there, whose unit a bare number takes. Raises ValueError for what is no speed, for a bare
    number where no unit is known, and for letters that may mean bits or bytes, such as `Mb/s` or `mbps`.

    >>> typed_speed("1gbit/s")
    '1 Gbit/s'
    """
    match = _SPEED.fullmatch(text.strip())
    if match is None:
        raise ValueError(f'expected a speed such as "400 MB/s" or "1 Gbit/s", got "{text}"')
    number = typed_number(match["figures"])
    unit = _speed_unit(match["unit"], text) if match["unit"] else _unit_of_speed(before)
    if unit is None:
        raise ValueError(f'expected a speed with its unit, as in "{text.strip()} MB/s", got "{text}"')
    written = f"{_written(number)} {unit}/s"
    bytes_per_second_of(written)
    return written


def _speed_unit(letters: str, text: str) -> str:
    bits = re.fullmatch(r"([kmgt]?)bits?", letters.lower())
    if bits:
        return f"{_LETTERS[bits[1]]}bit"
    if re.fullmatch(r"[kmgt]?b", letters.lower()) and letters.endswith("b"):
        raise ValueError(
            f'expected bytes or bits, got "{text}", which may mean either; write {letters[:-1]}B/s or {letters[:-1]}bit/s'
        )
    return unit_of(letters)


def _unit_of_speed(before: str | float | None) -> str | None:
    return before.split()[-1].removesuffix("/s") if isinstance(before, str) and before.endswith("/s") else None


_DURATION_PART = re.compile(r"(\d+)\s*([a-z]+)", re.IGNORECASE)
_DURATION_LETTERS = {
    **dict.fromkeys(("y", "year", "years"), "Y"),
    **dict.fromkeys(("month", "months", "mo"), "M"),
    **dict.fromkeys(("w", "week", "weeks"), "W"),
    **dict.fromkeys(("d", "day", "days"), "D"),
    **dict.fromkeys(("h", "hour", "hours"), "TH"),
    **dict.fromkeys(("min", "minute", "minutes"), "TM"),
    **dict.fromkeys(("s", "second", "seconds"), "TS"),
}


def typed_duration(text: str) -> str:
    """The duration that a text says, as it stands in a document: `20 min`, `7 h 45 min`, `2 weeks`, `PT20M`.

    Raises ValueError for what is none, and for `m`, which may mean minutes or months.

    >>> typed_duration("7 h 45 min")
    'PT7H45M'
    """
    bare = text.strip()
    if bare[:1] in "Pp" and bare[1:2] not in "aeiou":
        duration_of(bare.upper())
        return bare.upper()
    parts = _DURATION_PART.findall(bare)
    if not parts or re.sub(r"[\s,]|and", "", _DURATION_PART.sub("", bare)):
        raise ValueError(f'expected a time such as "20 min", "7 h 45 min" or "2 weeks", got "{text}"')
    found: dict[str, str] = {}
    for number, word in parts:
        letter = _DURATION_LETTERS.get(word.lower())
        if letter is None:
            ask = '; write "min" or "months"' if word.lower() == "m" else ""
            raise ValueError(f'expected years, months, weeks, days, hours (h), minutes (min) or seconds, got "{text}"{ask}')
        if letter in found:
            raise ValueError(f'expected each unit once, got "{text}"')
        found[letter] = str(int(number))
    days = "".join(found[letter] + letter for letter in "YMWD" if letter in found)
    clock = "".join(found[letter] + letter[1] for letter in ("TH", "TM", "TS") if letter in found)
    written = f"P{days}{f'T{clock}' if clock else ''}"
    duration_of(written)
    return written


def unit_of(text: str) -> str:
    """The unit that letters stand for, in whatever case: `tb`, `T`, `To` and `TB` are TB, `tib` is TiB.

    Raises ValueError for letters that are no unit, and for those that may mean bits.
    """
    if text in UNITS:
        return text
    match = re.fullmatch(r"([kmgtpe]?)(i?)([bo]?)", text.lower())
    if match is None or (match[1] == "" and (match[2] or not match[3])):
        raise ValueError(f'expected a unit such as GB, TB or TiB, got "{text}"')
    if text[:1].isupper() and text.endswith("b") and not match[2]:
        raise ValueError(f'expected a unit of bytes, got "{text}", which may mean bits; write {text[:-1]}B')
    letter = _LETTERS[match[1]]
    return f"{letter.upper()}iB" if match[2] else f"{letter}B"


def unit_in(size: str | float | None) -> str | None:
    """The unit that a size of a document is written in; B for a bare number of bytes, None where there is no size."""
    if size is None:
        return None
    return size.split()[-1] if isinstance(size, str) and size.split()[-1] in UNITS else "B"


def decimals_in(texts: list[str]) -> Decimals | None:
    """The decimal mark that some of many numbers show beyond doubt; None where none does, or they contradict each other."""
    found: set[Decimals] = set()
    for text in texts:
        figures = re.sub(r"[^\d.,]", "", text)
        marks = re.findall(r"[.,]", figures)
        if not marks:
            continue
        last: Decimals = "," if marks[-1] == "," else "."
        if len(set(marks)) == 2 or (len(marks) == 1 and not _GROUPED.fullmatch(figures)):
            found.add(last)
        elif len(marks) > 1:
            found.add("," if last == "." else ".")
    return found.pop() if len(found) == 1 else None


def _plain_figures(figures: str, text: str, decimals: Decimals | None, *, dot_is_decimal: bool) -> str:
    """The figures without what groups them, and with a point."""
    spaced = re.search(rf"[{_SPACES}]", figures)
    marks = re.findall(r"[.,]", figures)
    mark = _decimal_mark(figures, marks, text, decimals, dot_is_decimal=dot_is_decimal)
    whole, _, part = figures.rpartition(mark) if mark else (figures, "", "")
    if mark and figures.count(mark) > 1:
        raise ValueError(f'expected a number, got "{text}"')
    if (spaced or re.search(r"[.,]", whole)) and not _GROUPED.fullmatch(whole):
        raise ValueError(f'expected figures in groups of three, got "{text}"')
    return re.sub(r"\D", "", whole or "0") + (f".{part}" if part else "")


def _decimal_mark(figures: str, marks: list[str], text: str, decimals: Decimals | None, *, dot_is_decimal: bool) -> str:
    """The mark that the part after the whole number begins with; empty for none."""
    if not marks:
        return ""
    if len(set(marks)) == 2:
        return marks[-1]
    if len(marks) > 1:
        return ""
    mark = marks[0]
    if not _GROUPED.fullmatch(figures) or figures.startswith("0") or re.search(rf"[{_SPACES}]", figures):
        return mark
    if decimals is not None:
        return mark if mark == decimals else ""
    if mark == "." and dot_is_decimal:
        return mark
    whole, part = figures.split(mark)
    raise ValueError(
        f'expected a number that can be read one way only: "{text.strip()}" may be {whole}{part} or {whole}.{part}0; '
        f"write it like one of these"
    )


def _written(number: float) -> str:
    text = f"{Decimal(str(number)):f}"
    return text.rstrip("0").rstrip(".") if "." in text else text
