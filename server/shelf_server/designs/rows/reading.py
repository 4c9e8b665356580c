"""From rows to the document."""

from typing import NamedTuple

from django.db.models import F

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
    """The document of a design and the versions of its entries, each list in one query.

    Raises DesignError where the document is none by now.
    """
    plain: Plain = {"format": "rested-shelf-design", "version": NEWEST, **_settings(row)}
    versions: Versions = {"settings": {WHOLE: row.version}, "stock": {WHOLE: row.stock_version}}
    for name, table in LISTS.items():
        entries = _rows(table, row, version=F("version"))
        versions[name] = {one["key"]: one["version"] for one in map(whole_row, entries)}
        plain[name] = [table.read(one) for one in entries]
    for name, table in STOCK.items():
        plain[name] = [table.read(one) for one in _rows(table, row)]
    return Stored(design_of(plain), versions)


def _rows(table: Table, row: models.Design, **more: F) -> list[Plain]:
    return list(table.rows().filter(design=row).values_list(table.as_json(**more), flat=True))


def _settings(row: models.Design) -> Plain:
    columns = {name: getattr(row, name) for item in SETTINGS.items for name in item.columns}
    fields: Plain = SETTINGS.read({**columns, "starts": str(row.starts)})
    return fields
