"""From rows to the document."""

from typing import NamedTuple

from django.contrib.postgres.expressions import ArraySubquery
from django.db.models import F, OuterRef

from shelf_core.design.document import Design
from shelf_core.design.editing import WHOLE
from shelf_core.design.reading import design_of
from shelf_core.design.versions import NEWEST
from shelf_server.designs import models
from shelf_server.designs.rows.mapping import Plain, Table, whole_row
from shelf_server.designs.rows.tables import LISTS, SETTINGS, STOCK

Versions = dict[str, dict[str, int]]
"""The version of every entry of a design, by list and id."""


class Stored(NamedTuple):
    """A design as it is stored at one state: its document, and the version of each entry."""

    document: Design
    versions: Versions


def load_design(row: models.Design) -> Design:
    """The document of a design, read from its rows and checked as any document is."""
    return read_stored(row).document


def read_stored(row: models.Design) -> Stored:
    """The document of a design and the versions of its entries, each list in one query, those of its stock in one together.

    Raises DesignError where the document is none by now.
    """
    plain: Plain = {"format": "rested-shelf-design", "version": NEWEST, **_settings(row)}
    versions: Versions = {"settings": {WHOLE: row.version}, "stock": {WHOLE: row.stock_version}}
    for name, table in LISTS.items():
        entries = _rows(table, row, version=F("version"))
        versions[name] = {one["key"]: one["version"] for one in map(whole_row, entries)}
        plain[name] = [table.read(one) for one in entries]
    for (name, table), entries in zip(STOCK.items(), _stock(row), strict=True):
        plain[name] = [table.read(one) for one in entries]
    return Stored(design_of(plain), versions)


def _rows(table: Table, row: models.Design, **more: F) -> list[Plain]:
    return list(table.rows().filter(design=row).values_list(table.as_json(**more), flat=True))


def _stock(row: models.Design) -> tuple[list[Plain], ...]:
    """The rows of the lists that are written as a whole, in one query: most designs have few of them."""
    lists = [ArraySubquery(table.rows().filter(design=OuterRef("pk")).values_list(table.as_json())) for table in STOCK.values()]
    found: tuple[list[Plain], ...] = models.Design.objects.filter(pk=row.pk).values_list(*lists).get()
    return found


def _settings(row: models.Design) -> Plain:
    columns = {name: getattr(row, name) for item in SETTINGS.items for name in item.columns}
    fields: Plain = SETTINGS.read({**columns, "starts": str(row.starts)})
    return fields
