"""What whoever runs the application for others does: serve it, keep its people, save its data and put them back."""

import argparse
import subprocess
from collections.abc import Sequence

from launcher import data, outside, python_packages, supervisor, system_packages
from launcher.places import PYTHON, ROOT, child_environment

COMMANDS = {
    "serve": "serve the application to a team, as settings say",
    "worker": "do long work for what is served, here or on another machine",
    "people": "add people, set passwords, give and take roles in designs",
    "data": "save all that people have made to a file, or put it back",
}


def run(command: str, arguments: Sequence[str]) -> int:
    """Run one of the commands and give its exit status."""
    chosen, rest = _parser(command).parse_known_args(arguments)
    if rest and command != "people":
        _parser(command).error(f"unexpected: {' '.join(rest)}")
    if command == "serve":
        return supervisor.serve(chosen.settings)
    if command == "worker":
        return supervisor.worker(chosen.settings)
    said = outside.environment_of(chosen.settings)
    system_packages.ensure(system_packages.FOR_USE)
    python_packages.ensure("app")
    with outside.database_of(said).running() as environment:
        if command == "data":
            return data.data([chosen.what, chosen.file], environment)
        manage = [str(PYTHON), str(ROOT / "server" / "manage.py"), "people", *rest]
        return subprocess.run(manage, env=child_environment(**environment), check=False).returncode


def _parser(command: str) -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog=f"./shelf {command}", description=COMMANDS[command], add_help=command != "people")
    parser.add_argument("--settings", metavar="FILE", help="settings in TOML; SHELF_SETTINGS names the same")
    if command == "data":
        parser.add_argument("what", choices=["save", "load"])
        parser.add_argument("file", metavar="FILE")
    return parser
