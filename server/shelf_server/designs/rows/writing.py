"""From the parts of a document to rows."""

from collections.abc import Hashable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from shelf_core.design import document
from shelf_core.design.base import Part
from shelf_server.designs import models
from shelf_server.designs.models.design import Entity
from shelf_server.designs.rows.mapping import Listed, Plain, Table
from shelf_server.designs.rows.tables import COPIES, LISTS, SETTINGS, STOCK

BATCH = 1000
"""Rows of one statement."""


@dataclass(frozen=True)
class Entry:
    """An entry of a list as it is to be stored. `before` is what is stored of it, None where it is new.

    Only a new one takes its place; of others, what is listed in them is written where it has changed.
    """

    part: Part
    version: int = 1
    place: int = 0
    before: Part | None = None


class RowKeys:
    """The rows of a design by the ids of its document, to set foreign keys with; read when they are first needed."""

    def __init__(self, design: models.Design) -> None:
        self._design = design
        self._written: dict[tuple[str, Hashable], int] = {}
        self._read: dict[str, dict[Hashable, int]] = {}

    def __call__(self, name: str, key: Hashable) -> int:
        """The primary key of an entry of a list; of a copy by the ids of its route and its own."""
        written = self._written.get((name, key))
        return written if written is not None else self._found(name)[key]

    def knows(self, name: str, key: Hashable) -> bool:
        """Whether an entry has been written."""
        return (name, key) in self._written

    def wrote(self, name: str, key: Hashable, pk: int) -> None:
        """Note an entry that was written."""
        self._written[name, key] = pk

    def _found(self, name: str) -> dict[Hashable, int]:
        if name not in self._read:
            if name == COPIES.name:
                copies = models.Copy.objects.filter(route__design=self._design)
                self._read[name] = {(route, key): pk for route, key, pk in copies.values_list("route__key", "key", "pk")}
            else:
                rows = LISTS[name].rows().filter(design=self._design)
                self._read[name] = dict(rows.values_list("key", "pk"))
        return self._read[name]


@dataclass(frozen=True)
class _Stands:
    """A part that has a row: the row's primary key, the id of the entry that it stands in, and what was stored of it."""

    pk: int
    scope: str
    plain: Plain
    before: Plain | None


_Wanted = tuple[_Stands, int, Any]
"""What is to be listed: within which part, at which place, as plain values."""


def store_design(design: document.Design, row: models.Design) -> None:
    """Write all parts of a document under a new row of its settings."""
    keys = RowKeys(row)
    for name in LISTS:
        entries = [Entry(part, place=place) for place, part in enumerate(getattr(design, name))]
        write_entries(name, row, entries, keys)
    write_stock(design, row, keys)


def settings_columns(design: document.Design) -> dict[str, Any]:
    """The columns of a design's settings."""
    plain = {name: getattr(design, name) for name in document.Settings.model_fields}
    columns = SETTINGS.write(plain, _refers_to_nothing, "")
    return {**columns, "starts": date.fromisoformat(design.starts)}


def _refers_to_nothing(name: str, key: Hashable) -> int:
    raise KeyError((name, key))


def write_entries(name: str, row: models.Design, entries: Sequence[Entry], keys: RowKeys) -> None:
    """Write entries of a list to their rows, with all that is listed within them, in a few statements.

    A row that is there keeps its place. The keys learn of the rows, so that what is written later can refer to them.
    """
    if not entries:
        return
    table = LISTS[name]
    plains = [entry.part.whole() for entry in entries]
    rows: list[Entity] = [
        table.model(design=row, position=entry.place, version=entry.version, **table.write(plain, keys, plain["id"]))  # type: ignore[misc]
        for entry, plain in zip(entries, plains, strict=True)
    ]
    table.model._default_manager.bulk_create(
        rows, batch_size=BATCH, update_conflicts=True, unique_fields=["design", "key"], update_fields=_updated(table)
    )
    for one in rows:
        keys.wrote(name, one.key, one.pk)
    stand = [
        _Stands(one.pk, one.key, plain, entry.before.whole() if entry.before else None)
        for one, entry, plain in zip(rows, entries, plains, strict=True)
    ]
    _write_lists(table, stand, keys)


def _updated(table: Table) -> list[str]:
    """The fields of a row that a write changes when it is there: all that the document has of it, and its version."""
    declared = {one.name for one in table.model._meta.concrete_fields}
    return sorted(declared - {"id", "design", "key", "position"})


def _write_lists(table: Table, owners: Sequence[_Stands], keys: RowKeys) -> None:
    for listed in table.lists():
        changed = [one for one in owners if one.before is None or listed.values(one.plain) != listed.values(one.before)]
        stored = [one.pk for one in changed if one.before is not None]
        if stored:
            listed.table.model._default_manager.filter(**{f"{listed.table.parent}__in": stored}).delete()
        _write_listed(listed, changed, keys)


def _write_listed(listed: Listed, owners: Sequence[_Stands], keys: RowKeys) -> None:
    """Write what is listed within parts; what refers to another row of the same table waits until that is there."""
    waiting = [(owner, place, value) for owner in owners for place, value in enumerate(listed.values(owner.plain))]
    while waiting:
        ready: list[_Wanted] = []
        later: list[_Wanted] = []
        for one in waiting:
            (ready if _can_be_written(listed.table, one[0].scope, one[2], keys) else later).append(one)
        if not ready:
            raise ValueError("expected copies that follow one that is there, got a circle")
        _create(listed.table, ready, keys)
        waiting = later


def _can_be_written(table: Table, scope: str, value: Any, keys: RowKeys) -> bool:
    if table.follows is None or table.name is None or value[table.follows] is None:
        return True
    return keys.knows(table.name, (scope, value[table.follows]))


def _create(table: Table, wanted: Sequence[_Wanted], keys: RowKeys) -> None:
    rows: list[Any] = [
        table.model(
            **{f"{table.parent}_id": owner.pk},
            **({"position": place} if table.has_places() else {}),
            **table.write(value, keys, owner.scope),
        )
        for owner, place, value in wanted
    ]
    table.model._default_manager.bulk_create(rows, batch_size=BATCH)
    if table.name is not None:
        for (owner, _, _), row in zip(wanted, rows, strict=True):
            keys.wrote(table.name, (owner.scope, row.key), row.pk)
    stand = [_Stands(row.pk, owner.scope, value, None) for (owner, _, value), row in zip(wanted, rows, strict=True)]
    _write_lists(table, stand, keys)


def write_stock(design: document.Design, row: models.Design, keys: RowKeys, names: Iterable[str] = tuple(STOCK)) -> None:
    """Write the holds, the opening stock and the unknowns of a design in place of what there was, or some of these."""
    for name in names:
        table = STOCK[name]
        table.model._default_manager.filter(design=row).delete()
        owner = _Stands(row.pk, "", {name: [part.whole() for part in getattr(design, name)]}, None)
        _write_listed(Listed(name, table), [owner], keys)
