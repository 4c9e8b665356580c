"""The parser of a command and of all of them, and what they print of themselves."""

import importlib
from argparse import ArgumentParser, RawDescriptionHelpFormatter

from shelf_core.commands.names import COMMANDS

PROGRAM = "shelf"
WIDTH = 100
"""Of the helps that are kept, in characters."""


class _OfOneWidth(RawDescriptionHelpFormatter):
    """The same whatever terminal it is written at."""

    def __init__(self, prog: str) -> None:
        super().__init__(prog, width=WIDTH)


def parser_of(name: str) -> ArgumentParser:
    """What a command is given. Raises ModuleNotFoundError where a package is missing that only this command needs."""
    parser = ArgumentParser(prog=f"./{PROGRAM} {name}", description=COMMANDS[name].words, allow_abbrev=False)
    importlib.import_module(f"shelf_core.commands.{COMMANDS[name].module}").arguments(parser)
    add_examples(parser, name)
    return parser


def helps() -> dict[str, list[str]]:
    """What each command prints of itself, by lines. They are kept in a file, so that help waits for no computation."""
    found = {}
    for name in COMMANDS:
        parser = parser_of(name)
        parser.formatter_class = _OfOneWidth
        found[name] = parser.format_help().splitlines()
    return found


def add_examples(parser: ArgumentParser, name: str) -> None:
    """How a command is called, below its options."""
    examples = "\n".join(f"  ./{PROGRAM} {one}" for one in COMMANDS[name].examples)
    if examples:
        parser.formatter_class = RawDescriptionHelpFormatter
        parser.epilog = f"for example:\n{examples}"


def whole_parser() -> ArgumentParser:
    """All commands with all their options."""
    parser = ArgumentParser(prog=PROGRAM, description="Forecast retention designs.")
    parser.add_argument("--version", action="store_true", help="say which version this is")
    commands = parser.add_subparsers(dest="command", metavar="COMMAND")
    for name, command in COMMANDS.items():
        one = commands.add_parser(name, help=command.words, description=command.words)
        importlib.import_module(f"shelf_core.commands.{command.module}").arguments(one)
        add_examples(one, name)
    return parser
