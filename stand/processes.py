"""Processes of this machine, from /proc."""

import contextlib
import os
import signal
from pathlib import Path


def children_of(pid: int) -> list[int]:
    """All that a process has started, and what these have."""
    parents: dict[int, list[int]] = {}
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit():
            with contextlib.suppress(OSError, ValueError, IndexError):
                parent = int((entry / "stat").read_text().rsplit(")", 1)[1].split()[1])
                parents.setdefault(parent, []).append(int(entry.name))
    found, left = [], [pid]
    while left:
        of_one = parents.get(left.pop(), [])
        found += of_one
        left += of_one
    return found


def kill(pid: int | None) -> bool:
    """End a process without a word; False where there is none."""
    if pid is None:
        return False
    try:
        os.kill(pid, signal.SIGKILL)
    except ProcessLookupError:
        return False
    return True
