"""Variants of a design, and its history."""

from collections.abc import Iterable, Iterator
from itertools import groupby, islice
from typing import Any, Literal

from django.http import HttpRequest
from ninja import Query, Router, Status

from shelf_server.api.design_schemas import DesignLine
from shelf_server.api.designs import READ_PROBLEMS, design_id, line_of
from shelf_server.api.headers import KEY, request_digest
from shelf_server.api.history_schemas import FieldChange, HistoryEntry, HistoryOut, HistoryStep, VariantIn
from shelf_server.api.problems import Problem
from shelf_server.designs import actions
from shelf_server.designs.access import design_for, role_of
from shelf_server.designs.models import Change, Design
from shelf_server.designs.remembering import made_once

router = Router(tags=["variants"])

ACT_PROBLEMS = {**READ_PROBLEMS, 403: Problem}
STEPS: Any = Query(40, ge=1, le=200)  # type: ignore[type-arg]
BEFORE: Any = Query(None, ge=1, le=2**53)  # type: ignore[type-arg]
SHOWN = 12
"""How many entries of a step are told apart; a bulk edit changes thousands."""


@router.post("/{int:id}/variants", response={201: DesignLine, **ACT_PROBLEMS})
def branch(
    request: HttpRequest,
    body: VariantIn,
    id: int = design_id(),  # noqa: A002
    key: str | None = KEY,
) -> Status[DesignLine]:
    """Make a variant that starts as a copy of this one."""
    digest = request_digest("branch", id, body.name)
    row = made_once(request.user, key, digest, lambda: actions.branch(request.user, id, body.name))
    return Status(201, _line(request, row))


@router.put("/{int:id}/variant", response={200: DesignLine, **ACT_PROBLEMS})
def rename(request: HttpRequest, body: VariantIn, id: int = design_id()) -> DesignLine:  # noqa: A002
    """Give a variant another name."""
    return _line(request, actions.rename_variant(request.user, id, body.name))


@router.post("/{int:id}/current", response={200: DesignLine, **ACT_PROBLEMS})
def make_current(request: HttpRequest, id: int = design_id()) -> DesignLine:  # noqa: A002
    """Let this variant be the one that the design opens with."""
    return _line(request, actions.make_current(request.user, id))


@router.post("/{int:id}/drop", response={204: None, **ACT_PROBLEMS})
def drop(request: HttpRequest, id: int = design_id()) -> Status[None]:  # noqa: A002
    """Drop a variant with all its history."""
    actions.drop(request.user, id)
    return Status(204, None)


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


def _line(request: HttpRequest, row: Design) -> DesignLine:
    return line_of(row, role_of(request.user, row))


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
    before, after = change.before or {}, change.after or {}
    how: Literal["added", "changed", "taken out"]
    how = "added" if change.before is None else "taken out" if change.after is None else "changed"
    fields = list(islice(_fields("", before, after), 40)) if how == "changed" else []
    name = after.get("name") or before.get("name") or change.key
    return HistoryEntry(part=change.list_name, key=change.key, name=name, how=how, fields=fields)


def _fields(path: str, before: Any, after: Any) -> Iterator[FieldChange]:
    """The leaves that differ, by their paths; a list of another length is one leaf."""
    if before == after:
        return
    pairs = _pairs(before, after)
    if pairs is None:
        yield FieldChange(field=path, before=before, after=after)
        return
    for name, old, new in pairs:
        yield from _fields(f"{path}.{name}" if path else str(name), old, new)


def _pairs(before: Any, after: Any) -> Iterable[tuple[Any, Any, Any]] | None:
    if isinstance(before, dict) and isinstance(after, dict):
        return [(name, before.get(name), after.get(name)) for name in dict.fromkeys([*before, *after])]
    if isinstance(before, list) and isinstance(after, list) and len(before) == len(after):
        return [(place + 1, old, new) for place, (old, new) in enumerate(zip(before, after, strict=True))]
    return None
