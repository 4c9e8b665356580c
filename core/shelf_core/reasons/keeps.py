"""Other keeps of one rule: the longest that still fits a target, and one month more of a rung."""

import re
from dataclasses import dataclass
from typing import Literal, NamedTuple

from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError, fault
from shelf_core.design.ladders import MOST_COUNTED, PERIODS_A_YEAR, KeepPeriods, KeepPoints, KeepSuperseded, Ladder
from shelf_core.design.values import LONGEST_YEARS, duration_of
from shelf_core.digits import grouped
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.forecast.wording import duration_words
from shelf_core.reasons.rules import with_ladder, with_recent_keep, with_rung_keep

RECENT: Literal["recent"] = "recent"
POINTS, PERIODS = "points", "periods"
UNITS_A_YEAR = {"H": 8765.82, "D": 365.2425, "W": 52.1775, "M": 12.0, "Y": 1.0}


@dataclass(frozen=True)
class LongestKeep:
    """The longest keep of a rung or a recent rule with which a target's peaks stay within its room through the day `until`.

    `rung` is the name of the rung, or `recent`, `recent 2` and so on for the recent rules. `keep` is as in the document, None
    when not even the shortest fits; `count` and `unit` say it; `now` is the count there is, None for a keep that is not so
    many of one unit; `now_words` says it in any case. `limit` says that even the longest allowed keep fits. `full_on` is the
    day the target would be full with one more, None if it would not be by then. `runs` counts the forecasts that were made.
    """

    target: str
    ladder: str
    rung: str
    until: str
    keep: KeepPoints | KeepPeriods | str | None
    count: int | None
    unit: str
    now: int | None
    now_words: str
    limit: bool
    full_on: str | None
    runs: int


def longest_keep(
    result: Forecast, target: str, ladder: str, rung: str, until: str, memory: Memory | None = None
) -> LongestKeep:
    """Found by halving, each try a run of the engine; a longer keep is taken never to need less room.

    `rung` names a rung, or a recent rule as LongestKeep says. Raises DesignError for a ladder or rule that there is not or
    that has no length, ValueError for a target without capacity or a day outside.
    """
    entry = _ladder(result.design, ladder)
    rule = _rule(entry, rung)
    at = next((number for number, one in enumerate(result.targets) if one.target.id == target), None)
    if at is None or result.targets[at].room_bytes is None:
        raise ValueError(f'expected a target with a capacity, got "{target}"')
    keep_of, unit, now, most = _counted(rule)
    tries = _Tries(result, entry, rule, at, result.place_of(until), keep_of, memory or Memory())
    best = _largest(tries, now or 1, most)
    full = tries.first_full(best + 1) if best < most else None
    keep = keep_of(best) if best else None
    words = (target, ladder, rung, until)
    return LongestKeep(*words, keep, best or None, unit, now, _now_words(rule, unit), best == most, full, tries.runs)


def one_month_longer(design: Design, ladder: str, rung: str) -> tuple[Design, str] | None:
    """The design with a rung kept a month longer, and what was added in words; None for a rung that is kept for good.

    A rung that keeps by count gets as many periods more as a month holds, and one quarter or year where it holds none.
    Raises DesignError for a ladder or rung that there is not.
    """
    entry, place = _rung(design, ladder, rung)
    keep, every = entry.rungs[place].keep, entry.rungs[place].every
    if keep == "forever":
        return None
    if isinstance(keep, KeepPeriods):
        more = max(1, round(PERIODS_A_YEAR[every] / 12))
        longer: KeepPeriods | str = KeepPeriods(periods=keep.periods + more)
        words = f"{more} {every}{'' if more == 1 else 's'} more"
    else:
        longer, words = _with_a_month(keep), "a month more"
    return with_ladder(design, ladder, lambda one: with_rung_keep(one, place, longer)), words


class _Rule(NamedTuple):
    """A rule of a ladder that has a length: a rung, or a recent rule."""

    part: Literal["rungs", "recent"]
    place: int
    keep: KeepPoints | KeepPeriods | str
    every: str

    def with_keep(self, ladder: Ladder, keep: KeepPoints | KeepPeriods | str) -> Ladder:
        """The ladder with another keep of this rule."""
        if self.part == "rungs":
            return with_rung_keep(ladder, self.place, keep)  # type: ignore[arg-type]
        return with_recent_keep(ladder, self.place, keep)  # type: ignore[arg-type]


def _ladder(design: Design, key: str) -> Ladder:
    entry = next((one for one in design.ladders if one.id == key), None)
    if entry is None:
        raise DesignError([fault("ladder", message=f'expected the id of a ladder, got "{key}"')])
    return entry


def recent_name(place: int) -> str:
    """What a recent rule is called where rules are asked for by name: `recent`, then `recent 2` and so on."""
    return RECENT if place == 0 else f"{RECENT} {place + 1}"


