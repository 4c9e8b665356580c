"""`restore`: what a recovery plan comes to: from where each workload is restored, and when all is back."""

from argparse import ArgumentParser, Namespace

from shelf_core.commands.common import design_argument, forecast_of, json_argument, named, progress, refuse, write_rows
from shelf_core.nights.tables import seconds_of
from shelf_core.proof.arrived import arrivals_of
from shelf_core.proof.cases import as_it_is
from shelf_core.proof.lying import lying_of
from shelf_core.proof.plans import carry_out_plan
from shelf_core.proof.restore_table import RestoreRow, restore_rows


def arguments(parser: ArgumentParser) -> None:
    """A design, a plan, when it is called for, and the moment that is asked for."""
    design_argument(parser)
    parser.add_argument("--plan", required=True, metavar="ID", help="the recovery plan")
    parser.add_argument("--at", required=True, metavar="LOCAL", help="when it is called for, such as 2027-04-14T10:00")
    parser.add_argument("--moment", metavar="LOCAL", help="the moment to be restored; when it is called for by default")
    json_argument(parser, "one JSON object a line")


def run(chosen: Namespace) -> int:
    """Print the rows."""
    result = forecast_of(chosen.design)
    plan = named("--plan", chosen.plan, result.design.recovery_plans, "recovery plan")
    try:
        at = seconds_of(result, chosen.at)
        moment = at if chosen.moment is None else seconds_of(result, chosen.moment)
    except ValueError as error:
        raise refuse("--at, --moment", str(error)) from None
    if moment > at:
        raise refuse("--moment", f"expected a moment at {chosen.at} or before, got {chosen.moment}")
    with progress("following the nights"):
        lyings = lying_of(result, arrivals_of(result, at))
    begin = result.frame.begin
    world = as_it_is(result, begin + int(at), begin + int(moment))
    write_rows(RestoreRow._fields, restore_rows(result, carry_out_plan(world, plan, lyings), world.asked), as_json=chosen.json)
    return 0
