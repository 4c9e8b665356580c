"""Forecasts of stored designs, kept in memory by what they were computed from."""

from collections.abc import Callable, Hashable
from typing import TypeVar

from shelf_core.cost.cost import Cost, cost_of
from shelf_core.design.document import Design as Document
from shelf_core.design.reading import design_of
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_server.designs.models import Design, Reference
from shelf_server.designs.rows.load import load_design

T = TypeVar("T")

_ENGINE = Memory(most=8000)
_WHOLE = Memory(most=24)
"""Whole forecasts of the latest revisions; what they share lies in `_ENGINE` once."""


def forecast_of(document: Document) -> Forecast:
    """The forecast of a document that is not stored, or not yet."""
    return forecast(document, _ENGINE)


def document_of(row: Design) -> Document:
    """The document of a design at its revision."""
    document: Document = _WHOLE.get(("document", row.pk, row.revision), lambda: load_design(row))
    return document


def stored_forecast(row: Design) -> Forecast:
    """The forecast of a design at its revision."""
    result: Forecast = _WHOLE.get(("design", row.pk, row.revision), lambda: forecast_of(document_of(row)))
    return result


def keep_forecast(row_id: int, revision: int, document: Document) -> Forecast:
    """The forecast of a revision whose document is at hand, kept for the questions that follow."""
    _WHOLE.get(("document", row_id, revision), lambda: document)
    result: Forecast = _WHOLE.get(("design", row_id, revision), lambda: forecast_of(document))
    return result


def stored_cost(row: Design) -> Cost:
    """What a design costs at its revision."""
    result: Cost = _WHOLE.get(("cost", row.pk, row.revision), lambda: cost_of(stored_forecast(row), _ENGINE))
    return result


def engine_memory() -> Memory:
    """What the engine computed before, to share with further runs."""
    return _ENGINE


def reference_forecast(reference: Reference) -> Forecast:
    """The forecast of what a person measures changes from."""
    key = ("reference", reference.pk, reference.revision)
    result: Forecast = _WHOLE.get(key, lambda: forecast_of(design_of(reference.document)))
    return result


def reference_cost(reference: Reference) -> Cost:
    """What a design cost as a person measures changes from."""
    key = ("reference cost", reference.pk, reference.revision)
    result: Cost = _WHOLE.get(key, lambda: cost_of(reference_forecast(reference), _ENGINE))
    return result


def kept_with(row: Design, key: tuple[Hashable, ...], compute: Callable[[], T]) -> T:
    """Something that is computed from a design at its revision alone, kept as its forecast is."""
    result: T = _WHOLE.get((*key, row.pk, row.revision), compute)
    return result
