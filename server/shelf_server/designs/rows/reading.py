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
    """The document of a design and the versions of its entries, each list in one query, those with few entries in one together.

    Raises DesignError where the document is none by now.
    """
    plain: Plain = {"format": "rested-shelf-design", "version": NEWEST, **_settings(row)}
    versions: Versions = {"settings": {WHOLE: row.version}, "stock": {WHOLE: row.stock_version}}
    rows = {name: _rows(table, row) for name, table in LISTS.items() if name not in FEW}
    rows |= _few(row)
    for name, table in LISTS.items():
        versions[name] = {one["key"]: one["version"] for one in map(whole_row, rows[name])}
        plain[name] = [table.read(one) for one in rows[name]]
    for name, table in STOCK.items():
        plain[name] = [table.read(one) for one in rows[name]]
    return Stored(design_of(plain), versions)


def _rows(table: Table, row: models.Design) -> list[Plain]:
    return list(table.rows().filter(design=row).values_list(table.as_json(version=F("version")), flat=True))


FEW = ("recovery_plans", "loss_cases", "duties", "costs")
"""The lists of which most designs have few entries."""


def _few(row: models.Design) -> dict[str, list[Plain]]:
    """The rows of those lists, and of the ones that are written as a whole, in one query."""
    with_versions = {name: LISTS[name].as_json(version=F("version")) for name in FEW}
    columns = {**with_versions, **{name: table.as_json() for name, table in STOCK.items()}}
    lists = {
        f"of_{name}": ArraySubquery({**LISTS, **STOCK}[name].rows().filter(design=OuterRef("pk")).values_list(as_json))
        for name, as_json in columns.items()
    }
    found = models.Design.objects.filter(pk=row.pk).annotate(**lists).values(*lists).get()
    return {name: found[f"of_{name}"] for name in columns}


def _settings(row: models.Design) -> Plain:
    columns = {name: getattr(row, name) for item in SETTINGS.items for name in item.columns}
    fields: Plain = SETTINGS.read({**columns, "starts": str(row.starts)})
    return fields
