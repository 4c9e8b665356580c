"""Calendar of the reference: datetime, zoneinfo and python-dateutil, nothing of the engine."""

from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

from dateutil.relativedelta import relativedelta
from dateutil.rrule import rrulestr

EPOCH = datetime(1970, 1, 1, tzinfo=UTC)


@lru_cache(maxsize=200_000)
def instant(local: datetime, zone: str) -> int:
    """Seconds since the epoch; fold 0 reads a skipped time with the offset before, a double one as the first."""
    return int((local.replace(tzinfo=ZoneInfo(zone), fold=0).astimezone(UTC) - EPOCH).total_seconds())


@lru_cache(maxsize=200_000)
def local(second: int, zone: str) -> datetime:
    return (EPOCH + timedelta(seconds=second)).astimezone(ZoneInfo(zone)).replace(tzinfo=None)


@lru_cache(maxsize=200_000)
def plus(second: int, duration: str, zone: str) -> int:
    months, days, seconds = parts(duration)
    moved = second
    if months or days:
        moved = instant(local(second, zone) + relativedelta(months=months) + relativedelta(days=days), zone)
    return moved + seconds


@lru_cache(maxsize=200_000)
def parts(duration: str) -> tuple[int, int, int]:
    dates, _, clock = duration.removeprefix("P").partition("T")
    months = days = seconds = 0
    for text, factors in (
        (dates, {"Y": (12, 0, 0), "M": (1, 0, 0), "W": (0, 7, 0), "D": (0, 1, 0)}),
        (clock, {"H": (0, 0, 3600), "M": (0, 0, 60), "S": (0, 0, 1)}),
    ):
        number = ""
        for letter in text:
            if letter.isdigit():
                number += letter
                continue
            factor = factors[letter]
            months, days, seconds = (
                total + int(number) * one for total, one in zip((months, days, seconds), factor, strict=True)
            )
            number = ""
    return months, days, seconds


def run_instants(run: dict, design: dict, last: date) -> set[int]:
    zone = run.get("timezone", design["timezone"])
    first = date.fromisoformat(run.get("from", design["starts"]))
    stop = datetime.combine(last + timedelta(days=2), time())
    if "once" in run:
        times = [datetime.fromisoformat(text) for text in run["once"]]
    else:
        times = []
        for clock in run["at"]:
            start = datetime.combine(first, time.fromisoformat(clock))
            for found in rrulestr(run["rrule"], dtstart=start):
                if found > stop:
                    break
                times.append(found)
    skipped = set(run.get("except", ()))
    until = run.get("until", "9999-12-31")
    wanted = [one for one in times if first <= one.date() and one.date().isoformat() <= until]
    return {instant(one, zone) for one in wanted if one.date().isoformat() not in skipped}


@lru_cache(maxsize=200_000)
def period(moment: datetime, every: str, week_starts: str) -> tuple[int, ...]:
    day = moment.date()
    if every == "hour":
        return (*day.timetuple()[:3], moment.hour)
    if every == "day":
        return day.timetuple()[:3]
    if every == "week":
        return week_begin(day, week_starts).timetuple()[:3]
    if every == "month":
        return (day.year, day.month)
    if every == "quarter":
        return (day.year, (day.month - 1) // 3)
    return (day.year,)


def week_begin(day: date, week_starts: str) -> date:
    names = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"]
    return day - timedelta(days=(day.weekday() - names.index(week_starts)) % 7)


@lru_cache(maxsize=200_000)
def reaches(moment: datetime, every: str, on: str | int, week_starts: str) -> bool:
    """Whether a moment lies on or after the day `on` of its period."""
    day = moment.date()
    names = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"]
    if every == "week":
        begin = week_begin(day, week_starts)
        return day >= next(
            begin + timedelta(days=k) for k in range(7) if (begin + timedelta(days=k)).weekday() == names.index(on)
        )
    if every == "year":
        month, number = (int(part) for part in on.split("-"))
        return day >= clipped(day.year, month, number)
    if str(on).isdigit():
        return day >= clipped(day.year, day.month, int(on))
    nth, weekday = int(str(on)[:-2]), names.index(str(on)[-2:])
    days = [date(day.year, day.month, k) for k in range(1, clipped(day.year, day.month, 31).day + 1)]
    matching = [one for one in days if one.weekday() == weekday]
    place = nth - 1 if nth > 0 else nth + len(matching)
    return 0 <= place < len(matching) and day >= matching[place]


def clipped(year: int, month: int, day: int) -> date:
    last = (date(year, month, 1) + relativedelta(months=1)) - timedelta(days=1)
    return min(last, date(year, month, min(day, last.day)))
