"""The core as a package: what it shows to everybody, with an example each, and a wheel that works where nothing else is."""

import doctest
import importlib
import os
import re
import subprocess
import sys
import tomllib
from importlib.metadata import packages_distributions, requires, version
from pathlib import Path

import pytest
from packaging.requirements import Requirement

import shelf_core
from tests.core.test_commands import ONE_DISK, shelf
from tests.designs import ROOT

CORE = ROOT / "core"
README = CORE / "README.md"
UV = [str(ROOT / ".shelf" / "uv" / "bin" / "python"), "-m", "uv"]
PROJECT = tomllib.loads((CORE / "pyproject.toml").read_text())["project"]


def test_the_examples_of_the_readme_give_what_they_say() -> None:
    failed, tried = doctest.testfile(str(README), module_relative=False)
    assert failed == 0
    assert tried >= len(shelf_core.__all__)


@pytest.mark.parametrize(
    "file",
    [file for file in sorted((CORE / "shelf_core").rglob("*.py")) if ">>> " in file.read_text()],
    ids=lambda file: file.stem,
)
def test_examples_in_the_code_give_what_they_say(file: Path) -> None:
    name = ".".join(file.relative_to(CORE).with_suffix("").parts).removesuffix(".__init__")
    failed, tried = doctest.testmod(importlib.import_module(name))
    assert (failed, tried > 0) == (0, True)


def test_every_public_name_has_an_example_and_words() -> None:
    examples = "\n".join(re.findall(r"^(?:>>>|\.\.\.)(.*)$", README.read_text(), flags=re.MULTILINE))
    code = re.sub(r"^ from shelf_core import .*$", "", examples, flags=re.MULTILINE)
    for name in shelf_core.__all__:
        assert re.search(rf"\b{name}\b", code), f"{name} has no example"
        assert getattr(shelf_core, name).__doc__, name
    with pytest.raises(AttributeError, match="no attribute 'everything'"):
        _ = shelf_core.everything  # type: ignore[attr-defined]


def test_naming_the_package_loads_nothing() -> None:
    script = "import sys, shelf_core; print(sorted({'numpy', 'pydantic'} & set(sys.modules)))"
    done = subprocess.run([sys.executable, "-c", script], env={**os.environ, "PYTHONPATH": str(CORE)}, capture_output=True, text=True, check=True)  # fmt: skip
    assert done.stdout == "[]\n"


def test_every_package_that_it_needs_is_said() -> None:
    """Those that any module imports, by the names that they are installed under."""
    imported = set()
    for file in (CORE / "shelf_core").rglob("*.py"):
        imported |= set(re.findall(r"^(?:import|from) (\w+)", file.read_text(), flags=re.MULTILINE))
    known = packages_distributions()
    needed = {known[name][0].lower() for name in imported if name in known and name != "shelf_core"}
    extras = [one for name, ones in PROJECT["optional-dependencies"].items() if name != "all" for one in ones]
    said = {re.split(r"[^\w-]", one)[0].lower() for one in [*PROJECT["dependencies"], *extras]}
    assert needed == said - {"tzdata"}


def needed_by(requirements: list[str]) -> set[str]:
    """The packages of some requirements, and of theirs, without extras, by name."""
    found: set[str] = set()
    asked = [Requirement(one) for one in requirements]
    while asked:
        one = asked.pop()
        if one.name not in found and (one.marker is None or one.marker.evaluate({"extra": ""})):
            found.add(one.name)
            asked += map(Requirement, requires(one.name) or [])
    return found


def test_a_wheel_of_it_works_in_an_environment_of_its_own(tmp_path: Path) -> None:
    def run(*command: str | Path) -> str:
        clean = {name: value for name, value in os.environ.items() if name not in ("PYTHONPATH", "VIRTUAL_ENV")}
        done = subprocess.run(list(map(str, command)), cwd=tmp_path, env=clean, capture_output=True, text=True, check=False)
        assert done.returncode == 0, done.stderr
        return done.stdout

    run(*UV, "build", "--wheel", "--offline", "--out-dir", tmp_path, CORE)
    (wheel,) = tmp_path.glob("shelf_core-*.whl")
    run(*UV, "venv", "--offline", "--python", sys.executable, tmp_path / "env")
    python = tmp_path / "env" / "bin" / "python"
    # Only what the core itself asks for, at the versions that are tested, from what this machine has fetched before: wheels
    # are there on any machine that has installed them, what would be needed to choose among versions is not.
    asked_for = [f"{name}=={version(name)}" for name in sorted(needed_by(PROJECT["dependencies"]))]
    run(*UV, "pip", "install", "--offline", "--no-deps", "--python", python, *asked_for, wheel)
    run(*UV, "pip", "check", "--offline", "--python", python)
    installed = python.parent / "shelf-core"
    assert run(installed, "forecast", ONE_DISK, "--summary") == shelf("forecast", ONE_DISK, "--summary")[0]
    assert run(installed, "points", "--help") == shelf("points", "--help")[0]
    where = Path(run(python, "-c", "import shelf_core; print(shelf_core.__file__)").strip())
    assert where.is_relative_to(tmp_path)
    assert (where.parent / "py.typed").exists()
    assert run(installed, "convert", ONE_DISK, "--to", "yaml") == shelf("convert", ONE_DISK, "--to", "yaml")[0]
    workbook = tmp_path / "all.xlsx"
    to_workbook = [installed, "convert", ONE_DISK, "--to", "xlsx", "--out", workbook]
    without = subprocess.run(to_workbook, capture_output=True, text=True, check=False)
    assert (without.returncode, without.stdout, workbook.exists()) == (2, "", False)
    assert re.fullmatch(r"convert needs \w+: install shelf-core\[\w+\]\n", without.stderr)
