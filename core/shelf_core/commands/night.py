"""`night`: what every transfer of a span of time came to, or with --use what each resource carried in it."""

from argparse import ArgumentParser, Namespace

from shelf_core.commands.common import design_argument, forecast_of, json_argument, progress, refuse, write_rows
from shelf_core.nights.followed import NightSpan
from shelf_core.nights.following import follow
from shelf_core.nights.tables import Row, night_rows, seconds_of, use_rows

USE_COLUMNS = ("from", "to", "resource", "used_bytes_per_second", "speed_bytes_per_second")


def arguments(parser: ArgumentParser) -> None:
    """A design and a span of local time."""
    design_argument(parser)
    parser.add_argument("--from", dest="begin", required=True, metavar="LOCAL", help="such as 2027-03-03T12:00, local time")
    parser.add_argument("--to", required=True, metavar="LOCAL", help="where the span ends, as --from")
    parser.add_argument("--use", action="store_true", help="print what each resource carries in the span instead")
    json_argument(parser, "one JSON object a line")


def run(chosen: Namespace) -> int:
    """Print the rows."""
    result = forecast_of(chosen.design)
    try:
        begin, end = seconds_of(result, chosen.begin), seconds_of(result, chosen.to)
    except ValueError as error:
        raise refuse("--from, --to", str(error)) from None
    if end <= begin:
        raise refuse("--to", f"expected a time after {chosen.begin}, got {chosen.to}")
    with progress("following the nights") as watch:
        followed = follow(result, NightSpan(begin, end, chosen.use), watch)
    if chosen.use:
        write_rows(USE_COLUMNS, use_rows(followed, begin, end), as_json=chosen.json)
    else:
        write_rows(Row._fields, night_rows(followed, begin, end), as_json=chosen.json)
    return 0
