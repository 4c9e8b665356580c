"""`convert`: a design, or what it comes to, in another open format."""

import io
from argparse import ArgumentParser, Namespace
from collections.abc import Callable
from datetime import date
from typing import TYPE_CHECKING, BinaryIO

from shelf_core.commands.common import design_argument, progress, read, refuse, write_whole
from shelf_core.cost.cost import cost_of
from shelf_core.design.document import Design
from shelf_core.forecast.forecast import Forecast, forecast
from shelf_core.formats.documents import document_text

if TYPE_CHECKING:
    from shelf_core.report.asked import Asked

TEXTS: dict[str, Callable[[Design], str]] = {
    "json": document_text,
    "yaml": lambda design: document_text(design, "yaml"),
}


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
    if chosen.to == "ics":
        from shelf_core.formats.calendar_text import calendar_text  # noqa: PLC0415 - no other format needs its package

        return calendar_text(result, chosen.cadence)
    return _tables(chosen, result)


def _tables(chosen: Namespace, result: Forecast) -> bytes:
    """The lists of a design: one as text, or all as a file."""
    # Lists take more to load than a document or a calendar, which do not wait for that.
    from shelf_core.report.asked import Asked  # noqa: PLC0415
    from shelf_core.report.tables import table, table_names, write_csv  # noqa: PLC0415

    design = result.document
    day = chosen.on or design.starts
    today = date.today().isoformat()  # noqa: DTZ011 - the day on the calendar of whoever asks
    asked = Asked(result, cost_of(result), day, today)
    if chosen.to == "csv":
        if chosen.table is None:
            raise refuse("--table", f"expected one of {', '.join(table_names(design))}")
        text = io.StringIO()
        write_csv(table(asked, chosen.table), text)
        return text.getvalue().encode()
    out = io.BytesIO()
    FILES[chosen.to](asked, out)
    return out.getvalue()


def _write_workbook(asked: "Asked", out: BinaryIO) -> None:
    from shelf_core.report.workbook import write_workbook  # noqa: PLC0415 - no other format needs its package

    write_workbook(asked, out)


def _write_parquet(asked: "Asked", out: BinaryIO) -> None:
    from shelf_core.report.parquet import write_parquet  # noqa: PLC0415 - no other format needs its package

    write_parquet(asked, out)


FILES: dict[str, Callable[["Asked", BinaryIO], None]] = {"xlsx": _write_workbook, "parquet": _write_parquet}
