"""What kinds of long work there are, how each falls into parts, and how results are written down."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple

from pydantic import BaseModel, TypeAdapter

from shelf_core.chance.bands import Bands, BandsPart, BandsWork
from shelf_core.cost.cost import cost_of
from shelf_core.digits import Digits
from shelf_core.engine.divided import Divided
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.parts import NightsPart, NightsWork
from shelf_core.nights.picture import AllNights, YearsOfNights
from shelf_core.proof.arrived import Arrivals, LastArrivals
from shelf_core.proof.case_months import CaseMonthsWork, MonthsOfCase
from shelf_core.proof.duties import Duties
from shelf_core.proof.mending import Mending, mend
from shelf_core.proof.sheet import DutySheet, sheet_of
from shelf_core.reasons.keeps import LongestKeep, longest_keep
from shelf_core.reasons.longer import Longer, LongerWork
from shelf_core.reasons.marginals import Marginal, MarginalsWork
from shelf_core.report.asked import Asked
from shelf_core.style import Dates, FigureStyle
from shelf_server.designs.files import FILES

Kind = Literal["bands", "rules", "longer", "keep", "nights", "duties", "months", "mend", "file"]


class Wanted(BaseModel):
    """What a job depends on beside its design.

    `target`, `ladder` and `rung` are those of the longest keep, `duty` and `ask`, by its place, are what is to be mended,
    `file` names the file it makes, in which `today` is printed, `digits` stand between thousands and dates
    are written as `dates` says.
    """

    on: str
    draws: int = 1000
    seed: int = 1
    target: str = ""
    ladder: str = ""
    rung: str = ""
    file: str = ""
    duty: str = ""
    ask: int = 0
    today: str = ""
    digits: Digits = "space"
    dates: Dates = "words"


class FollowedNights(NamedTuple):
    """All nights of a design at its very state, or one that differs in nothing that bears on them."""

    arrivals: Arrivals
    nights: YearsOfNights


_LAST_ARRIVALS = LastArrivals()
"""What this process followed last: an edit of a duty, a plan or a case changes no transfer."""


@dataclass(frozen=True)
class Subject:
    """What a job is about: the forecast of its design, what is wanted, and what the engine computed before.

    `followed` looks for nights that were followed before and still hold, `looked_through` for cases of loss by month.
    """

    forecast: Forecast
    wanted: Wanted
    memory: Memory
    followed: Callable[[], FollowedNights | None]
    looked_through: Callable[[], list[MonthsOfCase] | None]

    def arrivals(self) -> Arrivals:
        """When all points of the design have come."""
        known = self.followed()
        return _LAST_ARRIVALS.of(self.forecast) if known is None else known.arrivals


class _Json:
    """Writes values of a type as JSON."""

    def __init__(self, of: Any) -> None:
        self._adapter: TypeAdapter[Any] = TypeAdapter(of)

    def write(self, value: Any) -> bytes:
        return self._adapter.dump_json(value)

    def read(self, written: bytes) -> Any:
        return self._adapter.validate_json(written)


class _Bytes:
    """A file is written as it is."""

    def write(self, value: bytes) -> bytes:
        return value

    def read(self, written: bytes) -> bytes:
        return written


class _OnePart:
    """Work that does not fall into parts."""

    def __init__(self, do: Callable[[], Any]) -> None:
        self._do = do

    def __len__(self) -> int:
        return 1

    def part(self, _number: int) -> Any:
        return self._do()

    def joined(self, parts: Sequence[Any]) -> Any:
        return parts[0]


@dataclass(frozen=True)
class HowDone:
    """How a kind of work is done, and how its parts and its result are written."""

    work: Callable[[Subject], Divided[Any, Any]]
    parts: Any
    whole: Any


def _bands(one: Subject) -> BandsWork:
    return BandsWork(one.forecast, one.wanted.draws, one.wanted.seed, memory=one.memory)


def _rules(one: Subject) -> MarginalsWork:
    return MarginalsWork(one.forecast, one.wanted.on, one.memory)


def _longer(one: Subject) -> LongerWork:
    return LongerWork(one.forecast, one.memory)


def _keep(one: Subject) -> _OnePart:
    wanted = one.wanted
    return _OnePart(lambda: longest_keep(one.forecast, wanted.target, wanted.ladder, wanted.rung, wanted.on, one.memory))


def _nights(one: Subject) -> NightsWork:
    return NightsWork(one.forecast)


def _duties(one: Subject) -> _OnePart:
    return _OnePart(lambda: sheet_of(Duties(one.forecast, one.arrivals(), one.memory)))


def _months(one: Subject) -> CaseMonthsWork:
    return CaseMonthsWork(one.forecast, one.arrivals)


def _mend(one: Subject) -> _OnePart:
    duty = next((found for found in one.forecast.design.duties if found.id == one.wanted.duty), None)
    if duty is None or not 0 <= one.wanted.ask < len(duty.asks):
        raise ValueError(f"expected an ask of a duty of the design, got {one.wanted.ask} of {one.wanted.duty}")
    result, number, memory = one.forecast, one.wanted.ask, one.memory
    return _OnePart(lambda: mend(result, duty, number, one.arrivals(), memory))


def _file(one: Subject) -> _OnePart:
    _, make = FILES[one.wanted.file]
    result = one.forecast

    def made() -> bytes:
        known = one.followed()
        nights = None if known is None else known.nights
        arrivals = None if known is None else known.arrivals
        cost, months = cost_of(result, one.memory), one.looked_through()
        style = FigureStyle(one.wanted.digits, one.wanted.dates)
        return make(Asked(result, cost, one.wanted.on, one.wanted.today, arrivals, nights, months, style))

    return _OnePart(made)


KINDS: dict[Kind, HowDone] = {
    "bands": HowDone(_bands, _Json(BandsPart), _Json(Bands)),
    "rules": HowDone(_rules, _Json(Marginal), _Json(list[Marginal])),
    "longer": HowDone(_longer, _Json(Longer | None), _Json(list[Longer])),
    "keep": HowDone(_keep, _Json(LongestKeep), _Json(LongestKeep)),
    "nights": HowDone(_nights, _Json(NightsPart), _Json(AllNights)),
    "mend": HowDone(_mend, _Json(Mending), _Json(Mending)),
    "duties": HowDone(_duties, _Json(DutySheet), _Json(DutySheet)),
    "months": HowDone(_months, _Json(MonthsOfCase | None), _Json(list[MonthsOfCase])),
    "file": HowDone(_file, _Bytes(), _Bytes()),
}
