"""What is known of the nights of a design: the instants from which they need to be followed."""

import json
import math
import zlib
from collections.abc import Hashable
from dataclasses import dataclass, replace
from uuid import UUID

from pydantic import TypeAdapter

from shelf_core.design.reading import design_of
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.picture import AllNights, YearsOfNights
from shelf_core.nights.quiet import BEGINNING, QuietInstants
from shelf_core.nights.unchanged import unchanged_until
from shelf_core.proof.arrived import Arrivals, arrivals_in
from shelf_core.proof.case_months import MonthsOfCase
from shelf_server.designs.results import forecast_at, kept_at
from shelf_server.jobs.models import Job


@dataclass(frozen=True, eq=False)
class Known:
    """Quiet instants that hold for a design as it is, and those of the state that was followed where that is another one.

    `arrivals` are those of the state that was followed, as far as the design still has the same points; None where none was.
    They and `years` are exact if nothing has changed since that bears on any transfer.
    """

    quiet: QuietInstants
    followed: Forecast | None = None
    quiet_of_followed: QuietInstants = BEGINNING
    arrivals: Arrivals | None = None
    is_exact: bool = False
    years: YearsOfNights | None = None


ALL_NIGHTS: TypeAdapter[AllNights] = TypeAdapter(AllNights)


MONTHS: TypeAdapter[list[MonthsOfCase]] = TypeAdapter(list[MonthsOfCase])
LastFollowed = tuple[Job, AllNights]


def known_nights(design: int, state: Hashable, result: Forecast) -> Known:
    """What the nights that were followed last say of a design at a state."""
    last = last_followed(design)
    if last is None:
        return Known(BEGINNING)
    job, all_nights = last
    arrivals, is_same = known_arrivals(last, state, result)
    if is_same or job.design_state == state:
        return Known(all_nights.quiet, arrivals=arrivals, is_exact=is_same, years=all_nights.years)
    followed = _followed(job)
    until = kept_at(state, ("unchanged", job.pk), lambda: unchanged_until(followed, result))
    quiet = kept_at(state, ("quiet", job.pk), lambda: _quiet_until(all_nights.quiet, until))
    is_exact = until == math.inf and arrivals is not None
    return Known(quiet, followed, all_nights.quiet, arrivals, is_exact, all_nights.years)


def known_arrivals(last: LastFollowed | None, state: Hashable, result: Forecast) -> tuple[Arrivals | None, bool]:
    """The arrivals of the nights that were followed last, as far as a state still has the same points, None where none were.

    With them whether it is this very state that was followed.
    """
    ended = None if last is None else last[1].ended
    if last is None or ended is None:
        return None, False
    job = last[0]
    is_same = job.design_state == state
    followed = result if is_same else _followed(job)
    arrivals = kept_at(job.design_state, ("arrivals", job.pk), lambda: arrivals_in(followed, ended))
    if is_same:
        return arrivals, True
    return arrivals.as_far_as_known(followed, result), False


def last_followed(design: int) -> LastFollowed | None:
    """The job that followed all nights last, and what it found, which is read once."""
    done = Job.objects.filter(design_id=design, kind="nights", state=Job.State.DONE)
    job = done.defer("result", "document").order_by("-created").first()
    if job is None:
        return None
    return job, kept_at(job.design_state, ("nights", job.pk), lambda: ALL_NIGHTS.validate_json(bytes(job.result or b"")))


def months_of_cases(design: int, state: UUID) -> list[MonthsOfCase] | None:
    """The cases of loss of a design at this very state through its months, None where they have not been looked through."""
    done = Job.objects.filter(design_id=design, kind="months", state=Job.State.DONE, design_state=state)
    job = done.order_by("-created").first()
    return None if job is None else MONTHS.validate_json(bytes(job.result or b""))


def _followed(job: Job) -> Forecast:
    return forecast_at(job.design_state, lambda: design_of(json.loads(zlib.decompress(bytes(job.document)))))


def _quiet_until(quiet: QuietInstants, until: float) -> QuietInstants:
    """Of the quiet instants of another state those that hold for this one."""
    return replace(quiet, instants=tuple(one for one in quiet.instants if one.instant <= until))
