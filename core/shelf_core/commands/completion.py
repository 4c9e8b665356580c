"""`completion`: a script with which a shell completes the commands and their options, made from the commands themselves."""

from argparse import ArgumentParser, Namespace

import shtab

from shelf_core.commands.whole import PROGRAM, whole_parser

SHELLS = ("bash", "zsh", "fish")


def arguments(parser: ArgumentParser) -> None:
    """The shell."""
    parser.add_argument("shell", choices=SHELLS)


def run(chosen: Namespace) -> int:
    """Print the script."""
    script: str = shtab.complete(whole_parser(), shell=chosen.shell)
    # In a checkout the program is called with its place before it.
    also = f"complete -o filenames -F _shtab_{PROGRAM} ./{PROGRAM}\n" if chosen.shell == "bash" else ""
    print(f"{script}\n{also}", end="")
    return 0
