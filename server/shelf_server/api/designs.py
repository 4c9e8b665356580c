"""Designs: reading them, and editing their entries."""

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Path, Router, Status
from pydantic import BeforeValidator

from shelf_core.calendar.zones import day_text
from shelf_core.design.document import Design as Document
from shelf_core.design.versions import of_any_version
from shelf_core.engine.schedule.frame import frame_of
from shelf_core.forecast.charts import day_marks, month_begins
from shelf_core.formats.documents import document_text
from shelf_server.api.answers import reference_of, with_change
from shelf_server.api.design_schemas import Consequences, Day, DesignLine, DesignOut, RevisionOut
from shelf_server.api.headers import IF_MATCH, KEY, etag_of, request_digest, seen_state
from shelf_server.api.problems import Problem, file_of
from shelf_server.designs import actions
from shelf_server.designs.access import design_for, designs_of, person_id, role_of
from shelf_server.designs.models import Change, Design, Reference
from shelf_server.designs.remembering import made_once
from shelf_server.designs.results import document_of, opened, stored, stored_forecast

router = Router(tags=["designs"])

LARGEST_ID = 2**63 - 1
AnyDocument = Annotated[Document, BeforeValidator(of_any_version)]
"""A document as it is sent: one of an older version is brought up to the newest."""
READ_PROBLEMS = {401: Problem, 404: Problem, 422: Problem}
REPLACE_PROBLEMS = {**READ_PROBLEMS, 403: Problem, 412: Problem, 428: Problem}


def design_id() -> Any:
    """A path argument within what the database counts with."""
    return Path(..., ge=1, le=LARGEST_ID)  # type: ignore[type-arg]


@router.get("", response={200: list[DesignLine], 401: Problem})
def list_designs(request: HttpRequest) -> list[DesignLine]:
    """The designs that belong to the person, by name."""
    return [line_of(one.design, one.role) for one in designs_of(request.user)]


def line_of(row: Design, role: str) -> DesignLine:
    """A design as it stands in the list."""
    return DesignLine(id=row.pk, name=row.name, role=role, family=row.family_id, variant=row.variant, current=row.current)


@router.post("", response={201: DesignLine, 401: Problem, 403: Problem, 422: Problem})
def create(request: HttpRequest, response: HttpResponse, body: AnyDocument, key: str | None = KEY) -> Status[DesignLine]:
    """Store a whole document as a new design of the person; `Location` is its address."""
    row = made_once(
        request.user, key, request_digest("create", body.canonical()), lambda: actions.create_design(request.user, body)
    )
    response["Location"] = address_of(row)
    return Status(201, line_of(row, role_of(request.user, row)))


def address_of(row: Design) -> str:
    """Where a design is read."""
    return f"/api/designs/{row.pk}"


@router.get("/{int:id}", response={200: DesignOut, **READ_PROBLEMS}, by_alias=True)
def read(request: HttpRequest, id: int = design_id()) -> DesignOut:  # noqa: A002 - the name in the address
    """A design as a document, with the version of each entry."""
    row = opened(request.user, id, "viewer")
    reference = Reference.objects.filter(design=row, user_id=person_id(request.user)).first()
    return DesignOut(
        id=row.pk,
        variant=row.variant,
        current=row.current,
        role=role_of(request.user, row),
        revision=row.revision,
        reference_revision=reference.revision if reference else None,
        document=document_of(row),
        versions=stored(row).versions,
    )


@router.get("/{int:id}/revision", response={200: RevisionOut, **READ_PROBLEMS})
def read_revision(request: HttpRequest, id: int = design_id()) -> RevisionOut:  # noqa: A002
    """Which revision a design is at, and who made it: asked now and then by pages that show it."""
    row = design_for(request.user, id, "viewer")
    last = Change.objects.filter(design=row, revision=row.revision).select_related("who").first()
    return RevisionOut(revision=row.revision, who=str(last.who) if last and last.who else "", what=last.what if last else "")


@router.get("/{int:id}/document", response={200: dict[str, Any], **READ_PROBLEMS})
def read_document(request: HttpRequest, response: HttpResponse, id: int = design_id()) -> dict[str, Any]:  # noqa: A002
    """The document alone in canonical form, to be kept as a file. Its ETag stands for the revision."""
    row = opened(request.user, id, "viewer")
    response["ETag"] = etag_of(row)
    return document_of(row).canonical()


@router.put("/{int:id}/document", response={200: DesignLine, **REPLACE_PROBLEMS})
def replace_document(
    request: HttpRequest,
    response: HttpResponse,
    body: AnyDocument,
    id: int = design_id(),  # noqa: A002
    if_match: str | None = IF_MATCH,
) -> DesignLine:
    """Let a design become another document, whole or not at all. If-Match names the ETag of the revision that it replaces."""
    design_for(request.user, id, "editor")
    row = actions.replace(request.user, id, body, seen_state(if_match, id), "a document in its place")
    response["ETag"] = etag_of(row)
    return line_of(row, role_of(request.user, row))


@router.delete("/{int:id}", response={204: None, **REPLACE_PROBLEMS})
def remove_design(
    request: HttpRequest,
    id: int = design_id(),  # noqa: A002
    if_match: str | None = IF_MATCH,
) -> Status[None]:
    """Remove a design with all its variants and their histories, for good. If-Match names the ETag of what was seen.

    It is for whoever owns every variant; `variants` says how one alone is dropped.
    """
    design_for(request.user, id, "owner")
    actions.remove(request.user, id, seen_state(if_match, id))
    return Status(204, None)


@router.get("/{int:id}/document.yaml", response=READ_PROBLEMS, openapi_extra=file_of("application/yaml", holds="object"))
def read_yaml(request: HttpRequest, id: int = design_id()) -> HttpResponse:  # noqa: A002
    """The document as YAML, to be read and reviewed."""
    row = opened(request.user, id, "viewer")
    text = document_text(document_of(row), "yaml")
    return HttpResponse(text, content_type="application/yaml; charset=utf-8", headers={"ETag": etag_of(row)})


@router.get("/{int:id}/days", response={200: Day, **READ_PROBLEMS})
def days(request: HttpRequest, id: int = design_id()) -> Day:  # noqa: A002
    """Every date of a design, and where its months begin."""
    frame = frame_of(document_of(opened(request.user, id, "viewer")))
    dates = [day_text(frame.first_day + place) for place in range(frame.days)]
    return Day(dates=dates, month_begins=list(month_begins(frame)), marks=day_marks(frame, 0, frame.days - 1))


@router.get("/{int:id}/consequences", response={200: Consequences, **READ_PROBLEMS})
def read_consequences(request: HttpRequest, on: str, id: int = design_id()) -> Consequences:  # noqa: A002
    """What every target holds at the end of a day, with the change since the person's reference."""
    row = opened(request.user, id, "viewer")
    return with_change(reference_of(request.user, row.pk), row.revision, stored_forecast(row), on)


@router.post("/{int:id}/reference", response={200: Consequences, **READ_PROBLEMS, 403: Problem})
def set_reference(request: HttpRequest, on: str, id: int = design_id()) -> Consequences:  # noqa: A002
    """Measure changes from the design as it is now."""
    actions.set_reference(request.user, id)
    row = opened(request.user, id, "viewer")
    return with_change(reference_of(request.user, row.pk), row.revision, stored_forecast(row), on)
