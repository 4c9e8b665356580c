"""Ready-made ladders, cadences and targets to start from. Every value can be edited; each says when it fits.

Ladders, cadences and what classes of object stores bill: common practice, no source. Native capacities of tape: from memory.
"""

from dataclasses import dataclass

from shelf_core.design.cadences import Cadence, Kind, Run
from shelf_core.design.document import Design
from shelf_core.design.ladders import KeepPeriods, KeepPoints, Ladder, Recent, Rung
from shelf_core.design.targets import Prices, Site, Target


@dataclass(frozen=True)
class LadderStart:
    """A ladder to start from, and when it fits."""

    ladder: Ladder
    fits: str


@dataclass(frozen=True)
class CadenceStart:
    """A cadence to start from, and when it fits."""

    cadence: Cadence
    fits: str


@dataclass(frozen=True)
class TargetStart:
    """A target to start from, and what it is. Its prices are invented: look yours up."""

    target: Target
    fits: str


def _rung(name: str, every: str, periods: int, **more: object) -> Rung:
    return Rung.model_validate({"name": name, "every": every, "keep": KeepPeriods(periods=periods), **more})


def _newest(points: int) -> list[Recent]:
    return [Recent(keep=KeepPoints(points=points))]


LADDERS = (
    LadderStart(
        Ladder(
            id="sons-fathers-grandfathers",
            name="Sons, fathers, grandfathers",
            recent=_newest(7),
            rungs=[_rung("weekly", "week", 5), _rung("monthly", "month", 12), _rung("yearly", "year", 7)],
        ),
        "The classic rotation: a week of days, a month of weeks, a year of months.",
    ),
    LadderStart(
        Ladder(id="two-weeks", name="Two weeks", recent=[Recent(keep="P14D")]),
        "Machines that can be rebuilt: every point for fourteen days, nothing older.",
    ),
    LadderStart(
        Ladder(
            id="quick-way-back",
            name="Quick way back",
            recent=[Recent(keep="P2D")],
            rungs=[_rung("daily", "day", 14, **{"from": "any"}), _rung("weekly", "week", 8, **{"from": "any"})],
        ),
        "Many points a day: all for two days, then one a day, then one a week.",
    ),
    LadderStart(
        Ladder(
            id="year-ends",
            name="Year ends for ten years",
            recent=_newest(14),
            rungs=[
                _rung("weekly", "week", 8),
                _rung("monthly", "month", 18, pick="last"),
                Rung(name="year end", every="year", pick="last", keep="P10Y"),
            ],
        ),
        "Accounts and records with a legal term: the last point of each year for ten years. Your law decides the term.",
    ),
    LadderStart(
        Ladder(
            id="outlasts-a-slow-break-in",
            name="Outlasts a slow break-in",
            recent=_newest(30),
            rungs=[_rung("weekly", "week", 26), _rung("monthly", "month", 24)],
        ),
        "Long daily and weekly parts, since an intruder may be inside for months. Lock what it keeps.",
    ),
    LadderStart(
        Ladder(
            id="forever-yearly",
            name="One a year for good",
            recent=_newest(3),
            rungs=[Rung(name="yearly", every="year", keep="forever")],
        ),
        "Archives that never let go: mind that the target grows without end.",
    ),
)


def _target(name: str, media: str, **more: object) -> Target:
    return Target.model_validate({"id": "new", "name": name, "media": media, "site": "site", **more})


def _tape(generation: int, native: str) -> TargetStart:
    target = _target(
        f"LTO-{generation} library",
        "tape",
        generation=f"LTO-{generation}",
        cartridge=native,
        slots=48,
        drives=2,
        batch_closes="month",
        prices=Prices(cartridge=90, cartridge_month=0.4),
    )
    return TargetStart(target, f"A small library; native capacity of the open format's generation {generation}.")


FIRST_LADDER = next(start.ladder for start in LADDERS if start.ladder.id == "two-weeks")
"""The ladder of a first copy, where a design has none."""


def empty_design(year: int) -> Design:
    """A design with one site and nothing else, over five years from a year's first day; all that it says is to be edited."""
    return Design(name="", timezone="UTC", starts=f"{year}-01-01", years=5, sites=[Site(id="main-site", name="Main site")])


NEXT_RECENT = Recent(keep="P7D")
"""The rule for recent points that is added to a ladder: a week, to be edited."""
_RUNG_NAMES = {"week": "weekly", "month": "monthly", "year": "yearly", "quarter": "quarterly", "day": "daily"}


def next_rung(ladder: Ladder) -> Rung:
    """The rung that is added to a ladder: of the first usual period that it has none of, four of them, to be edited."""
    there, names = {rung.every for rung in ladder.rungs}, {rung.name for rung in ladder.rungs}
    every = next((one for one in _RUNG_NAMES if one not in there), "week")
    base = _RUNG_NAMES[every]
    number = next(count for count in range(len(ladder.rungs) + 1, 2 * len(ladder.rungs) + 3) if f"{base} {count}" not in names)
    return _rung(base if base not in names else f"{base} {number}", every, 4)


