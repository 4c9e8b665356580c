"""`compare`: two designs by what they come to."""

from argparse import ArgumentParser, Namespace
from collections.abc import Iterator
from dataclasses import asdict

from shelf_core.commands.common import design_argument, forecast_of, json_argument, write_json, write_rows
from shelf_core.commands.people import Cell
from shelf_core.cost.cost import cost_of
from shelf_core.engine.memory import Memory
from shelf_core.formats.digest import digest
from shelf_core.reasons.comparison import Comparison, compare, year_ends

COLUMNS = (
    "target",
    "date",
    "points_before",
    "points_after",
    "stored_bytes_before",
    "stored_bytes_after",
    "peak_bytes_before",
    "peak_bytes_after",
    "full_on_before",
    "full_on_after",
    "cost_of_month_before",
    "cost_of_month_after",
    "cost_of_all_years_before",
    "cost_of_all_years_after",
    "lost_moments",
    "gained_moments",
)


def arguments(parser: ArgumentParser) -> None:
    """Two designs, and on which days they are looked at."""
    design_argument(parser, "before")
    design_argument(parser, "after")
    parser.add_argument("--on", action="append", metavar="DATE", help="a day; may be given again (the end of each year)")
    parser.add_argument("--fail-on-loss", action="store_true", help="exit with 1 when any restore moment is lost everywhere")
    json_argument(parser)


def run(chosen: Namespace) -> int:
    """Print a row for each target and day."""
    if chosen.before == chosen.after == "-":
        raise ValueError("expected at most one of the designs on standard input, got both")
    memory = Memory()
    before, after = (forecast_of(path, memory, name_file=True) for path in (chosen.before, chosen.after))
    dates = chosen.on or year_ends(before)
    found = compare((before, cost_of(before, memory)), (after, cost_of(after, memory)), dates)
    if chosen.json:
        write_json({"before": digest(before.document), "after": digest(after.document), **asdict(found)})
    else:
        write_rows(COLUMNS, _rows(found), as_json=False)
    return 1 if chosen.fail_on_loss and any(found.lost_everywhere) else 0


def _rows(found: Comparison) -> Iterator[tuple[Cell, ...]]:
    for one in found.targets:
        before, after = one.sides
        for on in one.dates:
            yield (
                one.target,
                on.on,
                *on.points,
                *on.stored_bytes,
                before.peak_bytes if before else None,
                after.peak_bytes if after else None,
                before.full_on if before else None,
                after.full_on if after else None,
                *on.cost_month,
                before.cost_whole if before else None,
                after.cost_whole if after else None,
                on.lost_moments,
                on.gained_moments,
            )
