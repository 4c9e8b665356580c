"""`loads`: for each resource the fullest 28 days in a row: what is asked of it, and what it can carry."""

import math
from argparse import ArgumentParser, Namespace
from dataclasses import fields

from shelf_core.commands.common import design_argument, forecast_of, json_argument, progress, write_rows
from shelf_core.nights.followed import NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.loads import Load, loads_of
from shelf_core.nights.sums import sums_of


def arguments(parser: ArgumentParser) -> None:
    """A design."""
    design_argument(parser)
    json_argument(parser, "one JSON object a line")


def run(chosen: Namespace) -> int:
    """Print the rows."""
    result = forecast_of(chosen.design)
    with progress("following the nights") as watch:
        sums = sums_of(follow(result, NightSpan(begin=math.inf), watch))
    rows = (
        (one.resource, one.from_day, one.asked_bytes, one.can_carry_bytes, f"{one.load:.6f}") for one in loads_of(result, sums)
    )
    write_rows([field.name for field in fields(Load)], rows, as_json=chosen.json)
    return 0
