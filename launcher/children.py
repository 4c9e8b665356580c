"""Processes that run as long as we do."""

import contextlib
import ctypes
import os
import signal
import subprocess
from pathlib import Path

from launcher.places import ROOT

DIE_WITH_PARENT = 1
"""PR_SET_PDEATHSIG of prctl(2): a child does not outlive a supervisor that was killed."""


def start_with_us(command: list[str], environment: dict[str, str], cwd: Path = ROOT) -> subprocess.Popen[bytes]:
    """Start a child that ends with us and that a Ctrl-C at the terminal does not reach by itself."""
    libc = ctypes.CDLL(None)
    return subprocess.Popen(
        command,
        cwd=cwd,
        env=environment,
        start_new_session=True,
        preexec_fn=lambda: libc.prctl(DIE_WITH_PARENT, signal.SIGTERM),
    )


def end(child: subprocess.Popen[bytes]) -> None:
    """End a child and all that it started, kindly first. Each child leads a process group of its own."""
    _signal_group(child, signal.SIGTERM)
    try:
        child.wait(timeout=5)
    except subprocess.TimeoutExpired:
        _signal_group(child, signal.SIGKILL)
        child.wait()


def _signal_group(child: subprocess.Popen[bytes], number: int) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.killpg(child.pid, number)
