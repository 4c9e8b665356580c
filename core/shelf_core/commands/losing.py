"""What `losses` prints, once its design has been read."""

import math
from argparse import Namespace

from shelf_core.commands.common import progress, refuse, write_rows
from shelf_core.design.standing import LossCase
from shelf_core.forecast.forecast import Forecast
from shelf_core.nights.tables import seconds_of
from shelf_core.proof.aftermath import Aftermath
from shelf_core.proof.arrived import arrivals_of
from shelf_core.proof.case_months import MonthRow, month_rows, months_of_case
from shelf_core.proof.cases import world_after
from shelf_core.proof.every_day import DayRow, EveryDay
from shelf_core.proof.losses import LossRow, case_at, loss_rows
from shelf_core.proof.lying import lying_of


def write_losses(result: Forecast, case: LossCase, chosen: Namespace) -> None:
    """Print the rows of a case, on every day, in every month, or at one time. Raises DesignError for a time that is none."""
    try:
        at = math.inf if chosen.at is None else seconds_of(result, chosen.at)
    except ValueError as error:
        raise refuse("--at", str(error)) from None
    with progress("following the nights"):
        lyings = lying_of(result, arrivals_of(result, at))
    if chosen.at is not None:
        found = case_at(world_after(Aftermath(result, case), result.frame.begin + int(at)), lyings)
        write_rows(LossRow._fields, loss_rows(found), as_json=chosen.json)
    elif chosen.every_day:
        write_rows(DayRow._fields, EveryDay(result, case, lyings).rows(), as_json=chosen.json)
    else:
        write_rows(MonthRow._fields, month_rows(months_of_case(result, case, lyings)), as_json=chosen.json)
