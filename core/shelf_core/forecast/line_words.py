"""Lines between sites in plain words, and their limits through a week."""

from dataclasses import dataclass

from shelf_core.design.document import Design
from shelf_core.design.links import Limit, Link
from shelf_core.design.patterns import DAY_NAMES
from shelf_core.design.values import bytes_per_second_of

_CODES = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
_SETS = {_CODES: "every day", _CODES[:5]: "on workdays", _CODES[5:]: "at weekends"}


@dataclass(frozen=True)
class Stretch:
    """Part of a day on which a limit stands: the day by its place in the week, Monday first, and hours since its midnight."""

    day: int
    from_hour: float
    to_hour: float


@dataclass(frozen=True)
class LimitReading:
    """A limit in words, its speed as it stands in the document, and where it stands in a week."""

    sentence: str
    speed: str
    is_pause: bool
    stretches: tuple[Stretch, ...]


@dataclass(frozen=True)
class LinkReading:
    """A line in words, with its limits in the order of the document."""

    sentence: str
    limits: tuple[LimitReading, ...]


def link_reading(link: Link, design: Design) -> LinkReading:
    """What a line between two sites carries, and when less."""
    names = [next((site.name or site.id for site in design.sites if site.id == one), one) for one in link.sites]
    carries = f"carries {speed_words(link.speed)}" if link.speed is not None else "carries whatever comes"
    shared = " for both directions together" if link.shared else " each way" if link.speed is not None else ""
    usable = f", of which {link.usable_percent:g} % count" if link.usable_percent != 100 else ""
    alone = f"; one transfer alone gets at most {speed_words(link.stream_speed)}" if link.stream_speed is not None else ""
    limits = tuple(_limit_reading(limit) for limit in link.limits)
    parts = [f"Between {names[0]} and {names[1]} it {carries}{shared}{usable}{alone}."]
    parts += [f"{one.sentence[0].upper()}{one.sentence[1:]}." for one in limits]
    return LinkReading(" ".join(parts), limits)


def speed_words(speed: str | float) -> str:
    """A speed as it is read: as it stands in the document, a bare number as bytes a second."""
    return speed if isinstance(speed, str) else f"{speed:g} B/s"


def _limit_reading(limit: Limit) -> LimitReading:
    is_pause = bytes_per_second_of(limit.speed) == 0
    days = tuple(code for code in _CODES if limit.days is None or code in limit.days)
    when = _SETS.get(days) or f"on {_listed([DAY_NAMES[_CODES.index(code)] for code in days])}"
    hours = f" from {limit.from_} to {limit.to}" if limit.from_ else ", all day"
    what = "nothing goes over it" if is_pause else f"at most {speed_words(limit.speed)}"
    return LimitReading(f"{when}{hours} {what}", speed_words(limit.speed), is_pause, _stretches(limit, days))


def _stretches(limit: Limit, days: tuple[str, ...]) -> tuple[Stretch, ...]:
    """A limit that runs past midnight belongs to the day on which it begins, and stands on the next one too."""
    begin, end = _hour(limit.from_ or "00:00"), _hour(limit.to or "00:00")
    found = []
    for code in days:
        day = _CODES.index(code)
        if end > begin:
            found.append(Stretch(day, begin, end))
            continue
        found.append(Stretch(day, begin, 24.0))
        if end > 0:
            found.append(Stretch((day + 1) % 7, 0.0, end))
    return tuple(found)


def _hour(clock: str) -> float:
    return int(clock[:2]) + int(clock[3:5]) / 60


def _listed(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
