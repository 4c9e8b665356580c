"""Nights: what every transfer of one comes to. All nights together are a job (`nights`)."""

import json
import zlib
from dataclasses import replace

from django.http import HttpRequest
from ninja import Router, Schema

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.picture import AllNights, CopyEnd, NightPicture, copy_ends, night_of
from shelf_core.nights.quiet import BEGINNING, QuietInstants
from shelf_core.nights.unchanged import unchanged_until
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.designs.models import Design
from shelf_server.designs.results import forecast_at, kept_with, opened, stored_forecast
from shelf_server.jobs.kinds import KINDS
from shelf_server.jobs.models import Job

router = Router(tags=["nights"])


class NightOut(Schema):
    """One night as bars on a clock.

    `before` is what its copies came to in the state whose nights were followed last, where that is another one than this.
    """

    revision: int
    night: NightPicture
    before: list[CopyEnd]


@router.get("/designs/{int:id}/night", response={200: NightOut, **READ_PROBLEMS})
def read_night(request: HttpRequest, on: str, id: int = design_id()) -> NightOut:  # noqa: A002
    """The night that begins at noon of a day: what is asked for in it or still goes on, what held it, and what is late.

    Where all nights have been followed before (a job of the kind nights), of this state or of one from which nothing before
    this night has changed, only what led to this one is followed.
    """
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    result.place_of(on)
    job = Job.objects.filter(design=row, kind="nights", state=Job.State.DONE).order_by("-created").first()
    if job is None:
        return NightOut(revision=row.revision, night=_night(row, result, on, BEGINNING), before=[])
    all_nights: AllNights = kept_with(row, ("nights", job.pk), lambda: KINDS["nights"].whole.read(bytes(job.result or b"")))
    if job.design_state == row.state:
        return NightOut(revision=row.revision, night=_night(row, result, on, all_nights.quiet), before=[])
    followed = forecast_at(job.design_state, design_of(json.loads(zlib.decompress(bytes(job.document)))))
    quiet = kept_with(row, ("quiet", job.pk), lambda: _known_quiet(all_nights.quiet, followed, result))
    before = kept_with(row, ("night before", job.pk, on), lambda: copy_ends(night_of(followed, on, all_nights.quiet)))
    return NightOut(revision=row.revision, night=_night(row, result, on, quiet), before=before)


def _night(row: Design, result: Forecast, on: str, quiet: QuietInstants) -> NightPicture:
    found: NightPicture = kept_with(row, ("night", on), lambda: night_of(result, on, quiet))
    return found


def _known_quiet(quiet: QuietInstants, followed: Forecast, result: Forecast) -> QuietInstants:
    """Of the quiet instants of another state those that hold for this one."""
    until = unchanged_until(followed, result)
    return replace(quiet, instants=tuple(one for one in quiet.instants if one.instant <= until))
