"""Documents and forecasts of stored designs, kept in memory by the states that they were computed from.

A design has a state for each of its revisions, a random name that never comes again: also where a database is put back from
a backup and counts its revisions anew, nothing that was kept for another revision is taken for this one.
"""

from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from typing import TypeVar

from django.db import connection, transaction

from shelf_core.cost.cost import Cost, cost_of
from shelf_core.design.document import Design as Document
from shelf_core.design.reading import design_of
from shelf_core.engine.memory import Memory
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_server.designs.access import NoSuchDesign, Person, design_for
from shelf_server.designs.models import Design, Reference
from shelf_server.designs.rows.reading import Stored, Versions, read_stored

T = TypeVar("T")

_ENGINE = Memory()
_WHOLE = Memory(most_bytes=64 * 2**20)
"""Whole forecasts of the latest states; what they share lies in `_ENGINE` once."""


def forget() -> None:
    """Forget all that was kept, as after running out of memory."""
    _ENGINE.clear()
    _WHOLE.clear()


def forecast_of(document: Document) -> Forecast:
    """The forecast of a document that is not stored, or not yet."""
    return forecast(document, _ENGINE)


def opened(user: Person, design_id: int, wanted: str) -> Design:
    """The design, if the person has at least the role `wanted` in it, at the state that its document is known of.

    Row and document are read as of one instant. Raises NoSuchDesign, MayNot, DesignError for one that cannot be read.
    """
    row = design_for(user, design_id, wanted)
    kept: Stored | None = _WHOLE.kept(("stored", row.state))
    if kept is not None:
        row.stored = kept
        return row
    with _one_instant():
        now: Design | None = Design.objects.filter(pk=row.pk).first()
        if now is None:
            raise NoSuchDesign
        now.asker = row.asker
        now.stored = stored(now)
    return now


def stored(row: Design) -> Stored:
    """The document and versions of a design at its state. The row must be opened, locked, or read as of one instant."""
    if isinstance(row.stored, Stored):
        return row.stored
    found: Stored = _WHOLE.get(("stored", row.state), lambda: read_stored(row))
    return found


@contextmanager
def _one_instant() -> Iterator[None]:
    """All that is read within is as it was when it was first asked for, whatever others write meanwhile."""
    outermost = not connection.in_atomic_block
    with transaction.atomic():
        if outermost:
            with connection.cursor() as cursor:
                cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        yield


def document_of(row: Design) -> Document:
    """The document of a design that was opened, or is locked."""
    return stored(row).document


def stored_forecast(row: Design) -> Forecast:
    """The forecast of a design that was opened."""
    result: Forecast = _WHOLE.get(("design", row.state), lambda: forecast_of(document_of(row)))
    return result


def forecast_at(state: Hashable, document: Callable[[], Document]) -> Forecast:
    """The forecast of the document that a design had at a state."""
    result: Forecast = _WHOLE.get(("design", state), lambda: forecast_of(document()))
    return result


def read_as_changed(row: Design, document: Document, versions: Versions) -> None:
    """Note with a row what it is after a change, while it is still locked: later another change may have come."""
    row.stored = Stored(document, versions)


def keep_forecast(row: Design, result: Forecast) -> None:
    """Keep what an opened or changed row was read as, and its forecast, for the questions that follow."""
    _WHOLE.get(("stored", row.state), lambda: row.stored)
    _WHOLE.get(("design", row.state), lambda: result)


def stored_cost(row: Design) -> Cost:
    """What a design costs at its state."""
    result: Cost = _WHOLE.get(("cost", row.state), lambda: cost_of(stored_forecast(row), _ENGINE))
    return result


def engine_memory() -> Memory:
    """What the engine computed before, to share with further runs."""
    return _ENGINE


def reference_forecast(reference: Reference) -> Forecast:
    """The forecast of what a person measures changes from."""
    result: Forecast = _WHOLE.get(reference_key(reference), lambda: forecast_of(design_of(reference.document)))
    return result


def reference_cost(reference: Reference) -> Cost:
    """What a design cost as a person measures changes from."""
    key = ("cost", *reference_key(reference))
    result: Cost = _WHOLE.get(key, lambda: cost_of(reference_forecast(reference), _ENGINE))
    return result


def reference_key(reference: Reference) -> tuple[Hashable, ...]:
    """The state that a reference stands for: set anew at another instant, also when its number and revision come again."""
    return ("reference", reference.pk, reference.revision, reference.set_at)


def kept_with(row: Design, key: tuple[Hashable, ...], compute: Callable[[], T]) -> T:
    """Something that is computed from a design at its state alone, kept as its forecast is."""
    return kept_at(row.state, key, compute)


def kept_at(state: Hashable, key: tuple[Hashable, ...], compute: Callable[[], T]) -> T:
    """Something that is computed from a state of a design alone."""
    result: T = _WHOLE.get((*key, state), compute)
    return result
