"""`losses`: what a case of loss leaves: of every workload, by its plan, on every target."""

from argparse import ArgumentParser, Namespace

from shelf_core.commands.common import design_argument, forecast_of, json_argument, named


def arguments(parser: ArgumentParser) -> None:
    """A design, a case, and when it comes."""
    design_argument(parser)
    parser.add_argument("--case", required=True, metavar="ID", help="the case of loss")
    when = parser.add_mutually_exclusive_group(required=True)
    when.add_argument("--at", metavar="LOCAL", help="when it comes, such as 2027-04-14T10:00, local time")
    when.add_argument("--every-day", action="store_true", help="at the end of every day of the design")
    when.add_argument("--every-month", action="store_true", help="the worst of each month, and the case's plan at its end")
    json_argument(parser, "one JSON object a line")


def run(chosen: Namespace) -> int:
    """Print the rows."""
    result = forecast_of(chosen.design)
    case = named("--case", chosen.case, result.design.loss_cases, "case of loss")
    # What follows losses takes more to load than a forecast: what is not sound is refused without waiting for that.
    from shelf_core.commands.losing import write_losses  # noqa: PLC0415

    write_losses(result, case, chosen)
    return 0
