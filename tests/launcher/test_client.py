"""The client that is made from the API's schema; that it works is tried in docs/scripts.md."""

import json
from pathlib import Path

import pytest

from launcher.client import SCHEMA, without_composed_defaults, write_client
from launcher.places import SetupError


def test_it_has_a_function_for_every_operation_and_its_fields_say_what_they_mean(tmp_path: Path) -> None:
    assert write_client(str(tmp_path / "client")) == 0
    package = tmp_path / "client" / "rested_shelf_client"
    schema = json.loads(SCHEMA.read_text())
    operations = {one["operationId"] for path in schema["paths"].values() for one in path.values()}
    assert {file.stem for file in package.glob("api/*/*.py")} - {"__init__"} == operations
    assert "which point of a period is picked: its first or its last" in (package / "models" / "rung.py").read_text()
    compile((package / "models" / "design.py").read_text(), "design.py", "exec")
    write_client(str(tmp_path / "client"))  # once more in its place


def test_what_is_no_client_is_not_written_over(tmp_path: Path) -> None:
    (tmp_path / "letters.txt").write_text("mine")
    with pytest.raises(SetupError, match="holds something else"):
        write_client(str(tmp_path))
    assert [one.name for one in tmp_path.iterdir()] == ["letters.txt"]


def test_only_composed_defaults_are_left_to_the_server() -> None:
    part = {"properties": {"default": {"default": 5}, "a": {"default": []}, "b": {"default": "x"}}}
    assert without_composed_defaults(part) == {"properties": {"default": {"default": 5}, "a": {}, "b": {"default": "x"}}}
