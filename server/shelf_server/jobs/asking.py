"""Long work is asked for, found again, and stopped."""

import json
import zlib
from typing import Any

from django.db import connection, transaction

from shelf_server.designs.access import NoSuchDesign, Person, design_for, person_id
from shelf_server.designs.models import Design
from shelf_server.designs.results import document_of, engine_memory, opened, stored_forecast
from shelf_server.jobs.kinds import KINDS, Kind, Subject, Wanted
from shelf_server.jobs.models import Job
from shelf_server.jobs.tasks import send_out

MOST_AT_ONCE = 4
"""So many jobs go on at a time for one person: more would only slow each other down."""


ENDED_KEPT = 5


class TooMuchAtOnce(ValueError):
    """A person has so many jobs going on that no more is begun."""


def ask(user: Person, design_id: int, kind: Kind, wanted: Wanted) -> Job:
    """Have long work done about a design as it is now. What was asked before and goes on, or is there, is not done again.

    Raises NoSuchDesign, MayNot, ValueError for a day outside the design or work that it has nothing for, TooMuchAtOnce.
    """
    row = opened(user, design_id, "viewer")
    result = stored_forecast(row)
    result.place_of(wanted.on)
    parts = len(KINDS[kind].work(Subject(result, wanted, engine_memory(), lambda: None, lambda: None)))
    with transaction.atomic():
        _one_at_a_time(person_id(user))
        depends_on = wanted.model_dump(exclude_defaults=True)
        same = row.jobs.filter(kind=kind, design_state=row.state, asked=depends_on)
        there: Job | None = same.filter(state__in=[*Job.GOING, Job.State.DONE]).defer("document", "result").first()
        if there is not None:
            return there
        if Job.objects.filter(asked_by_id=person_id(user), state__in=Job.GOING).count() >= MOST_AT_ONCE:
            raise TooMuchAtOnce(f"expected at most {MOST_AT_ONCE} pieces of work at a time, got one more; stop one first")
        job = Job.objects.create(
            design=row,
            asked_by_id=person_id(user),
            kind=kind,
            design_state=row.state,
            revision=row.revision,
            asked=depends_on,
            of=parts,
            document=zlib.compress(json.dumps(document_of(row).canonical()).encode()),
        )
        _forget_older(row, job)
        send_out(job)
    return job


def find(user: Person, key: Any) -> Job:
    """A job about a design that the person may see. Raises NoSuchDesign."""
    job = Job.objects.defer("document").filter(pk=key).first()
    if job is None:
        raise NoSuchDesign
    design_for(user, job.design_id, "viewer")
    return job


def latest(user: Person, design_id: int) -> list[Job]:
    """What was last asked for about a design, one of each kind, by anybody. Raises NoSuchDesign."""
    design_for(user, design_id, "viewer")
    jobs = Job.objects.filter(design_id=design_id).exclude(kind="file").order_by("kind", "-created").distinct("kind")
    return list(jobs.defer("document", "result"))


def stop(user: Person, key: Any) -> Job:
    """Stop a job of one's own, or as an editor of its design. What has ended stays as it is. Raises NoSuchDesign, MayNot."""
    job = find(user, key)
    if job.asked_by_id != person_id(user):
        design_for(user, job.design_id, "editor")
    if Job.objects.filter(pk=job.pk, state__in=Job.GOING).update(state=Job.State.STOPPED, document=b""):
        job.parts.all().delete()
        job.state = Job.State.STOPPED
    return job


def _one_at_a_time(person: int) -> None:
    """Whoever asks for the same person waits until this transaction has ended, so that both count right."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(hashtext('jobs'), %s)", [person])


def _forget_older(row: Design, job: Job) -> None:
    """Of each kind a design keeps what still goes on, and the last few that have ended: others may be looking at those."""
    older = Job.objects.filter(design=row, kind=job.kind).exclude(pk=job.pk).exclude(state__in=Job.GOING)
    Job.objects.filter(pk__in=list(older.order_by("-created").values_list("pk", flat=True)[ENDED_KEPT:])).delete()
