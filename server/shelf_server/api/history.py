"""The history of a design: who did what, what one can take back of it, and going back to a revision."""

from itertools import groupby
from typing import Any, Literal

from django.http import HttpRequest
from ninja import Query, Router

from shelf_core.design.base import Part
from shelf_core.design.editing import Change as Wanted
from shelf_core.design.editing import entry_of
from shelf_core.forecast.differences import differences
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.edit_schemas import MadeOut
from shelf_server.api.history_schemas import BackOut, ChangeBack, HistoryEntry, HistoryOut, HistoryStep, StepOut, StepsOut
from shelf_server.designs.access import design_for
from shelf_server.designs.models import Change
from shelf_server.designs.past import OwnStep, OwnSteps, changes_back_to, entry_from, steps_of
from shelf_server.designs.results import document_of, opened
from shelf_server.designs.rows.mapping import Plain

router = Router(tags=["history"])

STEPS: Any = Query(40, ge=1, le=200)  # type: ignore[type-arg]
BEFORE: Any = Query(None, ge=1, le=2**53)  # type: ignore[type-arg]
SHOWN = 12
"""How many entries of a step are told apart; a bulk edit changes thousands."""
SHOWN_BACK = 50


@router.get("/{int:id}/history", response={200: HistoryOut, **READ_PROBLEMS})
def read_history(
    request: HttpRequest,
    id: int = design_id(),  # noqa: A002
    before: int | None = BEFORE,
    most: int = STEPS,
) -> HistoryOut:
    """Who changed what and when, the newest first."""
    row = design_for(request.user, id, "viewer")
    revisions = Change.objects.filter(design=row, **({"revision__lt": before} if before else {}))
    wanted = list(revisions.order_by("-revision").values_list("revision", flat=True).distinct()[: most + 1])
    shown = wanted[:most]
    changes = Change.objects.filter(design=row, revision__in=shown).order_by("-revision", "pk").select_related("who")
    steps = [_step(revision, list(of_step)) for revision, of_step in groupby(changes, lambda change: change.revision)]
    return HistoryOut(steps=steps, before=shown[-1] if len(wanted) > most else None)


@router.get("/{int:id}/steps", response={200: StepsOut, **READ_PROBLEMS})
def read_steps(request: HttpRequest, id: int = design_id()) -> StepsOut:  # noqa: A002
    """What one did oneself in a design and can take back, and what can be done again, the latest last."""
    row = design_for(request.user, id, "viewer")
    found = steps_of(request.user, row)
    return StepsOut(done=[_own(step, found) for step in found.done], undone=[_own(step, found) for step in found.undone])


@router.get("/{int:id}/back", response={200: BackOut, **READ_PROBLEMS})
def read_back(request: HttpRequest, revision: int, id: int = design_id()) -> BackOut:  # noqa: A002
    """What would change if a design went back to a revision; the changes are made as any edit."""
    row = opened(request.user, id, "viewer")
    document = document_of(row)
    changes = changes_back_to(row, document, revision)
    pairs = [(one, entry_of(document, one.part, one.key)) for one in changes]
    return BackOut(
        revision=row.revision,
        changes=[ChangeBack(part=one.part, key=one.key, value=_whole(one.value), place=one.place) for one in changes],
        entries=[_entry_of(one, before) for one, before in pairs[:SHOWN_BACK]],
        more=max(0, len(pairs) - SHOWN_BACK),
    )


def _own(step: OwnStep, found: OwnSteps) -> StepOut:
    made = [
        MadeOut(
            part=one.list_name,
            key=one.key,
            version=found.versions[one.list_name, one.key],
            place_before=one.place_before,
            before=_filled(one.list_name, one.before),
            after=_filled(one.list_name, one.after),
        )
        for one in step.changes
    ]
    return StepOut(revision=step.revision, what=step.what, made=made)


def _filled(part: str, plain: Plain | None) -> dict[str, Any] | None:
    return _whole(entry_from(part, plain))


def _whole(entry: Part | None) -> dict[str, Any] | None:
    return None if entry is None else entry.whole()


def _entry_of(one: Wanted, before: Part | None) -> HistoryEntry:
    return _told(one.part, one.key, before.plain() if before else None, one.value.plain() if one.value else None)


def _step(revision: int, changes: list[Change]) -> HistoryStep:
    first = changes[0]
    return HistoryStep(
        revision=revision,
        when=first.when,
        who=str(first.who or ""),
        what=first.what,
        entries=[_entry(change) for change in changes[:SHOWN]],
        more=max(0, len(changes) - SHOWN),
    )


def _entry(change: Change) -> HistoryEntry:
    return _told(change.list_name, change.key, change.before, change.after)


def _told(part: str, key: str, before: Plain | None, after: Plain | None) -> HistoryEntry:
    how: Literal["added", "changed", "taken out"]
    how = "added" if before is None else "taken out" if after is None else "changed"
    fields = differences(before, after) if how == "changed" else []
    name = (after or {}).get("name") or (before or {}).get("name") or key
    return HistoryEntry(part=part, key=key, name=name, how=how, fields=fields)
