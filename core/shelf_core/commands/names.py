"""The commands by name. Nothing is computed here, so that naming them costs no time."""

from typing import NamedTuple


class Command(NamedTuple):
    """A command: the module that does it, what it does in a line, and how it is called, without the program's name."""

    module: str
    words: str
    examples: tuple[str, ...] = ()


COMMANDS = {
    "validate": Command("validate", "say whether a design is sound, with every fault and its place", ("validate design.json",)),
    "forecast": Command(
        "forecast",
        "print what every target will hold, day by day, or in sum",
        (
            "forecast design.json --summary",
            "forecast design.json --target disk > disk.csv",
            'forecast design.json --summary --full-within "2 years"',
        ),
    ),
    "points": Command(
        "points",
        "print the points that are there at the end of a day",
        ("points design.json --on 2028-12-31 --target disk",),
    ),
    "night": Command(
        "night",
        "print what every transfer of a span of time came to: when it ended, what held it",
        (
            "night design.json --from 2027-03-03T12:00 --to 2027-03-04T12:00",
            "night design.json --from 2027-03-03T12:00 --to 2027-03-04T12:00 --use",
        ),
    ),
    "nights": Command("nights", "print when each copy ends in every night, and what is late", ("nights design.json",)),
    "loads": Command(
        "loads", "print what is asked of each resource in its fullest days, and what it can carry", ("loads design.json",)
    ),
    "restore": Command(
        "restore",
        "print what a recovery plan comes to: from where all is restored, and when it is back",
        ("restore design.json --plan home --at 2027-04-14T10:00",),
    ),
    "losses": Command(
        "losses",
        "print what a case of loss leaves of every workload, on a date or on every day",
        (
            "losses design.json --case fire --at 2027-04-14T10:00",
            "losses design.json --case fire --every-month",
        ),
    ),
    "duties": Command(
        "duties",
        "print whether every duty holds, on which days it fails, and the worst of each",
        ("duties design.json", "duties design.json --check > duties.csv"),
    ),
    "explain": Command(
        "explain",
        "print the sum behind the points of a target, in sentences",
        ("explain design.json --target disk --on 2028-12-31",),
    ),
    "compare": Command(
        "compare",
        "print what a second design would hold, cost and lose beside a first",
        ("compare now.json then.json", "compare now.json then.json --on 2028-12-31 --fail-on-loss"),
    ),
    "change": Command(
        "change",
        "print a design with named edits made, all of them or none",
        ("""change design.json '{"do": "move-copy", "route": "files", "copy": "away", "target": "cellar"}' > new.json""",),
    ),
    "convert": Command(
        "convert",
        "print a design as JSON, YAML, calendar, table, workbook or Parquet",
        (
            "convert design.json --to yaml > design.yaml",
            "convert design.json --to csv --table cost --on 2028-12-31",
            "convert design.json --to xlsx --out forecast.xlsx",
        ),
    ),
    "report": Command(
        "report",
        "print the report of a design as a page (HTML)",
        ("report design.json --on 2028-12-31 --out report.html",),
    ),
    "schema": Command("schema", "print the JSON Schema of the design document", ("schema > design.schema.json",)),
    "bench": Command("measure", "measure reading and forecasting a design on this machine", ("bench design.json",)),
    "completion": Command(
        "completion",
        "print what lets a shell complete these commands",
        ("completion bash > ~/.local/share/bash-completion/completions/shelf",),
    ),
    "manual": Command("manual", "print a manual page of these commands", ("manual > shelf.1",)),
}
