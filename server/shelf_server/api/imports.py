"""Files that people bring: what they would become. Nothing here changes a design."""

import base64
import binascii
from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import Field

from shelf_core.calendar.zones import local_text
from shelf_core.design.cadences import Cadence, Run
from shelf_core.design.differences import EntryDifference, differences
from shelf_core.design.document import Design as Document
from shelf_core.design.references import LISTS
from shelf_core.design.schema import design_schema
from shelf_core.design.values import Id
from shelf_core.engine.schedule.runs import run_times
from shelf_core.forecast.consequences import Consequence, consequences
from shelf_core.formats.calendar_reading import read_cadence
from shelf_core.formats.digest import digest
from shelf_core.formats.documents import read_document
from shelf_core.formats.workbook_table import LARGEST_WORKBOOK_BYTES, Sheet, tables_of
from shelf_core.proof.loss_findings import all_findings
from shelf_server.api.answers import run_reading
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.headers import etag_of
from shelf_server.api.problems import Problem
from shelf_server.api.schemas import Strict
from shelf_server.designs.results import document_of, forecast_of, opened, stored_forecast

router = Router(tags=["bringing"])

PROBLEMS = {401: Problem, 403: Problem, 422: Problem}
MOST_SHOWN = 300


class DocumentIn(Strict):
    """A document as text; without a language it is told by how it begins."""

    text: str
    language: Literal["json", "yaml"] | None = None


class DocumentRead(Schema):
    """What a document is, and what it would do to the design in whose place it would be put.

    `counts` says how many entries its lists have; `differences` the first entries that are not the same as there, `more` how
    many there are beside them, both nothing where it would be a new design. `etag` is that of the design it was compared with,
    to be named in If-Match; null for a new design.
    """

    name: str
    digest: str
    document: Document
    counts: dict[str, int]
    targets: list[Consequence]
    findings: int
    differences: list[EntryDifference]
    more: int
    etag: str | None = None


class WorkbookIn(Strict):
    """A workbook (.xlsx), or a table as text (.csv), in base64."""

    content: str = Field(max_length=LARGEST_WORKBOOK_BYTES * 4 // 3 + 4)


class WorkbookRead(Schema):
    """The sheets that hold anything; of a text its one table, and the letters that it was read as."""

    sheets: list[Sheet]


class CalendarIn(Strict):
    """A calendar, and the id that the cadence made of it is to have."""

    text: str
    key: Id


class CalendarRun(Schema):
    """A run that a calendar would be: when it comes in words, how often it takes a point in the design, and from when to when.

    A run that never comes within the design, or always gives way to another at the same instant, has no first and no last.
    """

    id: str
    name: str
    kind: str
    sentence: str
    count: int
    first: str | None
    last: str | None


class CalendarRead(Schema):
    """The cadence that a calendar would be, and what its runs come to in the design."""

    cadence: Cadence
    runs: list[CalendarRun]


@router.get("/schemas/design", response={200: dict[str, Any]}, auth=None, throttle=[])
def read_schema(request: HttpRequest) -> dict[str, Any]:
    """The JSON Schema (2020-12) of the design document."""
    return design_schema()


@router.post("/documents", response={200: DocumentRead, **PROBLEMS}, by_alias=True)
def read_new_document(request: HttpRequest, body: DocumentIn) -> DocumentRead:
    """What a document would be as a new design. Every fault of one that is not sound is told with its place."""
    return _read(read_document(body.text, body.language), None)


@router.post("/designs/{int:id}/documents", response={200: DocumentRead, 403: Problem, **READ_PROBLEMS}, by_alias=True)
def read_document_for(request: HttpRequest, body: DocumentIn, id: int = design_id()) -> DocumentRead:  # noqa: A002
    """What a document would do in the place of a design."""
    row = opened(request.user, id, "viewer")
    found = _read(read_document(body.text, body.language), document_of(row))
    found.etag = etag_of(row)
    return found


def _read(document: Document, before: Document | None) -> DocumentRead:
    result = forecast_of(document)
    found = [] if before is None else differences(before, document)
    return DocumentRead(
        name=document.name,
        digest=digest(document),
        document=document,
        counts={part: len(getattr(document, part)) for part in (*LISTS, "holds", "opening", "unknowns")},
        targets=consequences(result, document.starts),
        findings=len(all_findings(result)),
        differences=found[:MOST_SHOWN],
        more=max(0, len(found) - MOST_SHOWN),
    )


@router.post("/workbooks", response={200: WorkbookRead, **PROBLEMS})
def read_workbook(request: HttpRequest, body: WorkbookIn) -> WorkbookRead:
    """The tables of a workbook or a text file, in whatever letters it was written, to be read on as pasted text is."""
    try:
        content = base64.b64decode(body.content, validate=True)
    except binascii.Error:
        raise ValueError("content: expected base64, got something else") from None
    return WorkbookRead(sheets=tables_of(content))


@router.post("/designs/{int:id}/calendars", response={200: CalendarRead, 403: Problem, **READ_PROBLEMS}, by_alias=True)
def read_calendar(request: HttpRequest, body: CalendarIn, id: int = design_id()) -> CalendarRead:  # noqa: A002
    """The cadence that the events of a calendar (RFC 5545) would be, with what it comes to. Nothing is changed."""
    result = stored_forecast(opened(request.user, id, "viewer"))
    cadence = read_cadence(body.text, body.key, result.design.timezone)
    each = zip(cadence.runs, run_times(cadence, result.frame), strict=True)
    return CalendarRead(cadence=cadence, runs=[_calendar_run(run, times.tolist()) for run, times in each])


def _calendar_run(run: Run, times: list[int]) -> CalendarRun:
    return CalendarRun(
        id=run.id,
        name=run.name,
        kind=run.kind,
        sentence=run_reading(run).sentence,
        count=len(times),
        first=local_text(times[0]) if times else None,
        last=local_text(times[-1]) if times else None,
    )
