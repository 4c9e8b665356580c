"""`./shelf client`: a client of the API for Python, made from its schema by a kept generator."""

import json
import subprocess
import tempfile
from pathlib import Path
from typing import Any

from launcher import python_packages
from launcher.places import PYTHON, VENV, WEB, SetupError, child_environment, say

SCHEMA = WEB / "openapi.json"


def write_client(directory: str) -> int:
    """Write the client into a directory; 0 when it was written. Raises SetupError where it cannot be."""
    folder = Path(directory)
    if folder.exists() and not (folder / "pyproject.toml").exists() and any(folder.iterdir()):
        raise SetupError(f"{directory} holds something else: name a directory that is new, empty, or has a client in it")
    python_packages.ensure("dev")
    with tempfile.TemporaryDirectory() as scratch:
        schema = Path(scratch) / "openapi.json"
        schema.write_text(json.dumps(without_composed_defaults(json.loads(SCHEMA.read_text()))))
        _generate(schema, folder)
    say(f"a client of the API stands in {directory}")
    return 0


def without_composed_defaults(schema: Any) -> Any:
    """A schema without what lists and parts are where nothing is said, which the generator cannot put into code.

    The server fills them in all the same.

    >>> without_composed_defaults({"a": {"default": []}, "b": {"default": 1}})
    {'a': {}, 'b': {'default': 1}}
    """
    if isinstance(schema, list):
        return [without_composed_defaults(one) for one in schema]
    if not isinstance(schema, dict):
        return schema
    kept = {name: one for name, one in schema.items() if name != "default" or not isinstance(one, list | dict)}
    # A field may be called anything, `default` too.
    return {
        name: {field: without_composed_defaults(said) for field, said in one.items()}
        if name == "properties"
        else without_composed_defaults(one)
        for name, one in kept.items()
    }


def _generate(schema: Path, folder: Path) -> None:
    command = [str(PYTHON), "-m", "openapi_python_client", "generate", "--meta", "uv", "--overwrite"]
    environment = child_environment()
    # It lays its code out with ruff, which it looks for by name.
    environment["PATH"] = f"{VENV / 'bin'}:{environment['PATH']}"
    done = subprocess.run(
        [*command, "--path", str(schema), "--output-path", str(folder)],
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode != 0:
        raise SetupError(f"the client could not be made:\n{done.stdout[-2000:]}{done.stderr[-2000:]}")
