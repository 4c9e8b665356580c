"""Edits: several changes at once, what refers to an entry, and taking one out with another in its place."""

from collections.abc import Sequence

from django.http import HttpRequest
from ninja import Router

from shelf_core.design.document import Design as Document
from shelf_core.design.editing import REPLACEABLE, Change, mentions_of
from shelf_core.design.edits.commands import changes_by
from shelf_core.design.faults import DesignError, Fault
from shelf_core.design.references import LISTS
from shelf_core.engine.schedule.frame import frame_of
from shelf_server.api.answers import reference_of, with_change
from shelf_server.api.change_schemas import AnyChange, WorkloadCells
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.edit_schemas import CommandIn, EditIn, EditOut, MadeOut, MentionsOut
from shelf_server.api.problems import Problem, StaleProblem
from shelf_server.api.verdicts import verdicts_after
from shelf_server.designs import actions
from shelf_server.designs.actions import WantedCells
from shelf_server.designs.changing import AppliedChange, Wanted
from shelf_server.designs.results import document_of, keep_forecast, opened

router = Router(tags=["edits"])
Asked = Wanted | WantedCells

EDIT_PROBLEMS = {401: Problem, 403: Problem, 404: Problem, 409: StaleProblem, 422: Problem}


@router.post("/{int:id}/edits", response={200: EditOut, **EDIT_PROBLEMS})
def make(request: HttpRequest, body: EditIn, id: int = design_id()) -> EditOut:  # noqa: A002 - the name in the address
    """Make changes at once or not at all."""
    return _made(request, id, [_wanted(one) for one in body.changes], body)


@router.post("/{int:id}/commands", response={200: EditOut, **EDIT_PROBLEMS})
def command(request: HttpRequest, body: CommandIn, id: int = design_id()) -> EditOut:  # noqa: A002
    """Make all the changes that one act takes: as taking an entry out with another in its place wherever it is referred to."""
    design = document_of(opened(request.user, id, "editor"))
    try:
        changes = changes_by(design, body.command)
    except DesignError as error:
        raise DesignError([Fault(("command", *one.path), one.message) for one in error.faults]) from None
    wanted = [Wanted(change, body.seen.get(change.part, {}).get(change.key)) for change in changes]
    return _made(request, id, wanted, body)


@router.get("/{int:id}/mentions", response={200: MentionsOut, **READ_PROBLEMS})
def read_mentions(request: HttpRequest, part: str, key: str, id: int = design_id()) -> MentionsOut:  # noqa: A002
    """What refers to an entry, and what could stand in for it."""
    _check_part(part)
    design = document_of(opened(request.user, id, "viewer"))
    instead = [one.id for one in getattr(design, part) if one.id != key] if part in REPLACEABLE else []
    return MentionsOut(mentions=mentions_of(design, part, key), instead=instead)


def changes_of(changes: Sequence[AnyChange], design: Document) -> list[Change]:
    """The changes of a body as the core has them; typed cells are read against a design."""
    wanted = [_wanted(one) for one in changes]
    return [one.change if isinstance(one, Wanted) else one.read(design).change for one in wanted]


def _wanted(one: AnyChange) -> Asked:
    if isinstance(one, WorkloadCells):
        return WantedCells(one.key, one.cells, one.seen)
    return Wanted(Change(one.part, one.key, one.value, one.place), one.seen)


def _check_part(part: str) -> None:
    if part not in LISTS:
        raise ValueError(f"expected a list such as ladders, got {part}")


def _made(request: HttpRequest, row_id: int, wanted: Sequence[Asked], body: EditIn | CommandIn) -> EditOut:
    on = body.on
    # A wrong as-of date is refused before anything is saved.
    frame_of(document_of(opened(request.user, row_id, "viewer"))).place_of(on)
    done = actions.edit(request.user, row_id, wanted, body.what, body.undoes if isinstance(body, EditIn) else None)
    keep_forecast(done.row, done.result)
    result = done.result
    reference = reference_of(request.user, row_id)
    on = _within(on, result.day(0), result.day(result.frame.days - 1))
    return EditOut(
        revision=done.row.revision,
        made=[_change_out(one) for one in done.applied],
        consequences=with_change(reference, done.row.revision, result, on),
        duties=verdicts_after(reference, done.row, result),
    )


def _within(on: str, first: str, last: str) -> str:
    """The as-of date, or the nearest that the design has now: an edit may have moved its ends. ISO dates sort as text."""
    return min(max(on, first), last)


def _change_out(one: AppliedChange) -> MadeOut:
    before, after = (None if part is None else part.whole() for part in (one.before, one.after))
    return MadeOut(part=one.part, key=one.key, version=one.version, place_before=one.place_before, before=before, after=after)
