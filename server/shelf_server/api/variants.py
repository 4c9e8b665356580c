"""Variants of a design, and its history."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status

from shelf_server.api.design_schemas import DesignLine
from shelf_server.api.designs import READ_PROBLEMS, address_of, design_id, line_of
from shelf_server.api.headers import KEY, request_digest
from shelf_server.api.history_schemas import VariantIn
from shelf_server.api.problems import Problem
from shelf_server.designs import actions
from shelf_server.designs.access import role_of
from shelf_server.designs.models import Design
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
    response: HttpResponse,
    body: VariantIn,
    id: int = design_id(),  # noqa: A002
    key: str | None = KEY,
) -> Status[DesignLine]:
    """Make a variant that starts as a copy of this one; `Location` is its address."""
    digest = request_digest("branch", id, body.name)
    row = made_once(request.user, key, digest, lambda: actions.branch(request.user, id, body.name))
    response["Location"] = address_of(row)
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


def _line(request: HttpRequest, row: Design) -> DesignLine:
    return line_of(row, role_of(request.user, row))
