"""From errors of the domain to problem details (RFC 9457). The one place where that is decided."""

import json
from collections.abc import Callable
from dataclasses import asdict
from typing import Any

from django.db import InterfaceError, OperationalError
from django.db.models import RestrictedError
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, Throttled

from shelf_core.design.faults import DesignError
from shelf_core.forecast.differences import FieldChange, differences
from shelf_server.api.headers import OtherRevision, RevisionNotNamed
from shelf_server.designs.access import MayNot, NoSuchDesign
from shelf_server.designs.actions import Moved, Stale
from shelf_server.designs.changing import StaleEntry
from shelf_server.designs.remembering import KeyUsedOtherwise
from shelf_server.designs.results import forget


class FaultOut(Schema):
    """One fault: its place in what was sent, and what is wrong there."""

    path: str
    message: str


class Problem(Schema):
    """Problem details: what happened, in words for the person who sees it."""

    type: str
    title: str
    status: int
    detail: str = ""
    faults: list[FaultOut] = []


class StaleEntryOut(Schema):
    """An entry that somebody else changed: as the sender saw it, as it is now, and as it was to be (null where it is gone).

    `fields` are what differs between what it is now (`before`) and what it was to be (`after`), in words.
    """

    part: str
    key: str
    seen: dict[str, Any] | None
    now: dict[str, Any] | None
    wanted: dict[str, Any] | None
    version: int | None
    who: str
    fields: list[FieldChange] = []


class StaleProblem(Problem):
    """Somebody else changed entries since the sender saw them."""

    entries: list[StaleEntryOut] = []


def problem(kind: str, title: str, status: int, **more: Any) -> HttpResponse:
    """An answer with problem details. `kind` names the problem within this application."""
    body = {"type": f"urn:rested-shelf:problem:{kind}", "title": title, "status": status, **more}
    return HttpResponse(json.dumps(body), status=status, content_type="application/problem+json")


def csrf_failure(_request: HttpRequest, reason: str = "") -> HttpResponse:
    """Django's own refusal of a request without the token, as a problem."""
    return problem("csrf", "The request does not come from this page", 403, detail=reason)


def install(api: NinjaAPI) -> None:
    """Have the API answer every known error with its problem."""
    answers: dict[type[Exception], Callable[[Any], HttpResponse]] = {
        DesignError: lambda error: _faulty("unsound", "The design would not be sound", error),
        NoSuchDesign: lambda _error: problem("no-such-design", "There is no such design among yours", 404),
        MayNot: lambda error: problem("role", "Your role does not allow this", 403, detail=str(error)),
        Stale: _stale,
        RestrictedError: lambda _error: problem("in-use", "Something still refers to this entry", 409),
        AuthenticationError: lambda _error: problem(
            "signed-out", "You are not signed in, or your token is not one (any more)", 401
        ),
        Moved: lambda error: problem("revision", "The design has changed since you saw it", 412, detail=str(error)),
        OtherRevision: lambda _error: problem(
            "revision", "This is not a revision of the design", 412, detail="If-Match: expected an ETag of its document"
        ),
        RevisionNotNamed: lambda _error: problem(
            "revision", "What is replaced must be named", 428, detail="If-Match: expected the ETag of the document, got none"
        ),
        KeyUsedOtherwise: lambda _error: problem(
            "key", "This key came before with another request", 422, detail="Idempotency-Key: expected a key of its own"
        ),
        Throttled: lambda _error: problem("rate", "Too many requests in this minute", 429),
        HttpError: lambda error: problem("request", str(error), error.status_code),
        OperationalError: lambda _error: _no_database(),
        InterfaceError: lambda _error: _no_database(),
        MemoryError: lambda _error: _too_large(),
        ValueError: lambda error: problem("unsound", "The request cannot be answered", 422, detail=str(error)),
    }
    for kind, answer in answers.items():
        api.add_exception_handler(kind, _handler(answer))


def _handler(answer: Callable[[Any], HttpResponse]) -> Callable[[HttpRequest, Any], HttpResponse]:
    return lambda _request, error: answer(error)


def _no_database() -> HttpResponse:
    """It is starting again, or was stopped in the middle of this; nothing is half saved."""
    answer = problem("no-database", "The database does not answer just now", 503, detail="Nothing was saved. Ask again soon.")
    answer["Retry-After"] = "2"
    return answer


def _too_large() -> HttpResponse:
    """What was kept from before is forgotten, so that the next question has room again."""
    forget()
    detail = "Fewer points, rules that share their cadence, or a shorter design take less. Nothing was saved."
    return problem("too-much", "This takes more memory to compute than there is for one question", 422, detail=detail)


def _faulty(kind: str, title: str, error: DesignError) -> HttpResponse:
    faults = [{"path": one.place, "message": one.message} for one in error.faults]
    return problem(kind, title, 422, detail=str(error), faults=faults)


def _stale(error: Stale) -> HttpResponse:
    first = error.entries[0]
    who = first.who or "Somebody"
    gone = "removed" if first.now is None else "changed"
    what = "this" if len(error.entries) == 1 else f"{len(error.entries)} of these"
    title = f"{who} has {gone} {what} since you saw it"
    return problem("stale", title, 409, entries=[_with_words(one) for one in error.entries])


def _with_words(entry: StaleEntry) -> dict[str, Any]:
    return asdict(entry) | {"fields": [asdict(field) for field in differences(entry.now, entry.wanted)]}


def file_of(*media_types: str, holds: str = "string") -> dict[str, Any]:
    """What the schema says of an operation that answers with a file, which `holds` an object where it is JSON or alike."""
    about = {"type": holds, "format": "binary"} if holds == "string" else {"type": holds}
    content = {one: {"schema": about} for one in media_types}
    return {"responses": {200: {"description": "The file", "content": content}}}
