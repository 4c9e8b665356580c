"""The tables of a forecast as CSV (RFC 4180, lines ended by a line feed)."""

import csv
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import asdict
from typing import TextIO

from shelf_core.forecast.forecast import Forecast, TargetForecast
from shelf_core.forecast.points import FOREVER, NEVER, PointRow

FORECAST_COLUMNS = ("date", "target", "points", "stored_bytes", "peak_bytes")
POINT_COLUMNS = (  # those up to `state` are the list that every version prints
    "workload",
    "route",
    "copy",
    "target",
    "taken",
    "kind",
    "run",
    "claims",
    "state",
    "count",
    "claimed_until",
    "locked_until",
    "removed",
    "for_good",
    "stored_bytes",
    "moved_bytes",
    "needed_by",
    "lock",
    "why",
)


def write_forecast(result: Forecast, out: TextIO) -> None:
    """A row per day and target."""
    _write(FORECAST_COLUMNS, forecast_rows(result, result.targets), out)


def forecast_rows(result: Forecast, targets: list[TargetForecast]) -> Iterator[tuple[str, str, int, float, float]]:
    """The rows of some targets, day by day."""
    columns = [
        (one.target.id, one.totals.points.tolist(), one.totals.stored_bytes.tolist(), one.totals.peak_bytes.tolist())
        for one in targets
    ]
    for place in range(result.frame.days):
        day = result.day(place)
        yield from ((day, name, points[place], stored[place], peak[place]) for name, points, stored, peak in columns)


def point_cells(row: PointRow) -> tuple[str | int | float | None, ...]:
    """One point as a row of its table: columns of times hold times, and `for_good` names what never ends (claims, lock)."""
    fields = asdict(row) | {"claims": "+".join(row.claims)}
    ends = {"claims": row.claimed_until, "lock": row.locked_until}
    fields["for_good"] = "+".join(name for name, end in ends.items() if end == FOREVER)
    for name in ("claimed_until", "locked_until", "removed"):
        if fields[name] in (FOREVER, NEVER):
            fields[name] = ""
    return tuple(fields[name] for name in POINT_COLUMNS)


def _write(columns: Sequence[str], rows: Iterable[Sequence[object]], out: TextIO) -> None:
    table = csv.writer(out, lineterminator="\n")
    table.writerow(columns)
    table.writerows(rows)
