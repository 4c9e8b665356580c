"""How a table of the database is declared for a part of the document: which column, row or reference holds each field.

A declaration is read in both directions. What is written is a part as plain JSON values with every field; what is read are
rows as JSON, made by PostgreSQL, with all that is listed within them: one query for a list of the document.
"""

from collections.abc import Callable, Hashable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

from django.contrib.postgres.expressions import ArraySubquery
from django.db.models import F, Model, OuterRef, QuerySet
from django.db.models.functions import JSONObject

Plain = dict[str, Any]
"""A part, or a row, as plain JSON values."""

MOST_PAIRS = 45
"""So many columns go into one JSON object: a function of PostgreSQL takes 100 arguments."""

THE_VALUE = ""
"""The field of a row that holds a plain value, and not a part."""


class RowOf(Protocol):
    """Finds the row of an entry that is referred to."""

    def __call__(self, name: str, key: Hashable) -> int:
        """The primary key of an entry of a list of the document."""


Write = Callable[[Plain, RowOf, str], Plain]
"""The columns, from a part; the text is the id of the entry that the part stands in."""


@dataclass(frozen=True)
class Codec:
    """How a value becomes that of a column, and comes back from its JSON; None stays None."""

    encode: Callable[[Any], Any]
    decode: Callable[[Any], Any]


AS_IT_IS = Codec(lambda value: value, lambda value: value)


@dataclass(frozen=True)
class Item:
    """What holds one field of a part, or two that belong together.

    `columns` is what is read: an expression by its name in the JSON of a row. `read` makes the fields of that, `write` the
    columns of a part. `lists` is what has rows of its own.
    """

    fields: tuple[str, ...]
    columns: Mapping[str, Any]
    read: Callable[[Plain], Plain]
    write: Write = lambda _part, _row_of, _scope: {}
    lists: tuple["Listed", ...] = ()


def column(field: str, name: str, codec: Codec = AS_IT_IS) -> Item:
    """A field that one column holds."""

    def read(row: Plain) -> Plain:
        return {field: None if row[name] is None else codec.decode(row[name])}

    def write(part: Plain, _row_of: RowOf, _scope: str) -> Plain:
        return {name: None if part[field] is None else codec.encode(part[field])}

    return Item((field,), {name: F(name)}, read, write)


def same(*names: str) -> tuple[Item, ...]:
    """Fields whose columns have their names and hold them as they are."""
    return tuple(column(name, name) for name in names)


def shapes(field: str, names: Sequence[str], encode: Callable[[Any], Plain], decode: Callable[[Plain], Any]) -> Item:
    """A field that may have several shapes, held by several columns together."""
    return Item(
        (field,),
        {name: F(name) for name in names},
        lambda row: {field: decode(row)},
        lambda part, _row_of, _scope: encode(part[field]),
    )


def reference(field: str, name: str, to: str) -> Item:
    """The id of an entry of a list, held as a foreign key."""

    def write(part: Plain, row_of: RowOf, _scope: str) -> Plain:
        return {f"{name}_id": None if part[field] is None else row_of(to, part[field])}

    return Item((field,), {name: F(f"{name}__key")}, lambda row: {field: row[name]}, write)


def two_references(field: str, names: tuple[str, str], to: str) -> Item:
    """A field with the ids of two entries of a list, each held as a foreign key."""

    def write(part: Plain, row_of: RowOf, _scope: str) -> Plain:
        return {f"{name}_id": row_of(to, key) for name, key in zip(names, part[field], strict=True)}

    return Item(
        (field,), {name: F(f"{name}__key") for name in names}, lambda row: {field: [row[name] for name in names]}, write
    )


def reference_within(field: str, name: str, to: str) -> Item:
    """The id of an entry that stands in the same entry, as of a copy in its route, held as a foreign key."""

    def write(part: Plain, row_of: RowOf, scope: str) -> Plain:
        return {f"{name}_id": None if part[field] is None else row_of(to, (scope, part[field]))}

    return Item((field,), {name: F(f"{name}__key")}, lambda row: {field: row[name]}, write)


def reference_by_two(outer: str, inner: str, name: str, to: str) -> Item:
    """An entry within another, named by two fields: as a copy by its route and its own id."""

    def write(part: Plain, row_of: RowOf, _scope: str) -> Plain:
        return {f"{name}_id": row_of(to, (part[outer], part[inner]))}

    columns = {outer: F(f"{name}__{outer}__key"), inner: F(f"{name}__key")}
    return Item((outer, inner), columns, lambda row: {outer: row[outer], inner: row[inner]}, write)


