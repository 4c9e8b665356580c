"""Recurrences as people say them: a pattern that covers the usual rules, to and from RRULE, and as a sentence."""

from itertools import pairwise
from typing import Literal

from pydantic import Field

from shelf_core.calendar.names import WEEKDAYS
from shelf_core.calendar.rules import Rule, parse_rule
from shelf_core.design.base import Part
from shelf_core.design.values import Clock

Weekday = Literal["MO", "TU", "WE", "TH", "FR", "SA", "SU"]
DAY_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
MONTH_NAMES = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December",
)  # fmt: skip
NTH = {1: "first", 2: "second", 3: "third", 4: "fourth", 5: "fifth", -1: "last"}


class Pattern(Part):
    """How a run repeats.

    `weekly` uses `weekdays`; `monthly-weekday` the `nth` (or last, -1) of the one weekday; `monthly-day` and `yearly`
    use `day` (-1 is the last of the month), `yearly` also `month`; `hourly` and `daily` only `every`.
    """

    repeats: Literal["hourly", "daily", "weekly", "monthly-weekday", "monthly-day", "yearly"]
    every: int = Field(default=1, ge=1, le=1000)
    weekdays: list[Weekday] = []
    nth: int = Field(default=1, ge=-1, le=5)
    day: int = Field(default=1, ge=-1, le=31)
    month: int = Field(default=1, ge=1, le=12)


class Window(Part):
    """Times of day from one to another, both included, so many minutes apart."""

    first: Clock
    last: Clock
    minutes: int = Field(ge=1, le=1440)


def window_times(window: Window) -> list[str]:
    """The times of a window, such as 08:00, 12:00, 16:00. Raises ValueError for a window that ends before it begins."""
    first, last = (60 * int(text[:2]) + int(text[3:]) for text in (window.first, window.last))
    if last < first:
        raise ValueError(f"expected a window that ends at {window.first} or later, got {window.last}")
    return [f"{at // 60:02}:{at % 60:02}" for at in range(first, last + 1, window.minutes)]


def window_of(times: list[str]) -> Window | None:
    """The window whose times these are, None for times that are not evenly apart or fewer than three."""
    at = [60 * int(text[:2]) + int(text[3:]) for text in times]
    steps = {later - earlier for earlier, later in pairwise(at)}
    if len(at) < 3 or len(steps) != 1 or min(steps) < 1:
        return None
    return Window(first=times[0], last=times[-1], minutes=steps.pop())


def rule_text(pattern: Pattern) -> str:
    """The RRULE of a pattern. Raises ValueError when the pattern names no day."""
    step = f";INTERVAL={pattern.every}" if pattern.every > 1 else ""
    days = ",".join(sorted(set(pattern.weekdays), key=WEEKDAYS.index))
    if pattern.repeats in ("hourly", "daily"):
        return f"FREQ={pattern.repeats.upper()}{step}"
    if pattern.repeats == "weekly":
        if not days:
            raise ValueError("expected at least one weekday, got none")
        return f"FREQ=WEEKLY{step};BYDAY={days}"
    if pattern.repeats == "monthly-weekday":
        if "," in days or not days or pattern.nth == 0:
            raise ValueError("expected one weekday and which of the month it is")
        return f"FREQ=MONTHLY{step};BYDAY={pattern.nth}{days}"
    if pattern.day == 0:
        raise ValueError("expected a day of the month, got 0")
    if pattern.repeats == "monthly-day":
        return f"FREQ=MONTHLY{step};BYMONTHDAY={pattern.day}"
    return f"FREQ=YEARLY{step};BYMONTH={pattern.month};BYMONTHDAY={pattern.day}"


def pattern_of(text: str) -> Pattern | None:
    """The pattern of an RRULE, or None for a rule that no pattern says exactly."""
    rule = parse_rule(text)
    found = _guess(rule)
    if found is None:
        return None
    same = parse_rule(rule_text(found))
    return found if same == rule else None


def rule_sentence(text: str) -> str:
    """A rule in words, such as `every other week on Saturday`; the rule itself where no pattern fits."""
    pattern = pattern_of(text)
    if pattern is None:
        return f"by the rule {text}"
    days = _listed([DAY_NAMES[WEEKDAYS.index(day)] for day in pattern.weekdays])
    if pattern.repeats == "hourly":
        return _every(pattern.every, "hour")
    if pattern.repeats == "daily":
        return _every(pattern.every, "day")
    if pattern.repeats == "weekly":
        return f"{_every(pattern.every, 'week')} on {days}"
    if pattern.repeats == "monthly-weekday":
        return f"on the {NTH[pattern.nth]} {days} of {_every(pattern.every, 'month')}"
    day = "last day" if pattern.day == -1 else f"{pattern.day}."
    if pattern.repeats == "monthly-day":
        return f"on the {day} of {_every(pattern.every, 'month')}"
    return f"on the {day} of {MONTH_NAMES[pattern.month - 1]}, {_every(pattern.every, 'year')}"


def _guess(rule: Rule) -> Pattern | None:
    days: list[Weekday] = [WEEKDAYS[weekday] for _, weekday in rule.weekdays]  # type: ignore[misc]
    if rule.frequency in ("HOURLY", "DAILY"):
        return Pattern(repeats=rule.frequency.lower(), every=rule.interval)  # type: ignore[arg-type]
    if rule.frequency == "WEEKLY" and days:
        return Pattern(repeats="weekly", every=rule.interval, weekdays=days)
    if rule.frequency == "MONTHLY" and len(days) == 1 and rule.weekdays[0][0] in NTH:
        return Pattern(repeats="monthly-weekday", every=rule.interval, weekdays=days, nth=rule.weekdays[0][0])
    if len(rule.month_days) != 1 or rule.month_days[0] < -1:
        return None
    if rule.frequency == "MONTHLY":
        return Pattern(repeats="monthly-day", every=rule.interval, day=rule.month_days[0])
    if rule.frequency == "YEARLY" and len(rule.months) == 1:
        return Pattern(repeats="yearly", every=rule.interval, day=rule.month_days[0], month=rule.months[0])
    return None


def _every(count: int, what: str) -> str:
    if count == 1:
        return f"every {what}"
    return f"every other {what}" if count == 2 else f"every {count} {what}s"


def _listed(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}" if words else ""
