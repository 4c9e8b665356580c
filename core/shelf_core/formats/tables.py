"""The tables of a forecast as CSV (RFC 4180, lines ended by a line feed)."""

import csv
from dataclasses import asdict
from typing import TextIO

from shelf_core.forecast.forecast import Forecast
from shelf_core.forecast.points import points_on

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
    "stored_bytes",
    "moved_bytes",
    "needed_by",
    "lock",
)


def write_forecast(result: Forecast, out: TextIO) -> None:
    """A row per day and target."""
    table = csv.writer(out, lineterminator="\n")
    table.writerow(FORECAST_COLUMNS)
    columns = [
        (one.target.id, one.totals.points.tolist(), one.totals.stored_bytes.tolist(), one.totals.peak_bytes.tolist())
        for one in result.targets
    ]
    for place in range(result.frame.days):
        day = result.day(place)
        table.writerows((day, name, points[place], stored[place], peak[place]) for name, points, stored, peak in columns)


def write_points(result: Forecast, day: str, out: TextIO) -> None:
    """A row per workload and point that is there at the end of a day. Raises ValueError for a day outside the design."""
    rows = points_on(result, day)
    table = csv.writer(out, lineterminator="\n")
    table.writerow(POINT_COLUMNS)
    for row in rows:
        fields = asdict(row) | {"claims": "+".join(row.claims)}
        table.writerow([fields[name] for name in POINT_COLUMNS])
