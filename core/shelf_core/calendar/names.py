"""Weekdays, zones and durations as they are named, before any date is computed."""

from typing import Annotated, NamedTuple
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from pydantic import AfterValidator, Field

WEEKDAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")


class Duration(NamedTuple):
    """Calendar months and days, added to local wall-clock time, and elapsed seconds."""

    months: int
    days: int
    seconds: int

    @property
    def rough_years(self) -> float:
        """The length in mean Gregorian years, for limits and for ordering, not for dates."""
        return self.months / 12 + (self.days + self.seconds / 86_400) / 365.2425


def _check_zone_name(value: str) -> str:
    try:
        if value.startswith(("posix", "right")):
            raise ValueError
        ZoneInfo(value)
    except (ValueError, OSError, ZoneInfoNotFoundError):
        raise ValueError(f'expected an IANA time zone such as Europe/Oslo, got "{value}"') from None
    return value


ZoneName = Annotated[str, AfterValidator(_check_zone_name), Field(description="IANA time zone such as Europe/Oslo")]
