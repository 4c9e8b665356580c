"""The command line of the core. Each command is a module of its own, loaded when it is asked for, so that help is at once.

Results go to standard output, faults and progress to standard error. The exit status is 0 when all is well, 1 when a
condition that was asked for does not hold, 2 for bad input, 130 when it was interrupted.
"""

import argparse
import difflib
import gc
import importlib
import json
import os
import sys
from collections.abc import Sequence
from pathlib import Path

from shelf_core.commands.names import COMMANDS
from shelf_core.commands.whole import parser_of
from shelf_core.design.faults import DesignError

BAD_INPUT = 2
EXTRAS = {
    "openpyxl": "workbook",
    "xlsxwriter": "workbook",
    "pyarrow": "parquet",
    "icalendar": "calendars",
    "argparse_manpage": "shells",
}
"""Packages that some commands need and the core alone has not, by the extra that brings them."""
HELPS = Path(__file__).parent / "commands" / "helps.json"
"""What each command prints of itself, by lines: `python -m docs.helps` writes it."""
INTERRUPTED = 130
VERSION = "0.2.0"
"""That of the package, as its pyproject has it."""


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command and give its exit status."""
    given = list(sys.argv[1:] if arguments is None else arguments)
    if not given or given[0] not in COMMANDS:
        return _about_no_command(given)
    name, *rest = given
    if not {"-h", "--help"}.isdisjoint(rest):
        return _help(name)
    try:
        return _run(name, rest)
    except ModuleNotFoundError as error:
        if error.name not in EXTRAS:
            raise
        print(f"{name} needs {error.name}: install shelf-core[{EXTRAS[error.name]}]", file=sys.stderr)
        return BAD_INPUT


def _run(name: str, rest: list[str]) -> int:
    chosen = _loaded(name).parse_args(rest)
    try:
        status: int = importlib.import_module(f"shelf_core.commands.{COMMANDS[name].module}").run(chosen)
        sys.stdout.flush()
    except DesignError as error:
        return _refused(chosen, error)
    except BrokenPipeError:
        return _seen_enough()
    except (OSError, ValueError) as error:
        print(error, file=sys.stderr)
        return BAD_INPUT
    except KeyboardInterrupt:
        print("stopped", file=sys.stderr)
        return INTERRUPTED
    return status


def _loaded(name: str) -> argparse.ArgumentParser:
    """The parser of a command. While modules are loaded nothing can go yet: nothing is looked through for what can."""
    looked_through = gc.isenabled()
    gc.disable()
    try:
        return parser_of(name)
    finally:
        if looked_through:
            gc.enable()


def _help(name: str) -> int:
    """What a command prints of itself."""
    try:
        print("\n".join(json.loads(HELPS.read_text(encoding="utf-8"))[name]), flush=True)
    except BrokenPipeError:
        return _seen_enough()
    return 0


def _seen_enough() -> int:
    """Whoever read us reads no more; Python would complain of it once more while it shuts down."""
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return 0


def _about_no_command(given: list[str]) -> int:
    """What is answered to something that begins with no command: the version, help, or which command may be meant."""
    if given[:1] == ["--version"]:
        print(f"shelf-core {VERSION}")
        return 0
    if given and not given[0].startswith("-"):
        return _unknown(given[0])
    _overview().parse_args(given)
    return BAD_INPUT  # argparse has left by itself, but for nothing at all


def _unknown(name: str) -> int:
    """Say that there is no such command, and which are written like it."""
    like = difflib.get_close_matches(name, COMMANDS, n=2)
    meant = f"; did you mean {' or '.join(like)}?" if like else f" ({', '.join(COMMANDS)})"
    print(f'expected a command, got "{name}"{meant}', file=sys.stderr)
    return BAD_INPUT


def _refused(chosen: argparse.Namespace, error: DesignError) -> int:
    """All faults of a document, a line each; as JSON on standard output where JSON is asked for."""
    if getattr(chosen, "json", False):
        faults = [{"path": one.place, "message": one.message} for one in error.faults]
        print(json.dumps({"sound": False, "faults": faults}, ensure_ascii=False))
    print(error, file=sys.stderr)
    return BAD_INPUT


def _overview() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./shelf", description="Forecast retention designs.")
    parser.add_argument("--version", action="store_true", help="say which version this is")
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    for name, command in COMMANDS.items():
        commands.add_parser(name, help=command.words, add_help=False)
    return parser


def program() -> None:
    """Run a command as a process of its own, and end with its exit status."""
    status = main()
    # All goes with the process: looking through it once more for what can go takes a seventh of a short command.
    gc.freeze()
    sys.exit(status)


if __name__ == "__main__":
    program()