def nested(field: str, items: Sequence[Item], present: str | None = None) -> Item:
    """A part within the part that has no table of its own; it is there when the column `present` holds something."""

    def read(row: Plain) -> Plain:
        there = present is None or row[present] is not None
        return {field: read_items(items, row) if there else None}

    def write(part: Plain, row_of: RowOf, scope: str) -> Plain:
        # Of one that is not there the columns keep the defaults of their model.
        return {} if part[field] is None else write_items(items, part[field], row_of, scope)

    columns = {name: expression for item in items for name, expression in item.columns.items()}
    lists = [one for item in items for one in item.lists]
    within = tuple(Listed(one.field, one.table, (field, *one.path), one.alone) for one in lists)
    return Item((field,), columns, read, write, within)


@dataclass(frozen=True)
class Table:
    """The table of a part, or of a plain value: its model, the foreign key to what it belongs to, and what holds its fields.

    By its `name` its entries are referred to; `follows` is a field that names another entry of the table, within the same.
    """

    model: type[Model]
    parent: str
    items: tuple[Item, ...]
    part: Any = None
    name: str | None = None
    follows: str | None = None

    def lists(self) -> Iterator["Listed"]:
        """What has rows of its own."""
        return (one for item in self.items for one in item.lists)

    def rows(self) -> QuerySet[Any]:
        """All rows, those of one owner in their order."""
        return self.model._default_manager.order_by("position" if self.has_places() else "pk")

    def has_places(self) -> bool:
        """Whether the rows of one owner are a list."""
        return any(one.name == "position" for one in self.model._meta.fields)

    def as_json(self, **more: Any) -> JSONObject:
        """A row as JSON, in one object or, where it has more columns than fit, in several."""
        columns = {name: expression for item in self.items for name, expression in item.columns.items()}
        pairs = list({**columns, **more}.items())
        pieces = [dict(pairs[at : at + MOST_PAIRS]) for at in range(0, len(pairs), MOST_PAIRS)]
        if len(pieces) == 1:
            return JSONObject(**pieces[0])
        return JSONObject(**{f"piece {number}": JSONObject(**piece) for number, piece in enumerate(pieces)})

    def read(self, raw: Plain) -> Any:
        """A part as plain values, or the value itself, from the JSON of its row."""
        fields = read_items(self.items, whole_row(raw))
        return fields[THE_VALUE] if self._holds_values() else fields

    def write(self, value: Any, row_of: RowOf, scope: str) -> Plain:
        """The columns of a row, from a part as plain values with every field, or from a value."""
        return write_items(self.items, {THE_VALUE: value} if self._holds_values() else value, row_of, scope)

    def _holds_values(self) -> bool:
        return self.items[0].fields == (THE_VALUE,)


@dataclass(frozen=True)
class Listed:
    """A list within a part, or one part within it that stands alone, with rows of its own."""

    field: str
    table: Table
    path: tuple[str, ...] = ()
    alone: bool = False

    def values(self, part: Plain) -> list[Any]:
        """What is listed in a part."""
        for name in self.path:
            part = part[name]
        value: Any = part[self.field]
        return ([] if value is None else [value]) if self.alone else value


def listed(field: str, table: Table, *, alone: bool = False) -> Item:
    """A field whose parts have rows of their own: a list, or one that stands alone."""
    name = f"{field} of {table.model.__name__}"

    def read(row: Plain) -> Plain:
        found = [table.read(one) for one in row[name]]
        return {field: (found[0] if found else None) if alone else found}

    rows = table.rows().filter(**{table.parent: OuterRef("pk")}).values_list(table.as_json())
    return Item((field,), {name: ArraySubquery(rows)}, read, lists=(Listed(field, table, alone=alone),))


def whole_row(raw: Plain) -> Plain:
    """A row that was read in one object or in several, as one."""
    if "piece 0" not in raw:
        return raw
    return {name: value for piece in raw.values() for name, value in piece.items()}


def read_items(items: Sequence[Item], row: Plain) -> Plain:
    """The fields of a part that say something: null and empty lists are what a document leaves out."""
    fields = {name: value for item in items for name, value in item.read(row).items()}
    return {name: value for name, value in fields.items() if value is not None and value != []}


def write_items(items: Sequence[Item], part: Plain, row_of: RowOf, scope: str) -> Plain:
    """The columns that hold a part."""
    return {name: value for item in items for name, value in item.write(part, row_of, scope).items()}
