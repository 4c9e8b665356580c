"""Other keeps of one rung: the longest that still fits a target, and one month more."""

import re
from dataclasses import dataclass

from shelf_core.design.document import Design
from shelf_core.design.faults import DesignError, fault
from shelf_core.design.ladders import PERIODS_A_YEAR, KeepPeriods, Ladder, Rung
from shelf_core.design.values import LONGEST_YEARS
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.reasons.rules import with_ladder, with_rung_keep

UNITS_A_YEAR = {"D": 365.2425, "W": 52.1775, "M": 12.0, "Y": 1.0}


@dataclass(frozen=True)
class LongestKeep:
    """The longest keep of a rung with which a target's peaks stay within its room through the day `until`.

    `keep` is as in the document, None when not even the shortest fits; `count` and `unit` say it; `now` is the count there
    is, None for a keep for good. `limit` says that even the longest allowed keep fits. `full_on` is the day the target would
    be full with one more, None if it would not be by then. `runs` counts the forecasts that were made.
    """

    target: str
    ladder: str
    rung: str
    until: str
    keep: KeepPeriods | str | None
    count: int | None
    unit: str
    now: int | None
    limit: bool
    full_on: str | None
    runs: int


def longest_keep(
    result: Forecast, target: str, ladder: str, rung: str, until: str, memory: Memory | None = None
) -> LongestKeep:
    """Found by halving, each try a run of the engine; a longer keep is taken never to need less room.

    Raises DesignError for a ladder or rung that there is not, ValueError for a target without capacity or a day outside.
    """
    entry, place = _rung(result.design, ladder, rung)
    at = next((number for number, one in enumerate(result.targets) if one.target.id == target), None)
    if at is None or result.targets[at].room_bytes is None:
        raise ValueError(f'expected a target with a capacity, got "{target}"')
    keep_of, unit, now, most = _counted(entry.rungs[place])
    tries = _Tries(result, entry, place, at, result.place_of(until), keep_of, memory or Memory())
    best = _largest(tries, now or 1, most)
    full = tries.first_full(best + 1) if best < most else None
    keep = keep_of(best) if best else None
    words = (target, ladder, rung, until)
    return LongestKeep(*words, keep, best or None, unit, now, best == most, full, tries.runs)


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


def _rung(design: Design, ladder: str, rung: str) -> tuple[Ladder, int]:
    entry = next((one for one in design.ladders if one.id == ladder), None)
    if entry is None:
        raise DesignError([fault("ladder", message=f'expected the id of a ladder, got "{ladder}"')])
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
    """Makes a keep of so many: periods, or units of time."""

    def __init__(self, unit: str | None) -> None:
        self._unit = unit

    def __call__(self, count: int) -> KeepPeriods | str:
        return KeepPeriods(periods=count) if self._unit is None else f"P{count}{self._unit}"


def _counted(rung: Rung) -> tuple[_Keep, str, int | None, int]:
    """How a keep of a rung is counted: what makes one, its unit, how many there are now, and the most allowed."""
    if isinstance(rung.keep, KeepPeriods):
        return _Keep(None), rung.every, rung.keep.periods, int(LONGEST_YEARS * PERIODS_A_YEAR[rung.every])
    written = re.fullmatch(r"P(\d+)([DWMY])", rung.keep)
    letter, now = (written[2], int(written[1])) if written else ("M", None)
    names = {"D": "day", "W": "week", "M": "month", "Y": "year"}
    return _Keep(letter), names[letter], now, int(LONGEST_YEARS * UNITS_A_YEAR[letter])


class _Tries:
    """Whether keeps of a rung fit, each tried once."""

    def __init__(
        self, result: Forecast, ladder: Ladder, place: int, target: int, until: int, keep_of: _Keep, memory: Memory
    ) -> None:
        self._result, self._ladder, self._place, self._target = result, ladder, place, target
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
            keep, place = self._keep_of(count), self._place
            design = with_ladder(self._result.design, self._ladder.id, lambda one: with_rung_keep(one, place, keep))
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
