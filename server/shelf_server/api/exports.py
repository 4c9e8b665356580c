"""Files of a forecast, to take away."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Query, Router

from shelf_core.formats.digest import digest
from shelf_core.report.tables import points_table, table
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.point_schemas import PointsChosen
from shelf_server.api.problems import file_of
from shelf_server.designs.files import FILES, asked_of, csv_of
from shelf_server.designs.models import Design
from shelf_server.designs.results import document_of, opened, stored_forecast

router = Router(tags=["files"])
POINTS_CHOSEN: Any = Query(...)  # type: ignore[type-arg]
CSV = "text/csv; charset=utf-8"
DIGITS = 12
MEDIA_TYPES = [media_type.split(";")[0] for media_type, _ in FILES.values()]


@router.get("/designs/{int:id}/tables/{name}.csv", response=READ_PROBLEMS, openapi_extra=file_of("text/csv"))
def take_table(request: HttpRequest, name: str, on: str, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """A table as CSV.

    targets, series, points, cost, workloads, opening; series-of- and the id of a target; split-of-, the id of a target and
    -by-route (or copy, workload, kind, rung, state).
    """
    row = opened(request.user, id, "viewer")
    return _file(row, csv_of(table(asked_of(row, on), name)), CSV, f"{slugify(name)}-{on}", "csv")


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
    return file_answer(row, make(asked_of(row, on)), name, on)


def file_answer(row: Design, content: bytes, name: str, on: str) -> HttpResponse:
    """One of the FILES of a design as of a day, to take away."""
    what, ending = name.rsplit(".", 1)
    return _file(row, content, FILES[name][0], f"{what}-{on}", ending)


def _file(row: Design, content: bytes, media_type: str, what: str, ending: str) -> HttpResponse:
    """A file whose name says of which design it is, with the beginning of its digest: a CSV has no other place for it."""
    name = f"{slugify(row.name)}-{what}-{digest(document_of(row))[:DIGITS]}.{ending}"
    headers = {"Content-Disposition": f'attachment; filename="{name}"', "X-Content-Type-Options": "nosniff"}
    return HttpResponse(content, content_type=media_type, headers=headers)
