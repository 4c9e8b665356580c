"""Ladders in plain words, and as bars on an axis of age."""

import re
from dataclasses import dataclass, replace
from typing import Literal

from shelf_core.calendar.names import WEEKDAYS, Duration
from shelf_core.design.ladders import KeepPeriods, KeepPoints, KeepSuperseded, Ladder, Recent, Rung
from shelf_core.design.patterns import DAY_NAMES, MONTH_NAMES, NTH
from shelf_core.design.values import duration_of
from shelf_core.design.vocabulary import DAYS_OF, HEIGHTS, LOWEST

_UNITS: dict[str, Literal["day", "week", "month", "year"]] = {"D": "day", "W": "week", "M": "month", "Y": "year"}


@dataclass(frozen=True)
class RungCandidates:
    """What a rung may choose its picks from, as the document names it and in words."""

    value: str
    words: str


@dataclass(frozen=True)
class Bar:
    """One rule of a ladder on the age axis.

    `part` and `place` say which rule it is; `keep` how it keeps: so many `points` or `periods`, for a `time`, or
    `forever`; `count` of `unit` is what is typed (for a time the number in that unit, None if it mixes units);
    `step_days` is the length of one of them and `reach_days` that of all, None where that depends on the cadence. `height`
    is how tall spines of it stand, `candidates` are what a rung may choose from (none for a recent rule).
    """

    part: Literal["recent", "rung"]
    place: int
    label: str
    keep: Literal["points", "periods", "time", "forever", "superseded"]
    count: int | None
    unit: Literal["point", "hour", "day", "week", "month", "quarter", "year"] | None
    step_days: float | None
    reach_days: float | None
    height: int = LOWEST
    candidates: tuple[RungCandidates, ...] = ()


def bars(ladder: Ladder) -> list[Bar]:
    """All rules of a ladder as bars, the recent part first."""
    recent = [_bar("recent", place, "recent", rule.keep, "point") for place, rule in enumerate(ladder.recent)]
    return recent + [_rung_bar(ladder, place) for place in range(len(ladder.rungs))]


def _rung_bar(ladder: Ladder, place: int) -> Bar:
    rung = ladder.rungs[place]
    bar = _bar("rung", place, rung.name, rung.keep, rung.every)
    return replace(bar, height=HEIGHTS[rung.every], candidates=_candidates(ladder, place))


def _candidates(ladder: Ladder, place: int) -> tuple[RungCandidates, ...]:
    """Points of a kind, or what an earlier rung picked, if its picks stay what they are."""
    earlier = [one.name for one in ladder.rungs[:place] if one.pick == "first"]
    return (
        RungCandidates("self-contained", "self-contained"),
        RungCandidates("any", "of any kind"),
        *(RungCandidates(name, f"that {name} picked") for name in earlier),
    )


def sentence(ladder: Ladder) -> str:
    """What a ladder keeps, in one or two sentences."""
    parts = [_recent_words(rule) for rule in ladder.recent] + [_rung_words(rung) for rung in ladder.rungs]
    kept = f"Keeps {', then '.join(parts)}." if parts else "Keeps nothing by a rule of its own."
    if ladder.floor == 0:
        return f"{kept} Nothing stays once no rule wants it, not even the newest point."
    newest = "The newest point stays" if ladder.floor == 1 else f"The newest {ladder.floor} points stay"
    logs = f" Logs stay {duration_words(duration_of(ladder.logs))}." if ladder.logs else ""
    return f"{kept} {newest} in any case.{logs}"


def rule_words(rule: Recent | Rung) -> str:
    """What one rule of a ladder keeps."""
    return _recent_words(rule) if isinstance(rule, Recent) else _rung_words(rule)


def duration_words(length: Duration) -> str:
    """A duration in words, in the largest units that say it exactly."""
    years, months = divmod(length.months, 12)
    weeks, days = divmod(length.days, 7) if length.days % 7 == 0 and length.days >= 21 else (0, length.days)
    hours, rest = divmod(length.seconds, 3600)
    minutes, seconds = divmod(rest, 60)
    clock = ((hours, "hour"), (minutes, "minute"), (seconds, "second"))
    pieces = ((years, "year"), (months, "month"), (weeks, "week"), (days, "day"), *clock)
    return " and ".join(f"{count} {name}{'' if count == 1 else 's'}" for count, name in pieces if count) or "no time"


def _recent_words(rule: Recent) -> str:
    which = " or ".join(rule.kinds) + " " if rule.kinds else ""
    runs = f" of {' or '.join(rule.runs)}" if rule.runs else ""
    if isinstance(rule.keep, KeepPoints):
        return f"the newest {rule.keep.points} {which}points{runs}"
    if isinstance(rule.keep, KeepSuperseded):
        return f"each {which}point{runs} until all its parts have been taken again"
    return f"every {which}point{runs} {_for(rule.keep)}"


def _rung_words(rung: Rung) -> str:
    day = "" if rung.on is None else f" from {_day_words(rung)} on"
    source = "" if rung.from_ == "self-contained" else " of any kind" if rung.from_ == "any" else f" that {rung.from_} picked"
    pick = f"the {rung.pick} point{source} of each {rung.every}{day}"
    if isinstance(rung.keep, KeepPeriods):
        return f"{pick} for {rung.keep.periods} {rung.every}{'' if rung.keep.periods == 1 else 's'}"
    return f"{pick} {_for(rung.keep)}"


def _for(keep: str) -> str:
    return "for good" if keep == "forever" else f"for {duration_words(duration_of(keep))}"


def _day_words(rung: Rung) -> str:
    on = str(rung.on)
    if rung.every == "week":
        return DAY_NAMES[WEEKDAYS.index(on)]
    if rung.every == "year":
        return f"{int(on[3:])} {MONTH_NAMES[int(on[:2]) - 1]}"
    if on.isdigit():
        return f"day {on}"
    nth = int(on[:-2])
    words = NTH.get(nth, f"{-nth}. last")
    return f"the {words} {DAY_NAMES[WEEKDAYS.index(on[-2:])]}"


def _bar(part: Literal["recent", "rung"], place: int, label: str, keep: object, every: str) -> Bar:
    if isinstance(keep, KeepPoints):
        return Bar(part, place, label, "points", keep.points, "point", None, None)
    if isinstance(keep, KeepPeriods):
        step = DAYS_OF[every]
        return Bar(part, place, label, "periods", keep.periods, every, step, keep.periods * step)  # type: ignore[arg-type]
    if isinstance(keep, KeepSuperseded):
        return Bar(part, place, label, "superseded", None, None, None, None)
    if keep == "forever":
        return Bar(part, place, label, "forever", None, None, None, None)
    length = duration_of(str(keep))
    count, unit = _one_unit(str(keep))
    reach = length.rough_years * DAYS_OF["year"]
    return Bar(part, place, label, "time", count, unit, DAYS_OF[unit] if unit else None, reach)


def _one_unit(text: str) -> tuple[int | None, Literal["hour", "day", "week", "month", "year"] | None]:
    """The number and unit of a duration as it is written, where it is written in one unit."""
    match = re.fullmatch(r"P(?:(\d+)([DWMY])|T(\d+)H)", text)
    if match is None:
        return None, None
    if match[3]:
        return int(match[3]), "hour"
    return int(match[1]), _UNITS[match[2]]
