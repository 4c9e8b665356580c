"""The front end: its packages and its build, done again only when their sources changed."""

import subprocess
from pathlib import Path

from launcher.locks import held
from launcher.places import ROOT, STATE, WEB, SetupError, digest_of_files, say

BUILD = WEB / "dist"


def ensure_packages() -> None:
    """Have node_modules as the lock file says."""
    mark = STATE / "web-packages.digest"
    wanted = digest_of_files([WEB / "package.json", WEB / "package-lock.json"])
    if (WEB / "node_modules").is_dir() and _read(mark) == wanted:
        return
    with held("web", waiting_for="it prepares the front end"):
        say("installing the front end's packages (npm ci)")
        _npm("ci", "--no-audit", "--no-fund")
        mark.write_text(wanted)


def ensure_build() -> None:
    """Have web/dist built from the sources as they are."""
    ensure_packages()
    mark = STATE / "web-build.digest"
    wanted = digest_of_files(_sources())
    if (BUILD / "index.html").exists() and _read(mark) == wanted:
        return
    with held("web", waiting_for="it builds the front end"):
        say("building the front end (vite build)")
        _npm("run", "build")
        mark.write_text(wanted)


def _sources() -> list[Path]:
    folders = [path for folder in ("src", "public") for path in (WEB / folder).rglob("*") if path.is_file()]
    single = ("package-lock.json", "index.html", "vite.config.ts", "tsconfig.json")
    return folders + [WEB / name for name in single]


def _read(mark: Path) -> str:
    return mark.read_text() if mark.exists() else ""


def _npm(*arguments: str) -> None:
    ended = subprocess.run(
        ["npm", *arguments], cwd=WEB, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, check=False
    )
    if ended.returncode != 0:
        place = WEB.relative_to(ROOT)
        raise SetupError(f"npm {' '.join(arguments)} failed in {place}:\n{ended.stdout[-3000:]}")
