"""What is known of the nights of a design: the instants from which they need to be followed."""

import json
import math
import zlib
from collections.abc import Hashable
from dataclasses import dataclass, replace

from pydantic import TypeAdapter

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.picture import AllNights
from shelf_core.nights.quiet import BEGINNING, QuietInstants
from shelf_core.nights.unchanged import unchanged_until
from shelf_core.proof.arrived import Arrivals, arrivals_in
from shelf_server.designs.results import forecast_at, kept_at
from shelf_server.jobs.models import Job


@dataclass(frozen=True, eq=False)
class Known:
    """Quiet instants that hold for a design as it is, and those of the state that was followed where that is another one.

    `arrivals` are those of the state that was followed, as far as the design still has the same points; None where none was.
    They are exact if nothing has changed since that bears on any transfer.
    """

    quiet: QuietInstants
    followed: Forecast | None = None
    quiet_of_followed: QuietInstants = BEGINNING
    arrivals: Arrivals | None = None
    is_exact: bool = False


ALL_NIGHTS: TypeAdapter[AllNights] = TypeAdapter(AllNights)


def known_nights(design: int, state: Hashable, result: Forecast) -> Known:
    """What the nights that were followed last say of a design at a state."""
    job = (
        Job.objects.filter(design_id=design, kind="nights", state=Job.State.DONE)
        .defer("result", "document")
        .order_by("-created")
        .first()
    )
    if job is None:
        return Known(BEGINNING)
    # A result is read once, whatever state the design has come to since.
    all_nights = kept_at(job.design_state, ("nights", job.pk), lambda: ALL_NIGHTS.validate_json(bytes(job.result or b"")))
    followed = result if job.design_state == state else _followed(job)
    arrivals = kept_at(job.design_state, ("arrivals", job.pk), lambda: arrivals_in(followed, all_nights.ended))
    if followed is result:
        return Known(all_nights.quiet, arrivals=arrivals, is_exact=True)
    until = kept_at(state, ("unchanged", job.pk), lambda: unchanged_until(followed, result))
    quiet = kept_at(state, ("quiet", job.pk), lambda: _quiet_until(all_nights.quiet, until))
    known = kept_at(state, ("arrivals", job.pk), lambda: arrivals.as_far_as_known(followed, result))
    return Known(quiet, followed, all_nights.quiet, known, is_exact=until == math.inf)


def _followed(job: Job) -> Forecast:
    return forecast_at(job.design_state, lambda: design_of(json.loads(zlib.decompress(bytes(job.document)))))


def _quiet_until(quiet: QuietInstants, until: float) -> QuietInstants:
    """Of the quiet instants of another state those that hold for this one."""
    return replace(quiet, instants=tuple(one for one in quiet.instants if one.instant <= until))
