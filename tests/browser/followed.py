"""All nights of the demo, followed once for all tests and shared between the processes that run them.

What they come to is kept in our state for the next run, as long as neither the core nor the demo has changed.
"""

import hashlib
import json
import os
import time
import zlib
from pathlib import Path
from typing import Any

from shelf_core.design.reading import read_design
from shelf_core.forecast.forecast import forecast
from shelf_core.nights.parts import NightsWork
from shelf_server.designs.models import Design, Membership
from shelf_server.designs.results import document_of, opened
from shelf_server.jobs.kinds import KINDS
from shelf_server.jobs.models import Job
from tests.designs import DEMO, ROOT

LONGEST = 600
"""Seconds until a process that took a part on counts as gone."""


def nights_of_demo(folder: Path) -> bytes:
    """What the job `nights` finds out about the demo as it ships: each process does the parts that no other has taken on."""
    kept = ROOT / ".shelf" / f"nights-{_digest()}.json"
    if kept.exists():
        return kept.read_bytes()
    found = _followed(folder)
    for older in set(kept.parent.glob("nights-*.json")) - {kept}:
        older.unlink(missing_ok=True)
    aside = kept.with_suffix(f".{os.getpid()}.aside")
    aside.write_bytes(found)
    aside.rename(kept)
    return found


def _digest() -> str:
    """Of all that the nights depend on."""
    found = hashlib.sha256(DEMO.read_bytes() + (ROOT / "requirements" / "core.txt").read_bytes())
    for file in sorted([*(ROOT / "core").rglob("*.py"), *(ROOT / "server" / "shelf_server" / "jobs").glob("*.py")]):
        found.update(file.read_bytes())
    return found.hexdigest()[:16]


def _followed(folder: Path) -> bytes:
    folder.mkdir(parents=True, exist_ok=True)
    written = KINDS["nights"].parts
    work = NightsWork(forecast(read_design(DEMO.read_bytes())))
    for number in range(len(work)):
        if _taken_on(folder / f"{number}.taken"):
            aside = folder / f"{number}.aside"
            aside.write_bytes(written.write(work.part(number)))
            aside.rename(folder / f"{number}.json")
    parts = [written.read(_there(folder / f"{number}.json").read_bytes()) for number in range(len(work))]
    found: bytes = KINDS["nights"].whole.write(work.joined(parts))
    return found


def as_followed(row: Design, nights: bytes) -> None:
    """As if all nights of a design had been followed: the demo as it ships."""
    person = Membership.objects.filter(design=row).get().user
    document = json.dumps(document_of(opened(person, row.pk, "viewer")).canonical())
    about: dict[str, Any] = {"design_state": row.state, "revision": row.revision, "asked": {"on": "2027-01-01"}}
    Job.objects.create(
        design=row,
        asked_by=person,
        kind="nights",
        document=zlib.compress(document.encode()),
        state="done",
        done=1,
        result=nights,
        **about,
    )


def _taken_on(file: Path) -> bool:
    try:
        os.close(os.open(file, os.O_CREAT | os.O_EXCL))
    except FileExistsError:
        return False
    return True


def _there(file: Path) -> Path:
    last = time.monotonic() + LONGEST
    while not file.exists():
        assert time.monotonic() < last, f"{file.name} was taken on and never came"
        time.sleep(0.1)
    return file
