"""`loads`: for each resource the fullest 28 days in a row: what is asked of it, and what it can carry."""

from argparse import ArgumentParser, Namespace
from dataclasses import fields

from shelf_core.commands.common import design_argument, forecast_of, json_argument, progress, write_rows
from shelf_core.nights.following import follow
from shelf_core.nights.tables import Load, loads_of


def arguments(parser: ArgumentParser) -> None:
    """A design."""
    design_argument(parser)
    json_argument(parser, "one JSON object a line")


def run(chosen: Namespace) -> int:
    """Print the rows."""
    result = forecast_of(chosen.design)
    with progress("following the nights") as watch:
        followed = follow(result, watch=watch)
    rows = ((one.resource, one.from_day, one.asked_bytes, one.can_carry_bytes, f"{one.load:.6f}") for one in loads_of(followed))
    write_rows([field.name for field in fields(Load)], rows, as_json=chosen.json)
    return 0
