"""`explain`: why so many points are on a target."""

from argparse import ArgumentParser, Namespace
from dataclasses import asdict

from shelf_core.commands.common import design_argument, forecast_of, json_argument, named, write_json
from shelf_core.reasons.sums import explain


def arguments(parser: ArgumentParser) -> None:
    """A design, a target and a day."""
    design_argument(parser)
    parser.add_argument("--target", required=True, metavar="ID", help="the target whose points are explained")
    parser.add_argument("--on", required=True, metavar="DATE", help="a day of the design, such as 2027-06-30")
    parser.add_argument("--copy", metavar="ROUTE / COPY", help='only this copy on it, such as "files / house"')
    json_argument(parser)


def run(chosen: Namespace) -> int:
    """Print the sentences, or all there is to them."""
    result = forecast_of(chosen.design)
    named("--target", chosen.target, result.design.targets, "target")
    found = explain(result, chosen.target, chosen.on, chosen.copy)
    if chosen.json:
        write_json(asdict(found))
    else:
        print("\n".join(found.sentences))
    return 0
