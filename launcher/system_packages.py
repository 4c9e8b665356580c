"""Programs that come from the system: the PostgreSQL server, Node and, for tests, Chromium, LibreOffice and curl; and Pango."""

import ctypes.util
import os
import re
import shutil
import subprocess
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from pathlib import Path

from launcher.locks import held
from launcher.places import STATE, SetupError, say

NODE_AT_LEAST = (20, 19)
WITHOUT_WINDOWS = "chromium-headless-shell"
CLUSTER_CONFIG = Path("/etc/postgresql-common/createcluster.d/rested-shelf.conf")


@dataclass(frozen=True)
class Program:
    """One thing the system must have: how to see that it is there, and the packages that bring it.

    What only makes things quicker is installed where that can be done, which is tried once.
    """

    name: str
    is_there: Callable[[], bool]
    packages: tuple[str, ...]
    only_quicker: bool = False


def postgres_programs() -> Path | None:
    """The folder of the newest PostgreSQL server on this machine, or None."""
    found = [path.parent for path in Path("/usr/lib/postgresql").glob("*/bin/postgres")]
    on_path = shutil.which("postgres")
    if found:
        return max(found, key=lambda folder: float(folder.parent.name))
    return Path(on_path).resolve().parent if on_path else None


def node_version() -> tuple[int, ...] | None:
    """The version of the node on PATH, or None when there is none."""
    if not shutil.which("node") or not shutil.which("npm"):
        return None
    printed = subprocess.run(["node", "--version"], capture_output=True, text=True, check=False).stdout
    return tuple(int(part) for part in re.findall(r"\d+", printed))


def chromium_program(*, as_people_have_it: bool = False) -> str | None:
    """The path of Debian's Chromium, or None: the one that has no windows where it is there, since it opens a page sooner.

    How soon something is painted is measured with the one that people have, where it is there.
    """
    with_windows = ("chromium", "chromium-browser")
    order = (*with_windows, WITHOUT_WINDOWS) if as_people_have_it else (WITHOUT_WINDOWS, *with_windows)
    return next(filter(None, map(shutil.which, order)), None)


def has_library(name: str) -> bool:
    """Whether the system has a shared library."""
    return ctypes.util.find_library(name) is not None


POSTGRES = Program("the PostgreSQL server", lambda: postgres_programs() is not None, ("postgresql",))
NODE = Program("Node.js", lambda: node_version() is not None, ("nodejs", "npm"))
PANGO = Program("Pango, for reports as PDF", lambda: has_library("pangoft2-1.0"), ("libpango-1.0-0", "libpangoft2-1.0-0"))
CURL = Program("curl, for the examples of the guide", lambda: shutil.which("curl") is not None, ("curl",))
LIBREOFFICE = Program("LibreOffice Calc", lambda: shutil.which("soffice") is not None, ("libreoffice-calc",))
CHROMIUM = Program("Chromium", lambda: chromium_program(as_people_have_it=True) is not None, ("chromium",))
QUICKER_CHROMIUM = Program(
    "Chromium without windows", lambda: shutil.which(WITHOUT_WINDOWS) is not None, (WITHOUT_WINDOWS,), only_quicker=True
)

FOR_USE = (POSTGRES, NODE, PANGO)
FOR_TESTS = (*FOR_USE, CHROMIUM, QUICKER_CHROMIUM, LIBREOFFICE, CURL)


def ensure(programs: Iterable[Program]) -> None:
    """Install what is missing with apt; elsewhere say exactly what is missing.

    Raises SetupError when it cannot be installed here, or when Node is too old to build the front end.
    """
    missing = [program for program in programs if not program.is_there()]
    needed = [program for program in missing if not program.only_quicker]
    if needed:
        with held("system-packages", waiting_for="it installs system packages"):
            _install([program for program in needed if not program.is_there()])
    for program in missing:
        if program.only_quicker:
            _try_once(program)
    if NODE in list(programs):
        _check_node_version()


def _try_once(program: Program) -> None:
    """Install what would be better than what there is; where that cannot be done, it is not tried again."""
    tried = STATE / f"tried-{program.packages[0]}"
    if tried.exists():
        return
    STATE.mkdir(parents=True, exist_ok=True)
    tried.touch()
    try:
        with held("system-packages", waiting_for="it installs system packages"):
            _install([program])
    except SetupError:
        say(f"{program.name} cannot be installed here; what there is does as well, only slower")


def _install(missing: list[Program]) -> None:
    if not missing:
        return
    packages = [package for program in missing for package in program.packages]
    names = ", ".join(program.name for program in missing)
    how = "apt-get install " + " ".join(packages)
    if not shutil.which("apt-get"):
        raise SetupError(f"missing: {names}. On Debian or Ubuntu: {how}. Elsewhere install the like, then run this again.")
    as_root = [] if os.geteuid() == 0 else ["sudo"]
    if as_root and not shutil.which("sudo"):
        raise SetupError(f"missing: {names}. There is no sudo here; as root run: {how}")
    say(f"installing {names} ({how})")
    if POSTGRES in missing:
        _want_no_system_cluster(as_root)
    environment = ["env", "DEBIAN_FRONTEND=noninteractive"]
    _run([*as_root, "apt-get", "update", "-q"], how)
    _run([*as_root, *environment, "apt-get", "install", "-yq", "--no-install-recommends", *packages], how)


def _want_no_system_cluster(as_root: list[str]) -> None:
    """The package would start a cluster of its own; ours is private to the checkout."""
    _run([*as_root, "mkdir", "-p", str(CLUSTER_CONFIG.parent)], "mkdir")
    line = b"create_main_cluster = false\n"
    subprocess.run([*as_root, "tee", str(CLUSTER_CONFIG)], input=line, stdout=subprocess.DEVNULL, check=True)


def _run(command: list[str], how: str) -> None:
    ended = subprocess.run(command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, check=False)
    if ended.returncode != 0:
        raise SetupError(f"{' '.join(command)} failed:\n{ended.stdout[-2000:]}\nInstall by hand: {how}")


def _check_node_version() -> None:
    version = node_version()
    if version is None or version[:2] < NODE_AT_LEAST:
        have = "none" if version is None else ".".join(map(str, version))
        wanted = ".".join(map(str, NODE_AT_LEAST))
        raise SetupError(f"Node.js {wanted} or newer is needed to build the front end; this machine has {have}.")
