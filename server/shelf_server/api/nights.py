"""Nights: what every transfer of one comes to. All nights together are a job (`nights`)."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Schema

from shelf_core.nights.picture import NightPicture, YearsOfNights, night_of
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.designs.models import Design
from shelf_server.designs.results import kept_with, opened, stored_forecast
from shelf_server.jobs.kinds import KINDS
from shelf_server.jobs.models import Job

router = Router(tags=["nights"])


class NightOut(Schema):
    """One night as bars on a clock."""

    revision: int
    night: NightPicture


@router.get("/designs/{int:id}/night", response={200: NightOut, **READ_PROBLEMS})
def read_night(request: HttpRequest, on: str, id: int = design_id()) -> NightOut:  # noqa: A002
    """The night that begins at noon of a day: what is asked for in it or still goes on, what held it, and what is late.

    Where the nights of the same state have been followed before (a job of the kind nights), only this one is followed.
    """
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    result.place_of(on)
    since = _quiet_before(row, on)
    night: NightPicture = kept_with(row, ("night", on), lambda: night_of(result, on, since))
    return NightOut(revision=row.revision, night=night)


def _quiet_before(row: Design, on: str) -> float:
    """The last instant before a night at which nothing ran or waited, as far as that is known; the design's beginning else."""
    job = Job.objects.filter(design=row, kind="nights", design_state=row.state, state=Job.State.DONE).only("pk").first()
    if job is None:
        return 0.0
    years: YearsOfNights = kept_with(row, ("nights",), lambda: _result_of(job.pk))
    return years.since[years.nights.index(on)] if on in years.nights else 0.0


def _result_of(key: UUID) -> YearsOfNights:
    written = Job.objects.values_list("result", flat=True).get(pk=key)
    found: YearsOfNights = KINDS["nights"].whole.read(bytes(written or b""))
    return found
