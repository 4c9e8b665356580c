"""The command line of the core: `forecast` and `points`."""

import argparse
import io
import os
import sys
from pathlib import Path

from shelf_core.design.faults import DesignError
from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import forecast
from shelf_core.formats.tables import write_forecast, write_points

BAD_INPUT = 2


def main(arguments: list[str] | None = None) -> int:
    """Run a command. Results go to standard output, faults to standard error, a line each; 2 means bad input."""
    chosen = _parser().parse_args(arguments)
    try:
        out = _run(chosen)
    except DesignError as error:
        print(error, file=sys.stderr)
        return BAD_INPUT
    except (OSError, ValueError) as error:
        print(f"{chosen.design}: {error}", file=sys.stderr)
        return BAD_INPUT
    try:
        sys.stdout.write(out)
        sys.stdout.flush()
    except BrokenPipeError:
        # Whoever read us has seen enough; Python would complain once more while it shuts down.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


def _run(chosen: argparse.Namespace) -> str:
    design = read_design(sys.stdin.buffer.read() if chosen.design == "-" else Path(chosen.design).read_bytes())
    result = forecast(design)
    out = io.StringIO()
    if chosen.command == "points":
        write_points(result, chosen.on, out)
    else:
        write_forecast(result, out)
    return out.getvalue()


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./shelf", description="Forecast a retention design.")
    commands = parser.add_subparsers(dest="command", required=True)
    one = commands.add_parser("forecast", help="what every target holds, day by day, as CSV")
    one.add_argument("design", help="a design document (JSON), or - for standard input")
    two = commands.add_parser("points", help="the points that are there at the end of a day, as CSV")
    two.add_argument("design", help="a design document (JSON), or - for standard input")
    two.add_argument("--on", required=True, metavar="DATE", help="a day of the design, such as 2027-06-30")
    return parser


if __name__ == "__main__":
    sys.exit(main())
