"""The project's virtual environment, from locked and hash-checked requirements."""

import subprocess
import sys

from launcher.locks import held
from launcher.places import PYTHON, ROOT, STATE, VENV, SetupError, say

LEVELS = ("core", "app", "dev")
"""Each level holds what the one before it holds: the core alone, the application, the tools of the tests."""


def ensure(level: str) -> None:
    """Have the packages of `level` installed. A higher level that is there already stays."""
    if _is_ready(level):
        return
    with held("python-packages", waiting_for="it installs Python packages"):
        if not _is_ready(level):
            _install(max(level, _installed_level(), key=LEVELS.index))


def _is_ready(level: str) -> bool:
    wanted, ready = ROOT / "requirements" / f"{level}.txt", VENV / f"{level}.ready"
    return PYTHON.exists() and ready.exists() and ready.read_bytes() == wanted.read_bytes()


def _installed_level() -> str:
    return next((level for level in reversed(LEVELS) if (VENV / f"{level}.ready").exists()), LEVELS[0])


def _install(level: str) -> None:
    say(f"installing Python packages ({level})")
    uv = STATE / "uv" / "bin" / "python"
    if not uv.exists():
        _run([sys.executable, "-m", "venv", "--clear", str(STATE / "uv")])
        wanted = str(ROOT / "requirements" / "uv.txt")
        _run([str(uv), "-m", "pip", "install", "--quiet", "--require-hashes", "-r", wanted])
    if not PYTHON.exists():
        _run([str(uv), "-m", "uv", "venv", "--quiet", "--allow-existing", "--python", sys.executable, str(VENV)])
    for done in LEVELS:
        (VENV / f"{done}.ready").unlink(missing_ok=True)
    lock = str(ROOT / "requirements" / f"{level}.txt")
    _run([str(uv), "-m", "uv", "pip", "sync", "--quiet", "--require-hashes", "--python", str(PYTHON), lock])
    for done in LEVELS[: LEVELS.index(level) + 1]:
        (VENV / f"{done}.ready").write_bytes((ROOT / "requirements" / f"{done}.txt").read_bytes())


def _run(command: list[str]) -> None:
    ended = subprocess.run(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, check=False)
    if ended.returncode != 0:
        hint = " On Debian and Ubuntu: apt-get install python3-venv." if "ensurepip" in ended.stdout else ""
        raise SetupError(f"{' '.join(command)} failed.{hint}\n{ended.stdout[-3000:]}")