def _rule(ladder: Ladder, name: str) -> _Rule:
    for place, rung in enumerate(ladder.rungs):
        if rung.name == name:
            return _Rule("rungs", place, rung.keep, rung.every)
    for place, rule in enumerate(ladder.recent):
        if recent_name(place) == name and not isinstance(rule.keep, KeepSuperseded):
            return _Rule(RECENT, place, rule.keep, "point")
    recent = [recent_name(place) for place, rule in enumerate(ladder.recent) if not isinstance(rule.keep, KeepSuperseded)]
    names = ", ".join([*recent, *(one.name for one in ladder.rungs)])
    raise DesignError([fault("rung", message=f'expected a rung or recent rule of {ladder.id} ({names}), got "{name}"')])


def _rung(design: Design, ladder: str, rung: str) -> tuple[Ladder, int]:
    entry = _ladder(design, ladder)
    place = next((at for at, one in enumerate(entry.rungs) if one.name == rung), None)
    if place is None:
        names = ", ".join(one.name for one in entry.rungs)
        raise DesignError([fault("rung", message=f'expected a rung of {ladder} ({names}), got "{rung}"')])
    return entry, place


def _with_a_month(keep: str) -> str:
    date, _, time = keep.removeprefix("P").partition("T")
    months = re.search(r"(\d+)M", date)
    if months:
        date = date.replace(months[0], f"{int(months[1]) + 1}M")
    else:
        years = re.match(r"\d+Y", date)
        at = years.end() if years else 0
        date = f"{date[:at]}1M{date[at:]}"
    return f"P{date}{'T' + time if time else ''}"


class _Keep:
    """Makes a keep of so many: points, periods, or units of time."""

    def __init__(self, unit: str) -> None:
        self._unit = unit

    def __call__(self, count: int) -> KeepPoints | KeepPeriods | str:
        if self._unit == POINTS:
            return KeepPoints(points=count)
        if self._unit == PERIODS:
            return KeepPeriods(periods=count)
        return f"PT{count}H" if self._unit == "H" else f"P{count}{self._unit}"


def _counted(rule: _Rule) -> tuple[_Keep, str, int | None, int]:
    """How a keep of a rule is counted: what makes one, its unit, how many there are now, and the most allowed."""
    if isinstance(rule.keep, KeepPoints):
        return _Keep(POINTS), "point", rule.keep.points, MOST_COUNTED
    if isinstance(rule.keep, KeepPeriods):
        return _Keep(PERIODS), rule.every, rule.keep.periods, int(LONGEST_YEARS * PERIODS_A_YEAR[rule.every])
    written = re.fullmatch(r"PT?(\d+)([DWMYH])", rule.keep)
    letter, now = (written[2], int(written[1])) if written and (("T" in rule.keep) == (written[2] == "H")) else ("M", None)
    names = {"H": "hour", "D": "day", "W": "week", "M": "month", "Y": "year"}
    return _Keep(letter), names[letter], now, int(LONGEST_YEARS * UNITS_A_YEAR[letter])


def _now_words(rule: _Rule, unit: str) -> str:
    if rule.keep == "forever":
        return "for good"
    if isinstance(rule.keep, str):
        return duration_words(duration_of(rule.keep))
    count = rule.keep.points if isinstance(rule.keep, KeepPoints) else rule.keep.periods
    return f"{grouped(count)} {unit}{'' if count == 1 else 's'}"


class _Tries:
    """Whether keeps of a rung fit, each tried once."""

    def __init__(
        self, result: Forecast, ladder: Ladder, rule: _Rule, target: int, until: int, keep_of: _Keep, memory: Memory
    ) -> None:
        self._result, self._ladder, self._rule, self._target = result, ladder, rule, target
        self._until, self._keep_of, self._memory = until, keep_of, memory
        self._known: dict[int, int | None] = {}

    @property
    def runs(self) -> int:
        return len(self._known)

    def fits(self, count: int) -> bool:
        return self._full(count) is None

    def first_full(self, count: int) -> str | None:
        full = self._full(count)
        return None if full is None else self._result.day(full)

    def _full(self, count: int) -> int | None:
        if count not in self._known:
            keep = self._keep_of(count)
            design = with_ladder(self._result.design, self._ladder.id, lambda one: self._rule.with_keep(one, keep))
            full = forecast(design, self._memory).targets[self._target].full_on
            self._known[count] = full if full is not None and full <= self._until else None
        return self._known[count]


def _largest(tries: _Tries, start: int, most: int) -> int:
    """The largest count that fits, 0 for none: doubled from `start` until one does not, then halved."""
    low, high = 0, min(max(start, 1), most)
    while tries.fits(high):
        low = high
        if high == most:
            return most
        high = min(2 * high, most)
    while high - low > 1:
        middle = (low + high) // 2
        if tries.fits(middle):
            low = middle
        else:
            high = middle
    return low
