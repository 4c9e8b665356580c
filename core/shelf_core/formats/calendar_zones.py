"""Time zones within a calendar (RFC 5545, section 3.6.5): every change of the clock in the years of a design, one by one."""

from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from icalendar import Timezone, TimezoneDaylight, TimezoneStandard, vDDDLists

from shelf_core.calendar.zones import local_second, local_text, zone


def zone_component(name: str, first_year: int, last_year: int) -> Timezone:
    """The zone for all days of these years. An onset is written in the local time before it, as the standard has it."""
    info, known = ZoneInfo(name), zone(name, first_year, last_year)
    found = Timezone()
    found.add("tzid", name)
    begin = local_second(f"{first_year}-01-01T00:00")
    _add_observance(found, info, [begin], (int(known.offsets[0]),) * 2)
    groups: dict[tuple[int, int], list[int]] = {}
    for at, instant in enumerate(known.changes.tolist()):
        before, after = int(known.offsets[at]), int(known.offsets[at + 1])
        groups.setdefault((before, after), []).append(instant + before)
    for offsets, onsets in groups.items():
        _add_observance(found, info, onsets, offsets)
    return found


def _add_observance(found: Timezone, info: ZoneInfo, onsets: list[int], offsets: tuple[int, int]) -> None:
    """From local times on, of the offset before, the offset after holds."""
    moments = [datetime.fromisoformat(local_text(second)) for second in onsets]
    # Half a day on, whatever is said of the change itself is over.
    later = (moments[0] + timedelta(hours=12)).replace(tzinfo=info)
    one = TimezoneDaylight() if later.dst() else TimezoneStandard()
    one.add("dtstart", moments[0])
    if len(moments) > 1:
        one.add("rdate", vDDDLists(moments[1:]))
    one.add("tzname", later.tzname())
    one.add("tzoffsetfrom", timedelta(seconds=offsets[0]))
    one.add("tzoffsetto", timedelta(seconds=offsets[1]))
    found.add_component(one)
