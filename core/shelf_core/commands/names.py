"""The commands by name. Nothing is computed here, so that naming them costs no time."""

from typing import NamedTuple


class Command(NamedTuple):
    """A command: the module that does it, and what it does in a line."""

    module: str
    words: str


COMMANDS = {
    "validate": Command("validate", "say whether a design is sound, with every fault and its place"),
    "forecast": Command("forecast", "print what every target will hold, day by day, or in sum"),
    "points": Command("points", "print the points that are there at the end of a day"),
    "night": Command("night", "print what every transfer of a span of time came to: when it ended, what held it"),
    "nights": Command("nights", "print when each copy ends in every night, and what is late"),
    "loads": Command("loads", "print what is asked of each resource in its fullest days, and what it can carry"),
    "restore": Command("restore", "print what a recovery plan comes to: from where all is restored, and when it is back"),
    "losses": Command("losses", "print what a case of loss leaves of every workload, on a date or on every day"),
    "duties": Command("duties", "print whether every duty holds, on which days it fails, and the worst of each"),
    "explain": Command("explain", "print the sum behind the points of a target, in sentences"),
    "compare": Command("compare", "print what a second design would hold, cost and lose beside a first"),
    "change": Command("change", "print a design with named edits made, all of them or none"),
    "convert": Command("convert", "print a design as JSON, YAML, calendar, table, workbook or Parquet"),
    "schema": Command("schema", "print the JSON Schema of the design document"),
    "bench": Command("measure", "measure reading and forecasting a design on this machine"),
    "completion": Command("completion", "print what lets a shell complete these commands"),
}
