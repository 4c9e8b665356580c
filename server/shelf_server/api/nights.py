"""Nights: what every transfer of one comes to. All nights together are a job (`nights`)."""

from django.http import HttpRequest
from ninja import Router, Schema

from shelf_core.nights.picture import CopyEnd, NightPicture, copy_ends, night_of
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.designs.results import kept_with, opened, stored_forecast
from shelf_server.jobs.followed import known_nights

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
    known = known_nights(row.pk, row.state, result)
    night: NightPicture = kept_with(row, ("night", on), lambda: night_of(result, on, known.quiet))
    before: list[CopyEnd] = []
    if known.followed is not None:
        other, quiet = known.followed, known.quiet_of_followed
        before = kept_with(row, ("night before", on), lambda: copy_ends(night_of(other, on, quiet)))
    return NightOut(revision=row.revision, night=night, before=before)
