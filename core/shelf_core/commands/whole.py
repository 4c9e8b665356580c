"""All commands as one parser: for whatever has to know them all."""

import importlib
from argparse import ArgumentParser, RawDescriptionHelpFormatter

from shelf_core.commands.names import COMMANDS

PROGRAM = "shelf"


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
