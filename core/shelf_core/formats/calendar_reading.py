"""A cadence from a calendar (RFC 5545): each event that recurs, or happens once, becomes a run."""

import re
from collections.abc import Iterator
from datetime import UTC, date, datetime
from typing import Any, get_args
from zoneinfo import ZoneInfo

from icalendar import Calendar

from shelf_core.design.cadences import Cadence, Kind
from shelf_core.design.faults import DesignError, fault, shown
from shelf_core.design.reading import part_of
from shelf_core.digits import grouped

LARGEST_CALENDAR_BYTES = 2**20
LONGEST_LINE = 20_000
MOST_EVENTS = 500
TAKEN = ("VEVENT", "VTIMEZONE")
_SEVERAL_A_DAY = re.compile("FREQ=(HOURLY|MINUTELY)|BYHOUR|BYMINUTE")


def read_cadence(text: str | bytes, key: str, timezone: str) -> Cadence:
    """The cadence that the events of a calendar are, under the id `key`, in a design of a zone.

    What kind a run is, is said by the event's categories, else by the first kind that its summary names, else it is a full.
    Times in a zone of their own stay in it. Raises DesignError, naming the event, for a calendar that is too large, is none,
    holds anything but events, or says what a run cannot.
    """
    calendar = _calendar(text)
    others = [one.name for one in calendar.subcomponents if one.name not in TAKEN]
    if others:
        raise _refused("calendar", f"expected events only, got a component {shown(others[0])}")
    events = calendar.walk("VEVENT")
    if not events or len(events) > MOST_EVENTS:
        raise _refused("calendar", f"expected 1 to {MOST_EVENTS} events, got {grouped(len(events))}")
    runs = [_run(event, place, timezone) for place, event in enumerate(events)]
    name = str(calendar.get("NAME") or calendar.get("X-WR-CALNAME") or "")
    return part_of(Cadence, {"id": key, "name": name[:200], "runs": runs}, "calendar")


def _calendar(text: str | bytes) -> Calendar:
    if len(text) > LARGEST_CALENDAR_BYTES:
        raise _refused("calendar", f"expected at most {grouped(LARGEST_CALENDAR_BYTES)} bytes, got {grouped(len(text))}")
    try:
        if isinstance(text, bytes):
            text = text.decode("utf-8-sig")
        _check_size(text)
        found = Calendar.from_ical(text)
    except UnicodeDecodeError as error:
        raise _refused("calendar", f"expected UTF-8, got another byte at {error.start}") from None
    except (ValueError, KeyError, IndexError, RecursionError) as error:
        raise _refused("calendar", f"expected a calendar (RFC 5545), got a fault: {str(error)[:120]}") from None
    if not isinstance(found, Calendar):
        raise _refused("calendar", f"expected a calendar (RFC 5545), got a component {shown(found.name)}")
    return found


def _check_size(text: str) -> None:
    """What would take long to read is refused before it is read."""
    events = len(re.findall(r"^BEGIN:VEVENT\s*$", text, re.IGNORECASE | re.MULTILINE))
    if events > MOST_EVENTS:
        raise _refused("calendar", f"expected 1 to {MOST_EVENTS} events, got {grouped(events)}")
    longest = max((len(line) for line in re.sub(r"\r?\n[ \t]", "", text).splitlines()), default=0)
    if longest > LONGEST_LINE:
        raise _refused(
            "calendar", f"expected lines of at most {grouped(LONGEST_LINE)} characters, got one of {grouped(longest)}"
        )


def _run(event: Any, place: int, timezone: str) -> dict[str, Any]:
    where = f"events[{place}]"
    for name in ("RECURRENCE-ID", "EXRULE"):
        if name in event:
            raise _refused(where, f"expected events without {name}, got one")
    if event.subcomponents:
        raise _refused(where, f"expected an event without alarms, got a component {shown(event.subcomponents[0].name)}")
    for name, message in event.errors:
        raise _refused(where, f"expected {name} as RFC 5545 has it: {message[:120]}")
    start = _moment(event, "DTSTART", where)
    zone = _zone(start, timezone)
    run: dict[str, Any] = {"id": f"run-{place + 1}", "name": str(event.get("SUMMARY", ""))[:200], "kind": _kind(event)}
    if zone != timezone:
        run["timezone"] = zone
    if "RRULE" not in event:
        return {**run, "once": [_clock_text(one) for one in (start, *_dates(event, "RDATE", where))]}
    if "RDATE" in event:
        raise _refused(where, "expected either a rule or single dates, got both")
    run |= {"at": [start.strftime("%H:%M")], "from": start.date().isoformat(), **_rule(event, zone, where)}
    if "EXDATE" in event and _SEVERAL_A_DAY.search(run["rrule"]):
        raise _refused(where, "expected exceptions only from a rule that comes once a day at most")
    gone = sorted({one.date().isoformat() for one in _dates(event, "EXDATE", where)})
    return {**run, "except": gone} if gone else run


def _rule(event: Any, zone: str, where: str) -> dict[str, Any]:
    rules = event["RRULE"]
    if isinstance(rules, list):
        raise _refused(where, f"expected one rule, got {len(rules)}")
    parts = {name: values for name, values in rules.items() if name != "UNTIL"}
    found: dict[str, Any] = {
        "rrule": ";".join(f"{name}={','.join(map(_rule_value, values))}" for name, values in parts.items())
    }
    for until in rules.get("UNTIL", []):
        last = until.astimezone(ZoneInfo(zone)) if isinstance(until, datetime) and until.tzinfo else until
        found["until"] = (last.date() if isinstance(last, datetime) else last).isoformat()
    return found


def _rule_value(value: Any) -> str:
    return value.to_ical().decode() if hasattr(value, "to_ical") else str(value)


def _moment(event: Any, name: str, where: str) -> datetime:
    value = event.get(name)
    if value is None or isinstance(value, list):
        raise _refused(where, f"expected {name} once, got {'none' if value is None else 'several'}")
    named = value.params.get("TZID")
    if named is not None and getattr(value.dt, "tzinfo", None) is None:
        raise _refused(where, f"expected a known timezone, got {shown(str(named))}")
    return _at_midnight(value.dt, where)


def _dates(event: Any, name: str, where: str) -> Iterator[datetime]:
    found = event.get(name, [])
    for one in found if isinstance(found, list) else [found]:
        for each in one.dts:
            yield _at_midnight(each.dt, where)


def _at_midnight(value: Any, where: str) -> datetime:
    if isinstance(value, datetime):
        return value
    if isinstance(value, date):
        return datetime(value.year, value.month, value.day)  # noqa: DTZ001 - a date has no zone
    raise _refused(where, f"expected a date or a time, got {shown(str(value))}")


def _zone(moment: datetime, timezone: str) -> str:
    if moment.tzinfo is None:
        return timezone
    return "UTC" if moment.tzinfo is UTC else str(getattr(moment.tzinfo, "key", moment.tzname()))


def _clock_text(moment: datetime) -> str:
    return moment.replace(tzinfo=None).isoformat(timespec="minutes")


def _kind(event: Any) -> str:
    kinds = get_args(Kind)
    categories = event.get("CATEGORIES")
    said = [str(one) for one in categories.cats] if categories is not None and hasattr(categories, "cats") else []
    words = re.findall(r"[a-z]+", " ".join([*said, str(event.get("SUMMARY", ""))]).lower())
    return next((word for word in words if word in kinds), "full")


def _refused(where: str, message: str) -> DesignError:
    return DesignError([fault(where, message=message)])
