"""The small values of a document: sizes, durations, dates and times, each with one canonical written form.

In a document they stay text (or a number of bytes), so that what was typed comes back as it was typed; the functions
here give them meaning.
"""

import math
import re
from datetime import date, datetime
from decimal import Decimal
from functools import lru_cache
from typing import Annotated, Any

from pydantic import AfterValidator, BeforeValidator, Field, WithJsonSchema

from shelf_core.calendar.names import Duration
from shelf_core.design.faults import expected
from shelf_core.digits import grouped

TB = 1e12
"""The decimal terabyte, in which prices are said."""
LONGEST_YEARS = 150
"""No keep, lock or design is longer than this."""

LARGEST_BYTES = 10**24

_DECIMAL = {"B": 1, "kB": 10**3, "MB": 10**6, "GB": 10**9, "TB": 10**12, "PB": 10**15, "EB": 10**18}
_BINARY = {"KiB": 2**10, "MiB": 2**20, "GiB": 2**30, "TiB": 2**40, "PiB": 2**50, "EiB": 2**60}
UNITS: dict[str, int] = {**_DECIMAL, **_BINARY}
"""Bytes of a unit: SI prefixes are decimal (SI Brochure), binary ones are those of IEC 80000-13."""

_SIZE = re.compile(r"(-?\d{1,30}(?:\.\d{1,18})?) ?([A-Za-z]{1,3})")
_DURATION = re.compile(
    r"P(?=.)(?:(\d{1,6})Y)?(?:(\d{1,6})M)?(?:(\d{1,6})W)?(?:(\d{1,6})D)?"
    r"(?:T(?=.)(?:(\d{1,9})H)?(?:(\d{1,9})M)?(?:(\d{1,9})S)?)?"
)
_CLOCK = re.compile(r"([01]\d|2[0-3]):([0-5]\d)")


@lru_cache(maxsize=4096)
def bytes_of(size: str | int | float) -> float:
    """The number of bytes of a size such as `"12 TB"`, `"1.5 TiB"` or `1000`.

    Raises ValueError for anything else; there is no hidden 1024.
    """
    if isinstance(size, (int, float)):
        if not math.isfinite(size) or abs(size) > LARGEST_BYTES:
            raise expected(f"a size of at most {grouped(1_000_000)} EB", size)
        return float(size)
    match = _SIZE.fullmatch(size)
    if match is None or match[2] not in UNITS:
        raise expected('a size such as "12 TB", "1.5 TiB" or a number of bytes', size)
    value = Decimal(match[1]) * UNITS[match[2]]
    if abs(value) > LARGEST_BYTES:
        raise expected(f"a size of at most {grouped(1_000_000)} EB", size)
    return float(value)


_SPEED = re.compile(r"(\d{1,30}(?:\.\d{1,18})?) ?([A-Za-z]{1,4})/s")
_BITS = {"bit": 1, "kbit": 10**3, "Mbit": 10**6, "Gbit": 10**9, "Tbit": 10**12}
SPEED_WORDS = 'a speed such as "400 MB/s", "200 MiB/s" or "10 Gbit/s"'


@lru_cache(maxsize=4096)
def bytes_per_second_of(speed: str | int | float) -> float:
    """The bytes a second of a speed such as `"400 MB/s"`, `"10 Gbit/s"` (10^9 bits, 8 bits a byte) or a number of bytes.

    Raises ValueError for anything else.

    >>> bytes_per_second_of("800 Mbit/s")
    100000000.0
    """
    if isinstance(speed, (int, float)):
        if not math.isfinite(speed) or not 0 <= speed <= LARGEST_BYTES:
            raise expected(SPEED_WORDS, speed)
        return float(speed)
    match = _SPEED.fullmatch(speed)
    if match is None or (match[2] not in UNITS and match[2] not in _BITS):
        raise expected(SPEED_WORDS, speed)
    value = Decimal(match[1]) * UNITS[match[2]] if match[2] in UNITS else Decimal(match[1]) * _BITS[match[2]] / 8
    if value > LARGEST_BYTES:
        raise expected(f"a speed of at most {grouped(1_000_000)} EB/s", speed)
    return float(value)


@lru_cache(maxsize=4096)
def duration_of(text: str) -> Duration:
    """The parts of an ISO 8601 duration such as `P14D`, `P1Y6M` or `PT6H`. Raises ValueError for anything else."""
    match = _DURATION.fullmatch(text)
    if match is None:
        raise expected("an ISO 8601 duration such as P14D, P5W, P12M, P7Y or PT6H", text)
    years, months, weeks, days, hours, minutes, seconds = (int(part or 0) for part in match.groups())
    length = Duration(12 * years + months, 7 * weeks + days, 3600 * hours + 60 * minutes + seconds)
    if length.rough_years > LONGEST_YEARS:
        raise expected(f"a duration of at most {LONGEST_YEARS} years", text)
    return length


def day_of(text: str) -> date:
    """The date of `2027-01-31`."""
    return date.fromisoformat(text)


