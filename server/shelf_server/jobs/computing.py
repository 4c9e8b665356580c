"""A batch of a job's parts is computed by a worker; whoever does the last one puts them together."""

import json
import logging
import threading
import time
import zlib
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import timedelta
from typing import Any

from django.db import IntegrityError, InterfaceError, OperationalError, transaction
from django.db.models import F
from django.utils import timezone

from shelf_core.design.faults import DesignError
from shelf_core.design.reading import design_of
from shelf_core.engine.divided import Divided
from shelf_core.proof.case_months import MonthsOfCase
from shelf_server.designs.results import engine_memory, forecast_at, forget
from shelf_server.jobs.followed import known_nights, months_of_cases
from shelf_server.jobs.given_back import GivenBack
from shelf_server.jobs.kinds import KINDS, FollowedNights, HowDone, Subject, Wanted
from shelf_server.jobs.models import LEFT_AFTER_SECONDS, MOST_SECONDS, Job, JobPart

OVERDUE = f"This was stopped after {MOST_SECONDS // 60} minutes of work. Fewer draws, points, rules or years take less."
OUT_OF_MEMORY = "This takes more memory than there is for it."
OUR_OWN = "This failed for a reason of our own; the server's log says more."


@dataclass
class AtWork:
    """What this process computes just now, for whoever watches over it."""

    job: str = ""
    since: float = field(default_factory=time.monotonic)
    is_ending: threading.Event = field(default_factory=threading.Event)


AT_WORK = AtWork()


def compute(key: str, number: int, batches: int) -> None:
    """Do the parts of one batch of a job that are not there yet; of one that was stopped or is gone, nothing.

    Batch `number` of so many has each part whose own number leaves that remainder. Raises GivenBack when the worker is to
    end before all is done, and what the database raises when it goes.
    """
    job = Job.objects.filter(pk=key, state__in=Job.GOING).first()
    if job is None:
        return
    AT_WORK.job, AT_WORK.since = key, time.monotonic()
    try:
        _compute(job, number, batches)
    except (DesignError, ValueError) as error:
        fail(key, str(error))
    except MemoryError:
        forget()
        fail(key, OUT_OF_MEMORY)
    except (GivenBack, OperationalError, InterfaceError):
        raise
    except Exception:
        # A worker has nobody above it who would tell the person; the log gets the trace, the page gets to know.
        logging.getLogger(__name__).exception("job %s failed", key)
        fail(key, OUR_OWN)
    finally:
        AT_WORK.job = ""


def fail(key: str, failure: str) -> None:
    """End a job that goes on, and say why."""
    Job.objects.filter(pk=key, state__in=Job.GOING).update(state=Job.State.FAILED, failure=failure, document=b"")
    JobPart.objects.filter(job_id=key).delete()


def _compute(job: Job, batch: int, batches: int) -> None:
    how = KINDS[job.kind]  # type: ignore[index]
    _take_up(job)
    work = _work_of(job, how)
    there = set(JobPart.objects.filter(job=job).values_list("number", flat=True))
    for number in range(batch, len(work), batches):
        if number in there:
            continue
        if not _goes_on(job):
            return
        _keep_part(job, number, how.parts.write(work.part(number)))
    _join_when_whole(job, how, work)


def _take_up(job: Job) -> None:
    """Note that it is worked on from now; for how long it was left before that does not count."""
    now = timezone.now()
    Job.objects.filter(pk=job.pk, state=Job.State.WAITING).update(state=Job.State.RUNNING, begun=now, heard=now)
    with transaction.atomic():
        row = Job.objects.select_for_update().only("begun", "heard").filter(pk=job.pk, state=Job.State.RUNNING).first()
        if row is None or row.begun is None or row.heard is None:
            return
        if now - row.heard > timedelta(seconds=LEFT_AFTER_SECONDS):
            row.begun += now - row.heard
        row.heard = now
        row.save(update_fields=["begun", "heard"])


def _work_of(job: Job, how: HowDone) -> Divided[Any, Any]:
    result = forecast_at(job.design_state, lambda: design_of(json.loads(zlib.decompress(bytes(job.document)))))

    def followed() -> FollowedNights | None:
        known = known_nights(job.design_id, job.design_state, result)
        if not known.is_exact or known.arrivals is None or known.years is None:
            return None
        return FollowedNights(known.arrivals, known.years)

    def looked_through() -> list[MonthsOfCase] | None:
        return months_of_cases(job.design_id, job.design_state)

    return how.work(Subject(result, Wanted.model_validate(job.asked), engine_memory(), followed, looked_through))


def _goes_on(job: Job) -> bool:
    """Whether a job is still wanted. Raises ValueError for one that has taken as long as it may, GivenBack."""
    if AT_WORK.is_ending.is_set():
        raise GivenBack
    now = Job.objects.filter(pk=job.pk, state=Job.State.RUNNING).only("begun").first()
    if now is not None and now.is_overdue:
        raise ValueError(OVERDUE)
    return now is not None


def _keep_part(job: Job, number: int, written: bytes) -> None:
    # Where the job was stopped meanwhile, or somebody else has done the same part, nothing is kept.
    with suppress(IntegrityError), transaction.atomic():
        JobPart.objects.create(job=job, number=number, result=written)
        Job.objects.filter(pk=job.pk).update(done=F("done") + 1, heard=timezone.now())


def _join_when_whole(job: Job, how: HowDone, work: Divided[Any, Any]) -> None:
    with transaction.atomic():
        now = Job.objects.select_for_update().defer("document").filter(pk=job.pk, state=Job.State.RUNNING).first()
        if now is None or now.parts.count() < len(work):
            return
        _joined(now, how, work.joined)


def _joined(job: Job, how: HowDone, join: Callable[[Any], Any]) -> None:
    written = job.parts.order_by("number").values_list("result", flat=True)
    job.result = how.whole.write(join([how.parts.read(bytes(one)) for one in written]))
    job.state = Job.State.DONE
    job.save(update_fields=["result", "state"])
    # With its document a followed design says later which of its nights hold for another state.
    if job.kind != "nights":
        Job.objects.filter(pk=job.pk).update(document=b"")
    job.parts.all().delete()
