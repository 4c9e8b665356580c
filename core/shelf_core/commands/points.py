"""`points`: the list of points at the end of a day, row by row as it is made."""

from argparse import ArgumentParser, Namespace
from dataclasses import fields

from shelf_core.commands.common import design_argument, forecast_of, json_argument, named, write_rows
from shelf_core.design.cadences import KINDS
from shelf_core.engine.retention.states import STATES
from shelf_core.forecast.points import Chosen, points_on
from shelf_core.formats.tables import POINT_COLUMNS, point_cells

IDS = ("target", "route", "copy", "workload", "run")


def arguments(parser: ArgumentParser) -> None:
    """A design, a day, and which points are wanted."""
    design_argument(parser)
    parser.add_argument("--on", required=True, metavar="DATE", help="a day of the design, such as 2027-06-30")
    for name in IDS:
        parser.add_argument(f"--{name}", metavar="ID", help=f"only points of this {name}")
    parser.add_argument("--state", choices=STATES, help="only points in this state")
    parser.add_argument("--kind", choices=KINDS, help="only points of this kind")
    parser.add_argument("--rule", metavar="NAME", help="only points that this rule claims: a rung's name, recent, hold, ...")
    parser.add_argument("--taken-from", metavar="DATE", help="only points taken on this day or later")
    parser.add_argument("--taken-to", metavar="DATE", help="only points taken on this day or earlier")
    json_argument(parser, "one JSON object a line")


def run(chosen: Namespace) -> int:
    """Print the rows."""
    which = Chosen(**{field.name: getattr(chosen, field.name) for field in fields(Chosen)})
    result = forecast_of(chosen.design)
    design = result.design
    if which.target is not None:
        named("--target", which.target, design.targets, "target")
    if which.route is not None:
        named("--route", which.route, design.routes, "route")
    if which.workload is not None:
        named("--workload", which.workload, design.workloads, "workload")
    write_rows(POINT_COLUMNS, map(point_cells, points_on(result, chosen.on, which)), as_json=chosen.json)
    return 0
