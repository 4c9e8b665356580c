"""Two designs side by side: what each would hold, cost, lose and stand, on a day."""

from django.http import HttpRequest
from ninja import Router, Schema

from shelf_core.proof.verdicts import DutyVerdict
from shelf_core.reasons.comparison import Comparison, compare, comparison_sentence
from shelf_server.api.designs import READ_PROBLEMS, design_id
from shelf_server.api.edit_schemas import DutyNow
from shelf_server.api.verdicts import verdicts_beside
from shelf_server.designs.models import Design
from shelf_server.designs.results import kept_with, opened, stored_cost, stored_forecast

router = Router(tags=["comparisons"])


class ComparedDesign(Schema):
    """A design that is compared: its name with its variant, the revision it has, and the currency of its prices."""

    id: int
    name: str
    revision: int
    currency: str


class ComparisonOut(Schema):
    """Two designs at the end of a day. In pairs the first is the `other`, the second `this`.

    Bytes are counted in bytes, amounts in the currency of each. `duties` are those of both, `now` as this design stands and
    `before` as the other does; `gone` are those that only the other has.
    """

    on: str
    this: ComparedDesign
    other: ComparedDesign
    sentence: str
    comparison: Comparison
    duties: list[DutyNow]
    gone: list[DutyVerdict]


@router.get("/designs/{int:id}/comparison", response={200: ComparisonOut, **READ_PROBLEMS})
def read_comparison(request: HttpRequest, other: int, on: str, id: int = design_id()) -> ComparisonOut:  # noqa: A002
    """What a design would hold, cost, lose and stand beside another one, at the end of a day that one of them covers."""
    before, after = opened(request.user, other, "viewer"), opened(request.user, id, "viewer")

    def found() -> Comparison:
        sides = [(stored_forecast(row), stored_cost(row)) for row in (before, after)]
        return compare(sides[0], sides[1], [on])

    comparison = kept_with(after, ("comparison", before.state, on), found)
    duties, gone = verdicts_beside(before, after)
    return ComparisonOut(
        on=on,
        this=_compared(after),
        other=_compared(before),
        sentence=comparison_sentence(comparison, _name(before)),
        comparison=comparison,
        duties=duties,
        gone=gone,
    )


def _compared(row: Design) -> ComparedDesign:
    return ComparedDesign(id=row.pk, name=_name(row), revision=row.revision, currency=row.currency)


def _name(row: Design) -> str:
    return f"{row.name}, {row.variant}" if row.variant else row.name
