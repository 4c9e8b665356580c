"""Files of a forecast, to take away."""

from dataclasses import replace
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Query, Router

from shelf_core.formats.digest import digest
from shelf_core.report.asked import Asked
from shelf_core.report.tables import points_table, table
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.point_schemas import PointsChosen
from shelf_server.api.preferences import report_style
from shelf_server.api.problems import file_of
from shelf_server.designs.files import FILES, asked_of, csv_of
from shelf_server.designs.models import Design
from shelf_server.designs.results import document_of, opened, stored_forecast
from shelf_server.jobs.followed import known_nights, months_of_cases

router = Router(tags=["files"])
POINTS_CHOSEN: Any = Query(...)  # type: ignore[type-arg]
CSV = "text/csv; charset=utf-8"
DIGITS = 12
FOLLOWED = ("duties", "nights", "losses", "plans")
"""Tables that say more once long work has found it."""
MEDIA_TYPES = [media_type.split(";")[0] for media_type, _ in FILES.values()]


@router.get("/designs/{int:id}/tables/{name}.csv", response=READ_PROBLEMS, openapi_extra=file_of("text/csv"))
def take_table(request: HttpRequest, name: str, on: str, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """A table as CSV.

    targets, series, points, cost, cost-by-route (or workload, tag), workloads, opening, duties, nights, losses, plans, speeds;
    series-of- and the id of a target; split-of-, the id of a target and -by-route (or copy, workload, kind, rung, state).
    Nights, and losses by month, are there once long work has looked through this very state of the design.
    """
    row = opened(request.user, id, "viewer")
    asked = _with_what_was_followed(row, on) if name in FOLLOWED else asked_of(row, on)
    return _file(row, csv_of(table(asked, name)), CSV, f"{slugify(name)}-{on}", "csv")


@router.get("/designs/{int:id}/points.csv", response=READ_PROBLEMS, openapi_extra=file_of("text/csv"))
def take_points(request: HttpRequest, on: str, chosen: PointsChosen = POINTS_CHOSEN, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """The list of points at the end of a day as CSV, of what is chosen, with why each is there and until when."""
    row = opened(request.user, id, "viewer")
    found = points_table(stored_forecast(row), on, chosen.choice())
    return _file(row, csv_of(found), CSV, f"points-{on}", "csv")


@router.get("/designs/{int:id}/files/{name}", response=READ_PROBLEMS, openapi_extra=file_of(*MEDIA_TYPES))
def take_file(request: HttpRequest, name: str, on: str, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """The report (report.pdf, report.html), the workbook (forecast.xlsx) or every day (series.parquet)."""
    row = opened(request.user, id, "viewer")
    if name not in FILES:
        raise ValueError(f'expected a file ({", ".join(FILES)}), got "{name}"')
    _, make = FILES[name]
    asked = replace(_with_what_was_followed(row, on), style=report_style(request.user))
    return file_answer(row, make(asked), name, on)


def _with_what_was_followed(row: Design, on: str) -> Asked:
    """With what long work has found of this very state of the design."""
    asked = asked_of(row, on)
    known = known_nights(row.pk, row.state, asked.result)
    followed = (known.arrivals, known.years) if known.is_exact else (None, None)
    return replace(asked, arrivals=followed[0], nights=followed[1], months=months_of_cases(row.pk, row.state))


def file_answer(row: Design, content: bytes, name: str, on: str) -> HttpResponse:
    """One of the FILES of a design as of a day, to take away."""
    what, ending = name.rsplit(".", 1)
    return _file(row, content, FILES[name][0], f"{what}-{on}", ending)


def _file(row: Design, content: bytes, media_type: str, what: str, ending: str) -> HttpResponse:
    """A file whose name says of which design it is, with the beginning of its digest: a CSV has no other place for it."""
    name = f"{slugify(row.name)}-{what}-{digest(document_of(row))[:DIGITS]}.{ending}"
    headers = {"Content-Disposition": f'attachment; filename="{name}"', "X-Content-Type-Options": "nosniff"}
    return HttpResponse(content, content_type=media_type, headers=headers)
