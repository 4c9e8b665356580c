"""`points`: the list of points at the end of a day, row by row as it is made."""

from argparse import ArgumentParser, Namespace
from collections.abc import Iterator

from shelf_core.commands.common import Cell, design_argument, forecast_of, json_argument, write_rows
from shelf_core.forecast.points import PointRow, points_on
from shelf_core.formats.tables import POINT_COLUMNS, point_cells

CHOICES = ("target", "route", "copy", "workload", "state")


def arguments(parser: ArgumentParser) -> None:
    """A design, a day, and which points are wanted."""
    design_argument(parser)
    parser.add_argument("--on", required=True, metavar="DATE", help="a day of the design, such as 2027-06-30")
    for name in CHOICES:
        parser.add_argument(f"--{name}", metavar="ID", help=f"only points of this {name}")
    json_argument(parser, "one JSON object a line")


def run(chosen: Namespace) -> int:
    """Print the rows."""
    result = forecast_of(chosen.design)
    wanted = {name: getattr(chosen, name) for name in CHOICES if getattr(chosen, name) is not None}

    def rows() -> Iterator[tuple[Cell, ...]]:
        for row in points_on(result, chosen.on):
            if _is_wanted(row, wanted):
                yield point_cells(row)

    write_rows(POINT_COLUMNS, rows(), as_json=chosen.json)
    return 0


def _is_wanted(row: PointRow, wanted: dict[str, str]) -> bool:
    return all(getattr(row, name) == value for name, value in wanted.items())
