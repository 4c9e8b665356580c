"""`nights`: for each night and copy how much is asked for, when the last of it ends, and how much of it is late."""

import math
from argparse import ArgumentParser, Namespace

from shelf_core.commands.common import design_argument, forecast_of, json_argument, progress, write_rows
from shelf_core.nights.followed import NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.loads import Night, nights_of
from shelf_core.nights.sums import sums_of

COLUMNS = Night._fields[:-1]


def arguments(parser: ArgumentParser) -> None:
    """A design."""
    design_argument(parser)
    json_argument(parser, "one JSON object a line")


def run(chosen: Namespace) -> int:
    """Print the rows."""
    result = forecast_of(chosen.design)
    with progress("following the nights") as watch:
        sums = sums_of(follow(result, NightSpan(begin=math.inf), watch))
    rows = (one[: len(COLUMNS)] for one in nights_of(result, sums))
    write_rows(COLUMNS, rows, as_json=chosen.json)
    return 0
