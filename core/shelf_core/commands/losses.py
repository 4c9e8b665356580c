"""`losses`: what a case of loss leaves: of every workload, by its plan, on every target."""

from argparse import ArgumentParser, Namespace

from shelf_core.commands.common import design_argument, forecast_of, json_argument, named, progress, refuse, write_rows
from shelf_core.nights.tables import seconds_of
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.arrived import arrivals_of
from shelf_core.proof.case_months import MonthRow, month_rows, months_of_case
from shelf_core.proof.cases import world_after
from shelf_core.proof.every_day import DayRow, EveryDay
from shelf_core.proof.losses import LossRow, case_at, loss_rows
from shelf_core.proof.lying import lying_of


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
    if chosen.every_day:
        with progress("following the nights"):
            lyings = lying_of(result, arrivals_of(result))
        write_rows(DayRow._fields, EveryDay(result, case, lyings).rows(), as_json=chosen.json)
        return 0
    if chosen.every_month:
        with progress("following the nights"):
            lyings = lying_of(result, arrivals_of(result))
        found_months = months_of_case(result, case, lyings)
        write_rows(MonthRow._fields, month_rows(found_months), as_json=chosen.json)
        return 0
    try:
        at = seconds_of(result, chosen.at)
    except ValueError as error:
        raise refuse("--at", str(error)) from None
    with progress("following the nights"):
        lyings = lying_of(result, arrivals_of(result, at))
    found = case_at(world_after(Aftermath(result, case), result.frame.begin + int(at)), lyings)
    write_rows(LossRow._fields, loss_rows(found), as_json=chosen.json)
    return 0
