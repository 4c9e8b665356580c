"""Long work about a design: begun, watched, found again by whoever may see the design, stopped."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.exports import MEDIA_TYPES, file_answer
from shelf_server.api.job_schemas import JobIn, JobOut, JobsOut
from shelf_server.api.preferences import report_style
from shelf_server.api.problems import Problem, file_of
from shelf_server.designs.files import FILES, today
from shelf_server.jobs import asking
from shelf_server.jobs.kinds import KINDS, Wanted
from shelf_server.jobs.models import Job

router = Router(tags=["jobs"])
ABOUT_A_JOB = {401: Problem, 403: Problem, 404: Problem}


@router.post("/designs/{int:id}/jobs", response={202: JobOut, 403: Problem, **READ_PROBLEMS})
def begin_job(request: HttpRequest, body: JobIn, id: int = design_id()) -> Status[JobOut]:  # noqa: A002
    """Begin long work.

    Bands of what is not known, what each rule is worth, what one more month of each rung costs, the longest keep, a file.
    What was asked of the same state of the design before, and goes on or is done, is answered with.
    """
    return Status(202, _out(asking.ask(request.user, id, body.kind, _wanted(request, body))))


def _wanted(request: HttpRequest, body: JobIn) -> Wanted:
    """What the kind of work depends on, and nothing else: what it does not need makes no other question of it."""
    if body.kind == "bands":
        return Wanted(on=body.on, draws=body.draws, seed=body.seed)
    if body.kind == "keep":
        return Wanted(on=body.on, target=body.target, ladder=body.ladder, rung=body.rung)
    if body.kind == "mend":
        return Wanted(on=body.on, duty=body.duty, ask=body.ask)
    if body.kind == "file":
        if body.file not in FILES:
            raise ValueError(f'expected a file ({", ".join(FILES)}), got "{body.file}"')
        style = report_style(request.user)
        return Wanted(on=body.on, file=body.file, today=today(), digits=style.digits, dates=style.dates)
    return Wanted(on=body.on)


@router.get("/designs/{int:id}/jobs", response={200: JobsOut, **READ_PROBLEMS})
def read_jobs(request: HttpRequest, id: int = design_id()) -> JobsOut:  # noqa: A002
    """What was last asked for about the design, by anybody, one of each kind."""
    return JobsOut(jobs=[_out(one, whole=False) for one in asking.latest(request.user, id)])


@router.get("/jobs/{uuid:key}", response={200: JobOut, **ABOUT_A_JOB})
def read_job(request: HttpRequest, key: UUID) -> JobOut:
    """How far a job is, and its result."""
    return _out(asking.find(request.user, key))


@router.get("/jobs/{uuid:key}/file", response=ABOUT_A_JOB, openapi_extra=file_of(*MEDIA_TYPES))
def take_job_file(request: HttpRequest, key: UUID) -> HttpResponse:
    """The file that a job made."""
    job = asking.find(request.user, key)
    if job.kind != "file" or job.state != Job.State.DONE:
        raise ValueError(f"expected a job that has made a file, got one of the kind {job.kind} that is {job.state}")
    wanted = Wanted.model_validate(job.asked)
    return file_answer(job.design, bytes(job.result or b""), wanted.file, wanted.on)


@router.delete("/jobs/{uuid:key}", response={200: JobOut, **ABOUT_A_JOB})
def stop_job(request: HttpRequest, key: UUID) -> JobOut:
    """Stop a job that you asked for, or any of a design that you may edit; what is done already is done."""
    return _out(asking.stop(request.user, key))


def _out(job: Job, *, whole: bool = True) -> JobOut:
    result = {}
    if whole and job.state == Job.State.DONE and job.kind != "file":
        found = KINDS[job.kind].whole.read(bytes(job.result or b""))  # type: ignore[index]
        result = {job.kind: found.years if job.kind == "nights" else found}
    wanted = Wanted.model_validate(job.asked)
    return JobOut(
        id=str(job.pk),
        kind=job.kind,  # type: ignore[arg-type]
        revision=job.revision,
        **wanted.model_dump(include={"on", "target", "ladder", "rung", "file", "duty", "ask"}),
        state=job.state,  # type: ignore[arg-type]
        done=job.done,
        of=job.of,
        failure=job.failure,
        **result,
    )
