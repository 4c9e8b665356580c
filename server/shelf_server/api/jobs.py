"""Long work about a design: begun, watched, found again, stopped."""

from django.http import HttpRequest
from ninja import Router, Status

from shelf_core.chance.bands import bands_of
from shelf_core.reasons.longer import one_more_month
from shelf_core.reasons.marginals import marginals
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.problems import Problem
from shelf_server.api.reason_schemas import WorkIn, WorkOut, WorksOut
from shelf_server.designs import work
from shelf_server.designs.access import NoSuchDesign, design_for, person_id
from shelf_server.designs.results import engine_memory, opened, stored_forecast

router = Router(tags=["reasons"])


@router.post("/designs/{int:id}/work", response={202: WorkOut, 403: Problem, **READ_PROBLEMS})
def begin_work(request: HttpRequest, body: WorkIn, id: int = design_id()) -> Status[WorkOut]:  # noqa: A002
    """Begin long work: bands of what is not known, what each rule is worth, what one more month of each rung costs."""
    row = opened(request.user, id, "viewer")
    result = stored_forecast(row)
    result.place_of(body.on)
    memory = engine_memory()
    begun = work.Work(body.kind, person_id(request.user), row.pk, row.revision, body.on)
    if body.kind == "bands":
        work.begin(begun, lambda watch: bands_of(result, body.draws, body.seed, memory=memory, watch=watch))
    elif body.kind == "rules":
        work.begin(begun, lambda watch: marginals(result, body.on, memory, watch))
    else:
        work.begin(begun, lambda watch: one_more_month(result, memory, watch))
    return Status(202, _work_out(begun))


@router.get("/designs/{int:id}/work", response={200: WorksOut, **READ_PROBLEMS})
def read_works(request: HttpRequest, id: int = design_id()) -> WorksOut:  # noqa: A002
    """What the person last asked for about the design, one of each kind."""
    row = opened(request.user, id, "viewer")
    return WorksOut(works=[_work_out(one, whole=False) for one in work.latest(person_id(request.user), row.pk)])


@router.get("/work/{key}", response={200: WorkOut, 401: Problem, 404: Problem})
def read_work(request: HttpRequest, key: str) -> WorkOut:
    """How far work is, and its result."""
    return _work_out(_own(request, key))


@router.delete("/work/{key}", response={200: WorkOut, 401: Problem, 403: Problem, 404: Problem})
def stop_work(request: HttpRequest, key: str) -> WorkOut:
    """Stop work; what is done already is done."""
    found = _own(request, key)
    found.stop()
    return _work_out(found)


def _own(request: HttpRequest, key: str) -> work.Work:
    found = work.find(key, person_id(request.user))
    if found is None:
        raise NoSuchDesign
    # What a design came to is for those alone who may see it now.
    design_for(request.user, found.design, "viewer")
    return found


def _work_out(one: work.Work, *, whole: bool = True) -> WorkOut:
    result = {one.kind: one.result} if whole and one.state == "done" else {}
    return WorkOut(
        id=one.id,
        kind=one.kind,
        revision=one.revision,
        on=one.on,
        state=one.state,
        done=one.done,
        of=one.of,
        failure=one.failure,
        **result,
    )
