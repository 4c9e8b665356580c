"""Processes of this machine, from /proc."""

import contextlib
import os
import signal
from collections.abc import Iterable
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


def processor_seconds(pids: Iterable[int]) -> float:
    """What processes have taken of the processors so far; those that have ended count for nothing."""
    ticks = 0
    for pid in pids:
        with contextlib.suppress(OSError):
            fields = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
            ticks += int(fields[11]) + int(fields[12])
    return ticks / os.sysconf("SC_CLK_TCK")


def resident_bytes(pids: Iterable[int]) -> int:
    """What processes hold in memory together; what several share counts once, shared out among them."""
    kilobytes = 0
    for pid in pids:
        with contextlib.suppress(OSError):
            lines = Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines()
            kilobytes += next(int(line.split()[1]) for line in lines if line.startswith("Pss:"))
    return 1024 * kilobytes


def kill(pid: int | None) -> bool:
    """End a process without a word; False where there is none."""
    if pid is None:
        return False
    try:
        os.kill(pid, signal.SIGKILL)
    except ProcessLookupError:
        return False
    return True
