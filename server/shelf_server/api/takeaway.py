"""Files of a forecast, to take away."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Query, Router

from shelf_core.report.tables import points_table, table
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.problems import file_of
from shelf_server.api.schemas import PointsChosen
from shelf_server.designs.access import design_for
from shelf_server.designs.files import FILES, asked_of, csv_of
from shelf_server.designs.results import stored_forecast

router = Router(tags=["files"])
POINTS_CHOSEN: Any = Query(...)  # type: ignore[type-arg]
MEDIA_TYPES = [media_type.split(";")[0] for media_type, _ in FILES.values()]


@router.get("/designs/{int:id}/tables/{name}.csv", response=READ_PROBLEMS, openapi_extra=file_of("text/csv"))
def take_table(request: HttpRequest, name: str, on: str, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """A table as CSV: targets, series, points, cost, workloads, or series-of- and the id of a target."""
    row = design_for(request.user, id, "viewer")
    return _file(
        csv_of(table(asked_of(row, on), name)), "text/csv; charset=utf-8", f"{slugify(row.name)}-{slugify(name)}-{on}.csv"
    )


@router.get("/designs/{int:id}/points.csv", response=READ_PROBLEMS, openapi_extra=file_of("text/csv"))
def take_points(request: HttpRequest, on: str, chosen: PointsChosen = POINTS_CHOSEN, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """The list of points at the end of a day as CSV, of what is chosen, with why each is there and until when."""
    row = design_for(request.user, id, "viewer")
    found = points_table(stored_forecast(row), on, chosen.choice())
    return _file(csv_of(found), "text/csv; charset=utf-8", f"{slugify(row.name)}-points-{on}.csv")


@router.get("/designs/{int:id}/files/{name}", response=READ_PROBLEMS, openapi_extra=file_of(*MEDIA_TYPES))
def take_file(request: HttpRequest, name: str, on: str, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """The report (report.pdf, report.html), the workbook (forecast.xlsx) or every day (series.parquet)."""
    row = design_for(request.user, id, "viewer")
    if name not in FILES:
        raise ValueError(f'expected a file ({", ".join(FILES)}), got "{name}"')
    media_type, make = FILES[name]
    return _file(make(asked_of(row, on)), media_type, f"{slugify(row.name)}-{on}-{name}")


def _file(content: bytes, media_type: str, name: str) -> HttpResponse:
    headers = {"Content-Disposition": f'attachment; filename="{name}"', "X-Content-Type-Options": "nosniff"}
    return HttpResponse(content, content_type=media_type, headers=headers)
