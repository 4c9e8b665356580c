"""Locks between processes, on files: let go by the kernel however the holder ends, kill -9 included."""

import contextlib
import fcntl
from collections.abc import Iterator
from pathlib import Path

from launcher.places import STATE, say


@contextlib.contextmanager
def held(name: str, *, waiting_for: str) -> Iterator[None]:
    """Hold the lock `name`, waiting for another process that has it. The descriptor is not inherited by children."""
    with _opened(name) as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            say(f"waiting for another shelf command: {waiting_for}")
            fcntl.flock(file, fcntl.LOCK_EX)
        yield


@contextlib.contextmanager
def held_if_free(name: str) -> Iterator[bool]:
    """Hold the lock `name` and give True; give False at once when another process has it."""
    with _opened(name) as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield False
        else:
            yield True


def _opened(name: str):  # type: ignore[no-untyped-def]
    path: Path = STATE / f"{name}.lock"
    path.parent.mkdir(parents=True, exist_ok=True)
    return path.open("a")
