"""Where things are: the checkout, its private state, and how to speak to the person at the terminal."""

import hashlib
import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
STATE = Path(os.environ.get("SHELF_STATE") or ROOT / ".shelf").resolve()
VENV = STATE / "venv"
PYTHON = VENV / "bin" / "python"
COMPILED = STATE / "compiled"
WEB = ROOT / "web"


class SetupError(Exception):
    """Something this machine lacks; the message says what it is and how to get it."""


def say(text: str) -> None:
    """Tell what is being done, on standard error: standard output belongs to results."""
    print(f"shelf: {text}", file=sys.stderr, flush=True)


def child_environment(**more: str) -> dict[str, str]:
    """The environment of our own Python programs: this checkout's packages, nothing written beside the sources.

    Compiled modules are kept in our state, also where Python is told to keep none: without them each program compiles all that
    it loads anew, which takes the server longer than all else at its start.
    """
    paths = os.pathsep.join(str(ROOT / part) for part in ("core", "server", "."))
    kept = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    return {**kept, "PYTHONPATH": paths, "PYTHONPYCACHEPREFIX": str(COMPILED), "SHELF_STATE": str(STATE), **more}


def digest_of_files(files: list[Path]) -> str:
    """A digest of names and contents, to see whether something must be built again."""
    digest = hashlib.sha256()
    for file in sorted(files):
        digest.update(str(file.relative_to(ROOT)).encode() + b"\0" + file.read_bytes() + b"\0")
    return digest.hexdigest()
