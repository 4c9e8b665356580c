"""Prints a table of what was measured; with `--json FILE` the figures as well."""

import argparse
import json
import sys
from functools import partial
from pathlib import Path

from bench.edits import edits_in_the_page
from bench.engine import demo_forecast
from bench.forecasts import forecast_views, long_work
from bench.jobs import workers
from bench.proof import nights, proof
from bench.reference import beside_the_simulation
from bench.rules import many_rules
from bench.scrolling import scrolling
from bench.server import server
from bench.start_up import start_up


def main() -> int:
    """Measure everything against the server at the address that is given."""
    parser = argparse.ArgumentParser(prog="./shelf bench")
    parser.add_argument("address")
    parser.add_argument("--json", metavar="FILE")
    chosen = parser.parse_args()
    of_the_core = (demo_forecast, beside_the_simulation, many_rules, long_work, proof, nights, start_up, server)
    of_the_page = (edits_in_the_page, scrolling, forecast_views, workers)
    figures: dict[str, float] = {}
    for measure in [*of_the_core, *(partial(one, chosen.address) for one in of_the_page)]:
        found = measure()
        for name, value in found.items():
            print(f"{name:<72} {value:>12.3f}", flush=True)
        figures |= found
    if chosen.json:
        Path(chosen.json).write_text(json.dumps(figures, indent=1) + "\n")
    return 0


if __name__ == "__main__":
    sys.exit(main())
