"""Command line of the launcher: `./shelf COMMAND`."""

import argparse
import difflib
import os
import sys
from collections.abc import Callable

from launcher import administration, bench, checks, client, develop, python_packages, schema, stand, supervisor
from launcher.places import PYTHON, ROOT, SetupError, child_environment, say

LOOKS = {"bench": ("bench", 0), "pictures": ("docs.pictures", supervisor.WORKERS)}
"""Commands that look at the demo: the module of each, and how many workers are to run. `bench` starts its own."""
CORE_COMMANDS = {
    "validate": "say whether a design is sound, with every fault and its place",
    "forecast": "print what every target will hold, day by day or in sum",
    "points": "print the points that are there at the end of a day",
    "night": "print what every transfer of a span of time came to: when it ended, what held it",
    "nights": "print when each copy ends in every night, and what is late",
    "loads": "print what is asked of each resource in its fullest days, and what it can carry",
    "restore": "print what a recovery plan comes to: from where all is restored, and when it is back",
    "losses": "print what a case of loss leaves of every workload, on a date or on every day",
    "duties": "print whether every duty holds, on which days it fails, and the worst of each",
    "explain": "print the sum behind the points of a target, in sentences",
    "compare": "print what a second design would hold, cost and lose beside a first",
    "change": "print a design with named edits made, all of them or none",
    "convert": "print a design as JSON, YAML, calendar, table, workbook or Parquet",
    "report": "print the report of a design as a page (HTML)",
    "schema": "print the JSON Schema of the design document",
    "completion": "print what lets a shell complete these commands",
    "manual": "print a manual page of these commands",
}
"""Those of the core, which explains each by --help. `bench` is one of them when it is given a design."""


OWN_COMMANDS = ("demo", "test", "bench", "stand", "pictures", "schema-types", "client", "dev")


def main(arguments: list[str]) -> int:
    """Run one command and give its exit status."""
    if arguments and arguments[0] in administration.COMMANDS:
        return administration.run(arguments[0], arguments[1:])
    if arguments and (arguments[0] in {*CORE_COMMANDS, "--version"} or _is_about_a_design(arguments)):
        return _core(arguments)
    _check_that_there_is_such_a_command(arguments)
    chosen, rest = _parser().parse_known_args(arguments)
    if rest and chosen.command not in ("test", "stand", *LOOKS):
        _parser().error(f"unexpected: {' '.join(rest)}")
    return _own(chosen, rest)


def _own(chosen: argparse.Namespace, rest: list[str]) -> int:
    """A command of the launcher's own, done; its exit status."""
    if chosen.command in LOOKS:
        module, workers = LOOKS[chosen.command]
        return bench.look_at_demo(module, rest, workers)
    does: dict[str, Callable[[], int]] = {
        "demo": lambda: supervisor.demo(chosen.port),
        "test": lambda: checks.test(rest),
        "stand": lambda: stand.stand(rest),
        "schema-types": schema.write_schema_and_types,
        "client": lambda: client.write_client(chosen.directory),
        "dev": develop.dev,
    }
    return does[chosen.command]()


def _check_that_there_is_such_a_command(arguments: list[str]) -> None:
    """End with the commands that are written like one that there is not."""
    if not arguments or arguments[0].startswith("-") or arguments[0] in OWN_COMMANDS:
        return
    name = arguments[0]
    known = [*OWN_COMMANDS, *administration.COMMANDS, *CORE_COMMANDS]
    like = difflib.get_close_matches(name, known, n=2)
    meant = f"did you mean {' or '.join(like)}?" if like else "./shelf --help names them all"
    _parser().error(f'expected a command, got "{name}"; {meant}')


def _is_about_a_design(arguments: list[str]) -> bool:
    return arguments[0] == "bench" and len(arguments) > 1 and (arguments[1] == "-" or not arguments[1].startswith("-"))


def _core(arguments: list[str]) -> int:
    python_packages.ensure("core")
    os.execve(PYTHON, [str(PYTHON), "-m", "shelf_core.cli", *arguments], child_environment(PYTHONPATH=str(ROOT / "core")))


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./shelf", description="Rested Shelf: design retention, forecast every target.")
    parser.add_argument("--version", action="store_true", help="say which version this is")
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    demo = commands.add_parser("demo", help="set everything up and serve the application with the demo design")
    demo.add_argument("--port", type=int, help="port on 127.0.0.1; without it the first free one from 8117 on")
    for name, words in administration.COMMANDS.items():
        commands.add_parser(name, help=words, add_help=False)
    commands.add_parser("test", help="run every check; arguments after it go to pytest, which then runs alone")
    commands.add_parser("bench", help="measure everything on the demo (--json FILE keeps the figures), or one design")
    commands.add_parser("stand", help="put the whole service under load and faults, here alone", add_help=False)
    commands.add_parser("pictures", help="take the pictures of docs/screenshots from the demo")
    commands.add_parser("schema-types", help="write web/openapi.json and the front end's types made from it")
    made = commands.add_parser("client", help="write a client of the API for Python, made from its schema")
    made.add_argument("directory", nargs="?", default="rested-shelf-client", help="where; without it rested-shelf-client")
    commands.add_parser("dev", help="serve with reload for server and web")
    for name, text in CORE_COMMANDS.items():
        commands.add_parser(name, help=text)
    return parser


if __name__ == "__main__":
    try:
        sys.exit(main(sys.argv[1:]))
    except SetupError as problem:
        say(str(problem))
        sys.exit(1)
    except KeyboardInterrupt:
        sys.exit(130)
