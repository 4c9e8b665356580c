"""Files of a forecast, to take away."""

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router

from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.problems import file_of
from shelf_server.designs.access import design_for
from shelf_server.designs.files import FILES, asked_of, csv_of

router = Router(tags=["files"])
MEDIA_TYPES = [media_type.split(";")[0] for media_type, _ in FILES.values()]


@router.get("/designs/{int:id}/tables/{name}.csv", response=READ_PROBLEMS, openapi_extra=file_of("text/csv"))
def take_table(request: HttpRequest, name: str, on: str, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """A table as CSV: targets, series, points, cost, workloads, or series-of- and the id of a target."""
    row = design_for(request.user, id, "viewer")
    return _file(csv_of(asked_of(row, on), name), "text/csv; charset=utf-8", f"{slugify(row.name)}-{slugify(name)}-{on}.csv")


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
