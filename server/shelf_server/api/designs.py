"""Designs: reading them, and editing their entries."""

from typing import Any

from django.http import HttpRequest
from ninja import Path, Router, Status

from shelf_core.calendar.zones import day_text
from shelf_core.design.base import Part
from shelf_core.design.document import Design as Document
from shelf_core.design.faults import DesignError
from shelf_core.design.soundness import design_faults
from shelf_server.api.answers import with_change
from shelf_server.api.problems import Problem, StaleProblem
from shelf_server.api.schemas import (
    CadenceEdit,
    Consequences,
    Day,
    DesignLine,
    DesignOut,
    EditOut,
    LadderEdit,
    Removal,
    SiteEdit,
    TargetEdit,
    WorkloadEdit,
)
from shelf_server.designs import actions
from shelf_server.designs.access import design_for, designs_of, person_id, role_of
from shelf_server.designs.models import Design, Reference
from shelf_server.designs.results import document_of, keep_forecast, stored_forecast
from shelf_server.designs.rows.load import versions

router = Router(tags=["designs"])

LARGEST_ID = 2**63 - 1
READ_PROBLEMS = {401: Problem, 404: Problem, 422: Problem}
EDIT_PROBLEMS = {401: Problem, 403: Problem, 404: Problem, 409: StaleProblem, 422: Problem}


def design_id() -> Any:
    """A path argument within what the database counts with."""
    return Path(..., ge=1, le=LARGEST_ID)  # type: ignore[type-arg]


@router.get("", response={200: list[DesignLine], 401: Problem})
def list_designs(request: HttpRequest) -> list[DesignLine]:
    """The designs that belong to the person, by name."""
    return [DesignLine(id=one.design_id, name=one.design.name, role=one.role) for one in designs_of(request.user)]


@router.post("", response={201: DesignLine, 401: Problem, 403: Problem, 422: Problem})
def create(request: HttpRequest, body: Document) -> Status[DesignLine]:
    """Store a whole document as a new design of the person."""
    faults = design_faults(body)
    if faults:
        raise DesignError(faults)
    row = actions.create_design(request.user, body)
    return Status(201, DesignLine(id=row.pk, name=row.name, role="owner"))


@router.get("/{int:id}", response={200: DesignOut, **READ_PROBLEMS}, by_alias=True)
def read(request: HttpRequest, id: int = design_id()) -> DesignOut:  # noqa: A002 - the name in the address
    """A design as a document, with the version of each entry."""
    row = design_for(request.user, id, "viewer")
    reference = Reference.objects.filter(design=row, user_id=person_id(request.user)).first()
    return DesignOut(
        id=row.pk,
        role=role_of(request.user, row),
        revision=row.revision,
        reference_revision=reference.revision if reference else None,
        document=document_of(row),
        versions=versions(row),
    )


@router.get("/{int:id}/days", response={200: Day, **READ_PROBLEMS})
def days(request: HttpRequest, id: int = design_id()) -> Day:  # noqa: A002
    """Every date of a design, and where its months begin."""
    frame = stored_forecast(design_for(request.user, id, "viewer")).frame
    dates = [day_text(frame.first_day + place) for place in range(frame.days)]
    return Day(dates=dates, month_begins=[place for place, day in enumerate(dates) if place == 0 or day.endswith("-01")])


@router.get("/{int:id}/consequences", response={200: Consequences, **READ_PROBLEMS})
def read_consequences(request: HttpRequest, on: str, id: int = design_id()) -> Consequences:  # noqa: A002
    """What every target holds at the end of a day, with the change since the person's reference."""
    row = design_for(request.user, id, "viewer")
    return with_change(request.user, row.pk, row.revision, stored_forecast(row), on)


@router.post("/{int:id}/reference", response={200: Consequences, **READ_PROBLEMS, 403: Problem})
def set_reference(request: HttpRequest, on: str, id: int = design_id()) -> Consequences:  # noqa: A002
    """Measure changes from the design as it is now."""
    actions.set_reference(request.user, id)
    row = design_for(request.user, id, "viewer")
    return with_change(request.user, row.pk, row.revision, stored_forecast(row), on)


@router.put("/{int:id}/ladders/{key}", response={200: EditOut, **EDIT_PROBLEMS})
def put_ladder(request: HttpRequest, key: str, body: LadderEdit, id: int = design_id()) -> EditOut:  # noqa: A002
    """Replace a ladder, or add one."""
    return _put(request, id, "ladders", key, body.value, body)


@router.put("/{int:id}/cadences/{key}", response={200: EditOut, **EDIT_PROBLEMS})
def put_cadence(request: HttpRequest, key: str, body: CadenceEdit, id: int = design_id()) -> EditOut:  # noqa: A002
    """Replace a cadence, or add one."""
    return _put(request, id, "cadences", key, body.value, body)


@router.put("/{int:id}/workloads/{key}", response={200: EditOut, **EDIT_PROBLEMS})
def put_workload(request: HttpRequest, key: str, body: WorkloadEdit, id: int = design_id()) -> EditOut:  # noqa: A002
    """Replace a workload, or add one."""
    return _put(request, id, "workloads", key, body.value, body)


@router.put("/{int:id}/targets/{key}", response={200: EditOut, **EDIT_PROBLEMS})
def put_target(request: HttpRequest, key: str, body: TargetEdit, id: int = design_id()) -> EditOut:  # noqa: A002
    """Replace a target, or add one."""
    return _put(request, id, "targets", key, body.value, body)


@router.put("/{int:id}/sites/{key}", response={200: EditOut, **EDIT_PROBLEMS})
def put_site(request: HttpRequest, key: str, body: SiteEdit, id: int = design_id()) -> EditOut:  # noqa: A002
    """Replace a site, or add one."""
    return _put(request, id, "sites", key, body.value, body)


@router.post("/{int:id}/{list_name}/{key}/removal", response={200: EditOut, **EDIT_PROBLEMS})
def remove(request: HttpRequest, list_name: str, key: str, body: Removal, id: int = design_id()) -> EditOut:  # noqa: A002
    """Take an entry out of one of the lists; refused while something refers to it."""
    if list_name not in ("ladders", "cadences", "workloads", "targets", "sites"):
        raise ValueError(f"expected a list such as ladders, got {list_name}")
    done = actions.remove_entry(request.user, id, list_name, key, body.seen)
    return _done(request, id, done, body.on)


def _put(request: HttpRequest, row_id: int, list_name: str, key: str, value: Part, body: Any) -> EditOut:
    _check_day(request, row_id, body.on)
    done = actions.put_entry(request.user, row_id, list_name, key, value, body.seen)
    return _done(request, row_id, done, body.on)


def _check_day(request: HttpRequest, row_id: int, on: str) -> None:
    """Refuse a wrong as-of date before anything is saved."""
    row: Design = design_for(request.user, row_id, "viewer")
    stored_forecast(row).place_of(on)


def _done(request: HttpRequest, row_id: int, done: actions.Done, on: str) -> EditOut:
    result = keep_forecast(row_id, done.revision, done.design)
    figures = with_change(request.user, row_id, done.revision, result, on)
    before, after = (None if part is None else part.whole() for part in (done.before, done.after))
    return EditOut(version=done.version, before=before, after=after, consequences=figures)
