"""`completion`: a script with which a shell completes the commands and their options.

It stands in many a shell's start, so it is kept as it was made from the commands, and read here.
"""

import json
from argparse import ArgumentParser, Namespace
from pathlib import Path

SHELLS = ("bash", "zsh", "fish")
KEPT = Path(__file__).parent / "completions.json"
"""The script of each shell, by lines: `python -m docs.helps` writes it."""


def arguments(parser: ArgumentParser) -> None:
    """The shell."""
    parser.add_argument("shell", choices=SHELLS)


def run(chosen: Namespace) -> int:
    """Print the script."""
    print("\n".join(json.loads(KEPT.read_text(encoding="utf-8"))[chosen.shell]))
    return 0
