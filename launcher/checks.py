"""`./shelf test`: every check there is, each shown with its time; pytest last, so that its line closes the output."""

import subprocess
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import NamedTuple

from launcher import postgres, python_packages, system_packages, web_build
from launcher.places import PYTHON, ROOT, STATE, WEB, child_environment, say

BIN = PYTHON.parent
WHOLE = ["-n", "2", "--dist", "loadgroup", "--durations", "20", "tests"]
"""Two processes, each given the next test, or group of tests, when it is free; the slowest are shown."""


def test(pytest_arguments: list[str]) -> int:
    """Run everything; 0 when all of it passes. With arguments only pytest runs, with those."""
    system_packages.ensure(system_packages.FOR_TESTS)
    python_packages.ensure("dev")
    web_build.ensure_build()
    failed = [] if pytest_arguments else _failed_at_rest()
    with postgres.TESTS.running() as database:
        environment = child_environment(
            **database, DJANGO_ALLOW_ASYNC_UNSAFE="true", DJANGO_SETTINGS_MODULE="shelf_server.settings"
        )
        for name in failed:
            say(f"FAILED: {name}")
        command = [str(PYTHON), "-m", "pytest", *(pytest_arguments or WHOLE)]
        passed = subprocess.run(command, cwd=ROOT, env=environment, check=False).returncode == 0
    return 0 if passed and not failed else 1


class Check(NamedTuple):
    """A check that runs nothing of ours but looks at it: its name, its command, and where that runs."""

    name: str
    command: list[str]
    folder: Path


def _failed_at_rest() -> list[str]:
    """The names of the checks that fail; those of Python and those of the front end go on beside each other."""
    with ThreadPoolExecutor() as lanes:
        return [name for names in lanes.map(_failed_of, (_python_checks(), _web_checks())) for name in names]


def _failed_of(checks: list[Check]) -> list[str]:
    return [one.name for one in checks if not _passes(one)]


def _python_checks() -> list[Check]:
    python = [str(PYTHON), "-m"]
    found = [
        ("ruff: rules", [*python, "ruff", "check", "."], ROOT),
        ("ruff: layout", [*python, "ruff", "format", "--check", "--quiet", "."], ROOT),
        ("mypy", [*python, "mypy"], ROOT),
        ("import contracts", [str(PYTHON), "-c", "from importlinter.cli import lint_imports_command as run; run()"], ROOT),
    ]
    return [Check(*one) for one in found]


def _web_checks() -> list[Check]:
    found = [
        ("web: types", ["npm", "run", "--silent", "types"], WEB),
        ("web: lint", ["npm", "run", "--silent", "lint"], WEB),
        ("web: unit tests", ["npm", "run", "--silent", "test"], WEB),
    ]
    return [Check(*one) for one in found]


def _passes(check: Check) -> bool:
    began = time.monotonic()
    environment = child_environment(DJANGO_SETTINGS_MODULE="shelf_server.settings", CI="true", NO_COLOR="1")
    log = STATE / f"check-{check.name.replace(': ', '-').replace(' ', '-')}.log"
    with log.open("w") as output:
        code = subprocess.run(
            check.command, cwd=check.folder, env=environment, stdout=output, stderr=subprocess.STDOUT, check=False
        ).returncode
    print(f"{'passed' if code == 0 else 'FAILED'}  {check.name}  ({time.monotonic() - began:.1f} s)", flush=True)
    if code != 0:
        print(log.read_text()[-6000:], flush=True)
    return code == 0
