"""`convert`: a design, or what it comes to, in another open format."""

import io
from argparse import ArgumentParser, Namespace
from collections.abc import Callable
from datetime import date
from importlib import import_module

from shelf_core.commands.common import design_argument, progress, read, refuse, write_whole
from shelf_core.cost.cost import cost_of
from shelf_core.design.document import Design
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.formats.documents import document_text

TEXTS: dict[str, Callable[[Design], str]] = {
    "json": document_text,
    "yaml": lambda design: document_text(design, "yaml"),
}
FILES = {"xlsx": ("workbook", "write_workbook"), "parquet": ("parquet", "write_parquet")}
"""What writes each kind of file: a module of `shelf_core.report` and its function."""


def arguments(parser: ArgumentParser) -> None:
    """A design, and what it is to become."""
    design_argument(parser)
    parser.add_argument("--to", required=True, choices=[*TEXTS, "ics", "csv", *FILES], help="the format")
    parser.add_argument(
        "--table",
        metavar="NAME",
        help="with csv: targets, series, points, cost, workloads, opening, series-of-TARGET, split-of-TARGET-by-route",
    )
    parser.add_argument("--cadence", metavar="ID", help="with ics: only the runs of this cadence")
    parser.add_argument("--on", metavar="DATE", help="for csv and xlsx: the day of lists (the first of the design)")
    parser.add_argument("--out", metavar="FILE", help="write here and not to standard output; needed for xlsx and parquet")


def run(chosen: Namespace) -> int:
    """Write it whole or not at all."""
    write_whole(_content(chosen, read(chosen.design)), chosen.out)
    return 0


def _content(chosen: Namespace, design: Design) -> bytes:
    if chosen.to in TEXTS:
        return TEXTS[chosen.to](design).encode()
    if chosen.to in FILES and chosen.out is None:
        raise refuse("--out", f"expected a file for {chosen.to}, which is no text")
    with progress(f"forecasting {design.name}") as watch:
        result = forecast(design, watch=watch)
    # Each format takes packages of its own: no other waits for them, or needs them.
    if chosen.to == "ics":
        text: bytes = import_module("shelf_core.formats.calendar_text").calendar_text(result, chosen.cadence)
        return text
    return _tables(chosen, result)


def _tables(chosen: Namespace, result: Forecast) -> bytes:
    """The lists of a design: one as text, or all as a file."""
    report = "shelf_core.report"
    tables = import_module(f"{report}.tables")
    design = result.document
    day = chosen.on or design.starts
    today = date.today().isoformat()  # noqa: DTZ011 - the day on the calendar of whoever asks
    asked = import_module(f"{report}.asked").Asked(result, cost_of(result), day, today)
    if chosen.to == "csv":
        if chosen.table is None:
            raise refuse("--table", f"expected one of {', '.join(tables.table_names(design))}")
        text = io.StringIO()
        tables.write_csv(tables.table(asked, chosen.table), text)
        return text.getvalue().encode()
    out = io.BytesIO()
    module, write = FILES[chosen.to]
    getattr(import_module(f"{report}.{module}"), write)(asked, out)
    return out.getvalue()
