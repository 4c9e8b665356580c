"""`report`: what a design comes to as one page that stands alone."""

from argparse import ArgumentParser, Namespace
from datetime import date
from typing import get_args

from shelf_core.commands.common import design_argument, forecast_of, refuse, write_whole
from shelf_core.cost.cost import cost_of
from shelf_core.digits import SEPARATORS
from shelf_core.style import Dates, FigureStyle


def arguments(parser: ArgumentParser) -> None:
    """A design, the day of its lists, and where to."""
    design_argument(parser)
    parser.add_argument("--on", metavar="DATE", help="the day that is looked at (the first of the design)")
    parser.add_argument("--digits", choices=SEPARATORS, default="space", help="what stands between thousands (a narrow space)")
    parser.add_argument("--dates", choices=get_args(Dates), default="words", help="how dates are written (12 June 2027)")
    parser.add_argument("--out", metavar="FILE", help="write here and not to standard output")


def run(chosen: Namespace) -> int:
    """Write it whole or not at all."""
    result = forecast_of(chosen.design)
    on = result.design.starts if chosen.on is None else chosen.on
    try:
        result.place_of(on)
    except ValueError as error:
        raise refuse("--on", str(error)) from None
    today = date.today().isoformat()  # noqa: DTZ011 - the day on the calendar of whoever asks
    style = FigureStyle(chosen.digits, chosen.dates)
    # The page takes more to load than a forecast: what is not sound is refused without waiting for that.
    from shelf_core.report.asked import Asked  # noqa: PLC0415
    from shelf_core.report.page import report  # noqa: PLC0415

    write_whole(report(Asked(result, cost_of(result), on, today, style=style)).encode(), chosen.out)
    return 0
