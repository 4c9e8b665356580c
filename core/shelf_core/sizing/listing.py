"""Size and change of a workload from a listing of its files."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from fnmatch import fnmatchcase

from shelf_core.design.values import bytes_of
from shelf_core.formats.csv_text import Row, Table, named_columns
from shelf_core.formats.faulty import FaultyRow, RowError

COLUMNS = ("path", "size", "changed")
SPANS = (1, 7, 30, 90, 365)
"""Over how many days before the newest file what changed is added up."""
FEWEST_DAYS = 7
"""A change per day is not told from files whose dates span less."""
MOST_FAULTS = 200


@dataclass(frozen=True)
class Span:
    """What changed in so many days before the newest file: bytes of whole files, and their share of all."""

    days: int
    changed_bytes: float
    share: float


@dataclass(frozen=True)
class Sizing:
    """What a listing says of a workload.

    `left_out_bytes` is what patterns keep out. `daily_change_percent` is the mean over the last FEWEST_DAYS days, None where
    `refused` says why there is too little to tell. It counts a file that changed as changed in whole: an upper bound where
    large files change in part.
    """

    files: int
    size_bytes: float
    left_out_files: int
    left_out_bytes: float
    newest: str | None
    oldest: str | None
    spans: list[Span]
    daily_change_percent: float | None
    refused: str
    faults: list[FaultyRow]


def sizing_of(table: Table, include: Sequence[str] = (), exclude: Sequence[str] = ()) -> Sizing:
    """Size and change from a table of path, size and when each file was changed (an ISO date, with a time or without).

    A file counts if a pattern of `include` fits it (all do where there is none) and none of `exclude`; in a pattern `*` is
    any run of characters, slashes too, `?` one, `[ab]` one of these. Raises ValueError when the first row names no columns.
    """
    path, size, changed = named_columns(table, COLUMNS).values()
    by_day: dict[date, float] = {}
    faults: list[FaultyRow] = []
    files = left_out = 0
    left_out_bytes = 0.0
    for row in table.rows[1:]:
        try:
            bytes_there, day = _bytes(row, size), _day(row, changed)
        except RowError as error:
            faults.append(error.faulty)
            continue
        if not _fits(row.cell(path), include, exclude):
            left_out, left_out_bytes = left_out + 1, left_out_bytes + bytes_there
            continue
        files += 1
        by_day[day] = by_day.get(day, 0.0) + bytes_there
    spans, daily, refused = _change(by_day)
    return Sizing(
        files,
        sum(by_day.values()),
        left_out,
        left_out_bytes,
        max(by_day).isoformat() if by_day else None,
        min(by_day).isoformat() if by_day else None,
        spans,
        daily,
        refused,
        faults[:MOST_FAULTS],
    )


def _change(by_day: dict[date, float]) -> tuple[list[Span], float | None, str]:
    total = sum(by_day.values())
    if not total:
        return [], None, "No file is counted."
    newest, oldest = max(by_day), min(by_day)
    reach = (newest - oldest).days
    spans = []
    for days in SPANS:
        if days <= max(reach, 1):
            changed = sum(size for day, size in by_day.items() if day > newest - timedelta(days=days))
            spans.append(Span(days, changed, changed / total))
    if reach < FEWEST_DAYS:
        return spans, None, f"The files' dates span {reach} days; a change per day needs at least {FEWEST_DAYS}."
    share = next(span.share for span in spans if span.days == FEWEST_DAYS)
    return spans, 100 * share / FEWEST_DAYS, ""


def _fits(path: str, include: Sequence[str], exclude: Sequence[str]) -> bool:
    wanted = not include or any(fnmatchcase(path, pattern) for pattern in include)
    return wanted and not any(fnmatchcase(path, pattern) for pattern in exclude)


def _bytes(row: Row, place: int) -> float:
    text = row.cell(place)
    try:
        size = bytes_of(int(text) if text.isdigit() else text)
    except ValueError as error:
        raise RowError(row.line, "size", str(error)) from None
    if size < 0:
        raise RowError(row.line, "size", f'expected a size that is not negative, got "{text}"')
    return size


def _day(row: Row, place: int) -> date:
    text = row.cell(place)
    try:
        return datetime.fromisoformat(text).replace(tzinfo=UTC).date()
    except ValueError:
        raise RowError(row.line, "changed", f'expected a date such as 2027-01-31, got "{text}"') from None
