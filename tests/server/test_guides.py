"""The scripted examples of the README and of docs/scripts.md, run as they stand, with what they are said to print."""

import os
import re
import subprocess
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from django.core.management import call_command
from django.utils import timezone

from shelf_server.designs.models import Design, Membership
from shelf_server.designs.tokens import make_token
from tests.designs import ROOT

FENCE = re.compile(r"```(sh|text|stderr)\n(.*?)```", re.DOTALL)


@dataclass
class Example:
    """A block of commands, and what it prints where a block after it says so."""

    guide: str
    number: int
    commands: str
    text: str | None = None
    stderr: str | None = None

    def __str__(self) -> str:
        return f"{self.guide}-{self.number}"


def examples(guide: str) -> Iterator[Example]:
    current: Example | None = None
    for number, (kind, content) in enumerate(FENCE.findall((ROOT / guide).read_text())):
        if kind == "sh":
            if current:
                yield current
            current = Example(guide, number, content)
        elif current is not None:
            setattr(current, kind, content)
    if current:
        yield current


EXAMPLES = [one for guide in ("README.md", "docs/scripts.md") for one in examples(guide)]


def matches(printed: str, said: str | None) -> bool:
    """Whether what was printed is what the guide says, in which three dots stand for anything."""
    pattern = re.escape(said or "").replace(re.escape("..."), ".*")
    return re.fullmatch(pattern, printed, re.DOTALL) is not None


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """A folder that looks like the checkout to what the guides call."""
    for name in ("shelf", "demo"):
        (tmp_path / name).symlink_to(ROOT / name)
    return tmp_path


@pytest.fixture
def server(transactional_db: None, live_server: Any) -> dict[str, str]:
    call_command("load_demo", "--fresh", verbosity=0)
    row = Design.objects.get()
    owner: Any = Membership.objects.get(design=row, role="owner").user
    _, token = make_token(owner, "guide", "editor", 1)
    made, calendar = make_token(owner, "guide's calendar", "calendar", 1)
    assert made.expires > timezone.now() + timedelta(hours=23)
    return {"SHELF": live_server.url, "TOKEN": token, "CALENDAR_TOKEN": calendar, "DESIGN": str(row.pk)}


def ran(example: Example, folder: Path, **more: str) -> None:
    done = subprocess.run(
        ["bash", "-euo", "pipefail", "-c", example.commands],
        cwd=folder,
        # `python` is one with the packages that a guide asks for.
        env={**os.environ, "PATH": f"{Path(sys.executable).parent}{os.pathsep}{os.environ['PATH']}", **more},
        capture_output=True,
        text=True,
        check=False,
        timeout=120,
    )
    assert done.returncode == 0, done.stderr
    assert matches(done.stdout, example.text), done.stdout
    assert matches(done.stderr, example.stderr), done.stderr
    assert not [one for one in folder.iterdir() if one.is_file() and one.stat().st_size == 0]


@pytest.mark.parametrize("example", [one for one in EXAMPLES if "$SHELF" not in one.commands], ids=str)
def test_examples_of_the_command_line_print_what_they_say(example: Example, folder: Path) -> None:
    ran(example, folder)


@pytest.mark.parametrize("example", [one for one in EXAMPLES if "$SHELF" in one.commands], ids=str)
def test_examples_of_the_api_print_what_they_say(example: Example, folder: Path, server: dict[str, str]) -> None:
    ran(example, folder, **server)


def test_there_are_examples_in_both_guides() -> None:
    assert {one.guide for one in EXAMPLES} == {"README.md", "docs/scripts.md"}
    assert sum("$SHELF" in one.commands for one in EXAMPLES) >= 4
