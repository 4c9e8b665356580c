"""The calendar of a design, to be kept or to be subscribed to."""

from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router
from ninja.security import django_auth

from shelf_core.formats.calendar_text import calendar_text
from shelf_server.api.authentication import CalendarKey, TokenAuth
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.problems import file_of
from shelf_server.designs.results import kept_with, opened, stored_forecast

router = Router(tags=["calendars"], auth=[CalendarKey(), TokenAuth(), django_auth])


@router.get("/designs/{int:id}/calendar.ics", response=READ_PROBLEMS, openapi_extra=file_of("text/calendar"))
def read_calendar(request: HttpRequest, cadence: str | None = None, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """All runs and what happens on account of them, or the runs of one cadence (RFC 5545).

    Programs that subscribe name a token in the address, best one whose role is `calendar`.
    """
    row = opened(request.user, id, "viewer")
    content = kept_with(row, ("calendar", cadence), lambda: calendar_text(stored_forecast(row), cadence))
    name = "-".join(filter(None, [slugify(row.name), slugify(cadence or "")]))
    headers = {"Content-Disposition": f'inline; filename="{name}.ics"', "Cache-Control": "private, no-cache"}
    return HttpResponse(content, content_type="text/calendar; charset=utf-8", headers=headers)