def _canonical_size(value: Any) -> str | int | float:
    if isinstance(value, bool) or not isinstance(value, (str, int, float)):
        raise expected('a size such as "12 TB", "1.5 TiB" or a number of bytes', value)
    if isinstance(value, str):
        value = value.strip()
        bytes_of(value)
        number, unit = _SIZE.fullmatch(value).groups()  # type: ignore[union-attr]
        whole = Decimal(number).normalize()
        return f"{whole:f} {unit}"
    bytes_of(value)
    return int(value) if float(value).is_integer() else value


def _canonical_positive_size(value: Any) -> str | int | float:
    size = _canonical_size(value)
    if bytes_of(size) < 0:
        raise expected("a size that is not negative", value)
    return size


def _canonical_speed(value: Any) -> str | int | float:
    if isinstance(value, bool) or not isinstance(value, (str, int, float)):
        raise expected(SPEED_WORDS, value)
    if isinstance(value, str):
        value = value.strip()
        bytes_per_second_of(value)
        number, unit = _SPEED.fullmatch(value).groups()  # type: ignore[union-attr]
        return f"{Decimal(number).normalize():f} {unit}/s"
    bytes_per_second_of(value)
    return int(value) if float(value).is_integer() else value


def _check_duration(value: str) -> str:
    duration_of(value)
    return value


def check_day(value: str) -> str:
    """The text, if it is a date such as 2027-01-31. Raises ValueError."""
    if not re.fullmatch(r"\d{4}-\d{2}-\d{2}", value):
        raise expected("a date such as 2027-01-31", value)
    try:
        found = date.fromisoformat(value)
    except ValueError:
        raise expected("a date of the calendar such as 2027-01-31", value) from None
    if not 1970 <= found.year <= 2400:
        raise expected("a date between 1970 and 2400", value)
    return value


def _check_clock(value: str) -> str:
    if not _CLOCK.fullmatch(value):
        raise expected("a time of day such as 22:00", value)
    return value


def _canonical_local_time(value: str) -> str:
    try:
        if not re.fullmatch(r"\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2})?", value):
            raise ValueError
        found = datetime.fromisoformat(value)
    except ValueError:
        raise expected("a local time such as 2027-01-31T22:00", value) from None
    check_day(value[:10])
    return found.isoformat(timespec="seconds" if found.second else "minutes")


_HIDDEN = re.compile(
    "[\x00-\x1f\x7f-\x9f\u200b\u200e\u200f\u2028\u2029\u202a-\u202e\u2060-\u2069\ufeff\ufff9-\ufffb\ud800-\udfff]"
)
"""What is not seen but changes what is: control characters, line breaks, marks of direction, spaces of no width."""


def check_line(value: str) -> str:
    """The text, if it is one line of what can be seen. Raises ValueError."""
    hidden = _HIDDEN.search(value)
    if hidden is not None:
        raise expected(f"a text on one line without hidden characters (U+{ord(hidden[0]):04X} is one)", value)
    return value


def _check_id(value: str) -> str:
    if not value or value != value.strip() or len(value) > 100:
        raise expected("an id of 1 to 100 characters without space around it", value)
    return check_line(value)


_SIZE_SCHEMA = WithJsonSchema(
    {"anyOf": [{"type": "string"}, {"type": "number"}], "description": 'Bytes, or "12 TB", "12 TiB".'}
)


def _written(words: str, pattern: str) -> Any:
    """How a value is written, for the published schema; reading it is stricter and says what was expected."""
    return Field(description=words, json_schema_extra={"pattern": f"^{pattern}$"})


_SPEED_SCHEMA = WithJsonSchema(
    {"anyOf": [{"type": "string"}, {"type": "number"}], "description": 'Bytes a second, or "400 MB/s", "10 Gbit/s".'}
)

Speed = Annotated[str | int | float, BeforeValidator(_canonical_speed), _SPEED_SCHEMA]
Size = Annotated[str | int | float, BeforeValidator(_canonical_positive_size), _SIZE_SCHEMA]
SizeChange = Annotated[str | int | float, BeforeValidator(_canonical_size), _SIZE_SCHEMA]
DurationText = Annotated[str, AfterValidator(_check_duration), _written("ISO 8601 duration such as P14D", _DURATION.pattern)]
Day = Annotated[str, AfterValidator(check_day), _written("Date such as 2027-01-31", r"\d{4}-\d{2}-\d{2}")]
Clock = Annotated[str, AfterValidator(_check_clock), _written("Time of day such as 22:00", _CLOCK.pattern)]
LocalTime = Annotated[
    str,
    AfterValidator(_canonical_local_time),
    _written("Local time such as 2027-01-31T22:00", r"\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2})?"),
]
Id = Annotated[str, AfterValidator(_check_id), Field(json_schema_extra={"minLength": 1, "maxLength": 100})]
Text = Annotated[str, Field(max_length=200), AfterValidator(check_line)]
Percent = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
GrowthPercent = Annotated[float, Field(gt=-100, le=10_000, allow_inf_nan=False)]
Price = Annotated[float, Field(ge=0, le=1e12, allow_inf_nan=False)]
Reduction = Annotated[float, Field(ge=0.01, le=10_000, allow_inf_nan=False)]
