"""A design as a calendar (RFC 5545): the runs of its cadences, and what happens on account of them.

Runs keep their recurrence rules where these say exactly what the engine computes; what a rule says too much is taken out day
by day (EXDATE), what it lacks is added (RDATE). So other programs see the same runs, clock changes included.
"""

from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from uuid import UUID, uuid5
from zoneinfo import ZoneInfo

import numpy as np
from icalendar import Calendar, Event, vDDDLists, vRecur

from shelf_core.arrays import Instants
from shelf_core.calendar.recurrence import occurrences
from shelf_core.calendar.rules import parse_rule
from shelf_core.calendar.zones import DAY, EPOCH, clock_seconds, day_number, local_text
from shelf_core.design.cadences import Cadence, Run
from shelf_core.design.document import Design
from shelf_core.engine.schedule.frame import Frame
from shelf_core.engine.schedule.runs import run_times
from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.happenings import Happening, happenings
from shelf_core.formats.calendar_zones import zone_component
from shelf_core.formats.digest import digest

PRODUCT = "-//Rested Shelf//Retention design//EN"
_NAMES = UUID("9d0b4f0e-6a5c-4c1e-9a53-0f6d6a1c7a51")
"""Where the ids of events begin: the same event of the same design has the same id for good."""
ASK_AGAIN = "PT6H"
SHORT_STEPS = ("HOURLY", "MINUTELY")


def calendar_text(result: Forecast, cadence: str | None = None) -> bytes:
    """The calendar of a design: all cadences and what else happens, or the runs of one cadence.

    Raises ValueError for a cadence that there is not.
    """
    design = result.design
    known = [one.id for one in design.cadences]
    if cadence is not None and cadence not in known:
        raise ValueError(f'expected the id of a cadence ({", ".join(known)}), got "{cadence}"')
    calendar = Calendar()
    calendar.add("prodid", PRODUCT)
    calendar.add("version", "2.0")
    calendar.add("name", design.name)
    calendar.add("x-wr-calname", design.name)
    calendar.add("x-design-digest", digest(result.document))
    calendar.add("refresh-interval;value=duration", ASK_AGAIN)
    wanted = [one for one in design.cadences if cadence in (None, one.id)]
    first, last = (int(result.day(place)[:4]) for place in (0, result.frame.days - 1))
    for name in dict.fromkeys(run.timezone or design.timezone for one in wanted for run in one.runs):
        if name != "UTC":
            calendar.add_component(zone_component(name, first - 1, last + 1))
    for one in wanted:
        for event in _runs(one, design, result.frame):
            calendar.add_component(event)
    if cadence is None:
        for happening in happenings(result):
            calendar.add_component(_happening(happening, design))
    return calendar.to_ical()


def _event(design: Design, key: str, words: str) -> Event:
    event = Event()
    event.add("uid", str(uuid5(_NAMES, f"{design.name}\n{key}")))
    # The core has no clock: an event is as old as its design.
    event.add("dtstamp", datetime.fromisoformat(design.starts).replace(tzinfo=UTC))
    event.add("summary", words)
    event.add("transp", "TRANSPARENT")
    return event


def _runs(cadence: Cadence, design: Design, frame: Frame) -> Iterator[Event]:
    """The events of a cadence: one for each run and time of day at which it comes."""
    taken = run_times(cadence, frame)
    for place, run in enumerate(cadence.runs):
        zone = ZoneInfo(run.timezone or design.timezone)
        words = f"{cadence.name or cadence.id}: {run.name or run.kind}"
        left = taken[place]
        for number, (rule, says) in enumerate(_rules(run, left, frame)):
            mine = says[np.isin(says, left)]
            left = np.setdiff1d(left, mine)
            if not len(mine):
                continue
            event = _event(design, f"run {cadence.id} {run.id} {number}", words)
            event.add("categories", [run.kind])
            event.add("dtstart", _local(int(mine[0]), zone))
            if rule is not None:
                _add_rule(event, rule, mine, frame, zone)
            elif len(mine) > 1:
                event.add("rdate", vDDDLists([_local(second, zone) for second in mine[1:].tolist()]))
            yield event


def _rules(run: Run, taken: Instants, frame: Frame) -> Iterator[tuple[str | None, Instants]]:
    """The rules that say a run, each with what it alone says in local seconds; None in place of a rule for single times.

    A rule by the hour or minute becomes one by the day for each of its times: programs differ in how they step an hour over
    a change of the clock.
    """
    if run.rrule is None:
        yield None, taken
    elif parse_rule(run.rrule).frequency in SHORT_STEPS:
        for clock in np.unique(taken % DAY).tolist():
            days = np.unique(taken[taken % DAY == clock] // DAY)
            yield "FREQ=DAILY", np.arange(days[0], days[-1] + 1) * DAY + clock
    else:
        first = day_number(run.from_) if run.from_ else frame.first_day
        rule = ";".join(part for part in run.rrule.split(";") if not part.startswith("COUNT="))
        for text in run.at:
            yield rule, occurrences(parse_rule(run.rrule), first * DAY + clock_seconds(text), frame.first_day + frame.days)


def _add_rule(event: Event, rule: str, mine: Instants, frame: Frame, zone: ZoneInfo) -> None:
    """A rule as it goes on from the first of the times that it is to say until the last."""
    last = _local(int(mine[-1]), zone).astimezone(UTC)
    recurrence = vRecur.from_ical(rule)
    recurrence["UNTIL"] = [last]
    event.add("rrule", recurrence)
    says = occurrences(parse_rule(rule), int(mine[0]), min(int(mine[-1]) // DAY + 1, frame.first_day + frame.days))
    # A reading of the clock that is skipped is later than it says, so the end is compared as an instant.
    says = np.array([second for second in says.tolist() if _local(second, zone).astimezone(UTC) <= last], np.int64)
    for name, seconds in (("exdate", np.setdiff1d(says, mine)), ("rdate", np.setdiff1d(mine, says))):
        if len(seconds):
            event.add(name, vDDDLists([_local(second, zone) for second in seconds.tolist()]))


def _happening(one: Happening, design: Design) -> Event:
    event = _event(design, one.key, one.words)
    event.add("categories", [one.sort])
    moments: list[datetime] | list[date]
    if len(one.days):
        moments = [EPOCH + timedelta(days=day) for day in one.days.tolist()]
    else:
        moments = [datetime.fromtimestamp(second, UTC) for second in one.instants.tolist()]
    event.add("dtstart", moments[0])
    if len(moments) > 1:
        event.add("rdate", vDDDLists(moments[1:]))
    return event


def _local(second: int, zone: ZoneInfo) -> datetime:
    """A reading of the wall clock of a zone: one that comes twice is the first, as everywhere in the engine."""
    return datetime.fromisoformat(local_text(second)).replace(tzinfo=zone)