def _weekly(key: str, name: str, kind: Kind, at: str, day: str = "SA") -> Run:
    return Run(id=key, name=name, kind=kind, rrule=f"FREQ=WEEKLY;BYDAY={day}", at=[at])


def _daily(key: str, name: str, kind: Kind, *at: str) -> Run:
    return Run(id=key, name=name, kind=kind, rrule="FREQ=DAILY", at=list(at))


def _each_half_hour() -> list[str]:
    return [f"{hour:02}:{minute}" for hour in range(24) for minute in ("15", "45")]


CADENCES = (
    CadenceStart(
        Cadence(
            id="nightly",
            name="Nightly, full on Saturdays",
            runs=[
                Run(id="full", name="Saturday full", kind="full", rrule="FREQ=WEEKLY;BYDAY=SA", at=["20:00"]),
                Run(id="night", name="Night", kind="incremental", rrule="FREQ=DAILY", at=["22:00"]),
            ],
        ),
        "A full a week and changes every night.",
    ),
    CadenceStart(
        Cadence(
            id="snapshots",
            name="Snapshots every four hours",
            runs=[
                Run(
                    id="snap",
                    name="Every four hours",
                    kind="snapshot",
                    rrule="FREQ=DAILY",
                    at=["00:00", "04:00", "08:00", "12:00", "16:00", "20:00"],
                )
            ],
        ),
        "For snapshot space on the source's own storage.",
    ),
    CadenceStart(
        Cadence(
            id="synthetic-weekly",
            name="Nightly, put together on Sundays",
            runs=[
                _weekly("synthetic", "Sunday synthetic full", "synthetic", "20:00", "SU"),
                _daily("night", "Night", "incremental", "22:00"),
            ],
        ),
        "After the first full only changes cross the line; the target puts a full together each week.",
    ),
    CadenceStart(
        Cadence(
            id="differentials",
            name="Weekly full, daily differential",
            runs=[_weekly("full", "Saturday full", "full", "20:00"), _daily("day", "Daily", "differential", "22:00")],
        ),
        "A restore reads two points, whatever the day; each differential is larger than the one before.",
    ),
    CadenceStart(
        Cadence(
            id="with-logs",
            name="Daily full, logs twice an hour",
            runs=[_daily("full", "Daily full", "full", "01:00"), _daily("log", "Logs", "log", *_each_half_hour())],
        ),
        "Databases that may lose half an hour: a full each night and their logs.",
    ),
    CadenceStart(
        Cadence(
            id="daily-fulls",
            name="A full each night",
            runs=[_daily("full", "Night full", "full", "22:00")],
        ),
        "Small workloads, and pools that share blocks: each point stands by itself.",
    ),
    CadenceStart(
        Cadence(
            id="month-ends",
            name="A full at each month's end",
            runs=[Run(id="full", name="Month's end", kind="full", rrule="FREQ=MONTHLY;BYMONTHDAY=-1", at=["20:00"])],
        ),
        "For tape that is carried away, and for archives.",
    ),
)
NIGHTLY, SNAPSHOTS = (start.cadence for start in CADENCES[:2])

TARGETS = (
    TargetStart(
        _target("Backup disk", "disk", capacity="100 TB", reserve_percent=10, prices=Prices(capacity_tb_month=6)),
        "Each point is a file of its own: quick to restore, incrementals need their full.",
    ),
    TargetStart(
        _target(
            "Shared-block pool",
            "disk",
            capacity="60 TB",
            reserve_percent=10,
            packing="shared",
            prices=Prices(capacity_tb_month=9),
        ),
        "Deduplication or block cloning: points share blocks, each change is stored once.",
    ),
    TargetStart(
        _target("Array snapshots", "snapshot", capacity="10 TB", prices=Prices(capacity_tb_month=14)),
        "On the source's own storage: quick, and lost together with it.",
    ),
    TargetStart(
        _target(
            "Object store",
            "object",
            storage_class="often read",
            packing="shared",
            lock="final",
            prices=Prices(capacity_tb_month=21, requests_thousand=0.005, traffic_tb=45),
        ),
        "Rented space off site that can lock points.",
    ),
    TargetStart(
        _target(
            "Cool object store",
            "object",
            storage_class="seldom read",
            minimum_days=30,
            lock="final",
            prices=Prices(capacity_tb_month=10, requests_thousand=0.01, retrieval_tb=9, traffic_tb=45),
        ),
        "Cheaper to hold, dearer to read; bills at least a month.",
    ),
    TargetStart(
        _target(
            "Cold object store",
            "object",
            storage_class="coldest archive",
            minimum_days=180,
            lock="final",
            prices=Prices(capacity_tb_month=1.1, requests_thousand=0.05, part_size="64 MiB", retrieval_tb=18, traffic_tb=45),
        ),
        "For points kept half a year or more: the coldest classes bill at least 180 days.",
    ),
    _tape(7, "6 TB"),
    _tape(8, "12 TB"),
    _tape(9, "18 TB"),
)
