"""Tables that people bring: workloads, opening stock, listings of files, past points. Nothing here changes a design."""

from django.http import HttpRequest
from ninja import Router

from shelf_core.design.cells import FIELDS, ordered_by
from shelf_core.design.faults import DesignError, fault
from shelf_core.design.typed import typed_duration, typed_number, typed_size, typed_speed, typed_whole, unit_in
from shelf_core.design.typed_dates import typed_date
from shelf_core.design.values import duration_of
from shelf_core.forecast.wording import duration_words
from shelf_core.formats.csv_text import table_of
from shelf_core.formats.opening_rows import OpeningRows, opening_rows
from shelf_core.formats.workload_rows import workload_rows
from shelf_core.sizing.listing import Sizing, sizing_of
from shelf_core.sizing.past import Fit, fit_of
from shelf_core.sizing.together import together
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.problems import Problem
from shelf_server.api.table_schemas import (
    ListingIn,
    OrderOut,
    PastIn,
    TableIn,
    TotalsIn,
    TotalsOut,
    TypedIn,
    TypedOut,
    WorkloadRowsOut,
    WorkloadTableIn,
)
from shelf_server.designs.results import document_of, opened

router = Router(tags=["tables"])

PROBLEMS = {401: Problem, 403: Problem, 422: Problem}


@router.post("/designs/{int:id}/workload-rows", response={200: WorkloadRowsOut, 403: Problem, **READ_PROBLEMS}, by_alias=True)
def read_workloads(request: HttpRequest, body: WorkloadTableIn, id: int = design_id()) -> WorkloadRowsOut:  # noqa: A002
    """What a table of workloads would become: every row, and every row that cannot be read."""
    design = document_of(opened(request.user, id, "viewer"))
    table = table_of(body.text, block=body.block)
    return WorkloadRowsOut(fields=list(FIELDS), read=workload_rows(table, design, body.columns, body.keys, header=body.header))


@router.post("/designs/{int:id}/opening-rows", response={200: OpeningRows, 403: Problem, **READ_PROBLEMS}, by_alias=True)
def read_opening(request: HttpRequest, body: TableIn, id: int = design_id()) -> OpeningRows:  # noqa: A002
    """What a table of opening stock would become."""
    return opening_rows(table_of(body.text), document_of(opened(request.user, id, "viewer")))


@router.post("/sizing/listing", response={200: Sizing, **PROBLEMS})
def size_listing(request: HttpRequest, body: ListingIn) -> Sizing:
    """Size and change per day from a listing of files."""
    return sizing_of(table_of(body.text), body.include, body.exclude)


@router.post("/sizing/past", response={200: Fit, **PROBLEMS})
def fit_past(request: HttpRequest, body: PastIn) -> Fit:
    """Change, reduction and growth fitted to past points."""
    return fit_of(table_of(body.text), body.source_size)


@router.post("/typed", response={200: TypedOut, **PROBLEMS})
def read_typed(request: HttpRequest, body: TypedIn) -> TypedOut:
    """What a text says where a value is wanted. What can be read two ways is asked about, not guessed."""
    try:
        if body.kind == "size":
            return TypedOut(value=typed_size(body.text, unit_in(body.before)))
        if body.kind == "speed":
            return TypedOut(value=typed_speed(body.text, body.before if isinstance(body.before, str) else None))
        if body.kind == "duration words":
            return TypedOut(value=duration_words(duration_of(body.text)))
        if body.kind == "date":
            return TypedOut(value=typed_date(body.text))
        if body.kind == "duration":
            return TypedOut(value=typed_duration(body.text))
        return TypedOut(value=typed_whole(body.text) if body.kind == "whole" else typed_number(body.text))
    except ValueError as error:
        raise DesignError([fault("text", message=str(error))]) from None


@router.get("/designs/{int:id}/workload-order", response={200: OrderOut, **READ_PROBLEMS})
def read_order(request: HttpRequest, by: str, id: int = design_id()) -> OrderOut:  # noqa: A002
    """All workloads in the order of a field by its value: sizes by their bytes, numbers by themselves, texts by letters.

    Of several fields, separated by commas, the later ones order what is equal in those before; one with a minus goes down.
    """
    row = opened(request.user, id, "viewer")
    return OrderOut(revision=row.revision, ids=ordered_by(document_of(row).workloads, *by.split(",")))


@router.post("/designs/{int:id}/workload-totals", response={200: TotalsOut, 403: Problem, **READ_PROBLEMS})
def add_up_workloads(request: HttpRequest, body: TotalsIn, id: int = design_id()) -> TotalsOut:  # noqa: A002
    """What some workloads come to together at the end of a date: machines, bytes, what changes in a day."""
    row = opened(request.user, id, "viewer")
    document = document_of(row)
    ids = [one.id for one in document.workloads] if body.ids is None else body.ids
    return TotalsOut(revision=row.revision, together=together(document, ids, body.on))
