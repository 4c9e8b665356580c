"""What is known of the nights of a design: the instants from which they need to be followed."""

import json
import zlib
from dataclasses import dataclass, replace

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.picture import AllNights
from shelf_core.nights.quiet import BEGINNING, QuietInstants
from shelf_core.nights.unchanged import unchanged_until
from shelf_server.designs.models import Design
from shelf_server.designs.results import forecast_at, kept_with
from shelf_server.jobs.kinds import KINDS
from shelf_server.jobs.models import Job


@dataclass(frozen=True, eq=False)
class Known:
    """Quiet instants that hold for a design as it is, and those of the state that was followed where that is another one."""

    quiet: QuietInstants
    followed: Forecast | None = None
    quiet_of_followed: QuietInstants = BEGINNING


def known_nights(row: Design, result: Forecast) -> Known:
    """What the nights that were followed last say of a design as it is."""
    job = Job.objects.filter(design=row, kind="nights", state=Job.State.DONE).order_by("-created").first()
    if job is None:
        return Known(BEGINNING)
    all_nights: AllNights = kept_with(row, ("nights", job.pk), lambda: KINDS["nights"].whole.read(bytes(job.result or b"")))
    if job.design_state == row.state:
        return Known(all_nights.quiet)
    followed = forecast_at(job.design_state, design_of(json.loads(zlib.decompress(bytes(job.document)))))
    quiet = kept_with(row, ("quiet", job.pk), lambda: _still_quiet(all_nights.quiet, followed, result))
    return Known(quiet, followed, all_nights.quiet)


def _still_quiet(quiet: QuietInstants, followed: Forecast, result: Forecast) -> QuietInstants:
    """Of the quiet instants of another state those that hold for this one."""
    until = unchanged_until(followed, result)
    return replace(quiet, instants=tuple(one for one in quiet.instants if one.instant <= until))
