"""The processes that answer: which one is asked, how many there are, and when one is ended."""

import contextlib
import multiprocessing
import os
import signal
import threading
import time
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from typing import Any

from shelf_server.front.request import Answer, Request
from shelf_server.front.worker import work

_FORK = multiprocessing.get_context("forkserver")
_FORK.set_forkserver_preload(["shelf_server.front.loading", "shelf_server.front.loaded"])

WAITS_FOR_THE_SAME = 0.3
"""Seconds to wait for the process that has a design in its memory, when it answers something else just now."""
SLOW_AFTER = 0.6
"""Seconds after which a question gives way to all others."""
LOOKS_EACH = 0.2
DESIGNS_REMEMBERED = 6


class Busy(Exception):
    """All processes are answering, and none became free in time."""


class TooLong(Exception):
    """A question was stopped because it took longer than it may."""


class NobodyWaits(Exception):
    """A question was stopped because whoever asked has gone."""


class Broken(Exception):
    """The process that was answering ended by itself."""


@dataclass(eq=False)
class _Process:
    """One process, and the designs that it was last asked about."""

    pipe: Connection
    process: Any
    designs: list[str] = field(default_factory=list)
    slow: bool = False
    retires: bool = False
    idle_since: float = field(default_factory=time.monotonic)

    @classmethod
    def start(cls) -> "_Process":
        ours, theirs = _FORK.Pipe()
        process = _FORK.Process(target=work, args=(theirs,), daemon=True)
        process.start()
        theirs.close()
        return cls(ours, process)

    def kill(self) -> None:
        with contextlib.suppress(ProcessLookupError, AttributeError):
            os.kill(self.process.pid, signal.SIGKILL)
        self.pipe.close()
        self.process.join(timeout=5)

    def remember(self, design: str | None) -> None:
        if design is not None:
            self.designs = [design, *(one for one in self.designs if one != design)][:DESIGNS_REMEMBERED]

    def give_way(self, nice: int) -> bool:
        """Let it have less of the processors, or all again; False where that is not allowed."""
        self.slow = nice > 0
        try:
            os.setpriority(os.PRIO_PROCESS, self.process.pid, nice)
        except (PermissionError, ProcessLookupError):
            return False
        return True


class Pool:
    """Processes that answer one request at a time each. Safe to share between threads."""

    def __init__(self, most: int, waits: float) -> None:
        self._most, self._waits = most, waits
        self._free: list[_Process] = []
        self._busy: list[_Process] = []
        self._askers: Counter[str] = Counter()
        self._starting = 0
        self._change = threading.Condition()
        self._closed = False

    def ask(
        self, request: Request, design: str | None, asker: str, seconds: float, somebody_waits: Callable[[], bool]
    ) -> Answer:
        """The answer of a process, best of one that has the design in its memory.

        One asker never takes all processes. Raises Busy, TooLong, NobodyWaits, Broken.
        """
        process = self._take(design, asker)
        healthy = False
        try:
            answer = _answer(process, request, seconds, somebody_waits)
            # One that may not have its share of the processors back ends here; another one will take its place.
            healthy = not process.retires and (not process.slow or process.give_way(0))
        finally:
            self._give_back(process, design, asker, healthy=healthy)
        return answer

    def begin(self) -> None:
        """Have one process ready before anybody asks."""
        process = _Process.start()
        with self._change:
            self._free.append(process)

    def close(self) -> None:
        """End all processes."""
        with self._change:
            self._closed = True
            all_of, self._free, self._busy = [*self._free, *self._busy], [], []
        for one in all_of:
            one.kill()

    def _take(self, design: str | None, asker: str) -> _Process:
        began = time.monotonic()
        with self._change:
            while True:
                waited = time.monotonic() - began
                if waited > self._waits or self._closed:
                    raise Busy
                has_room = self._askers[asker] < max(1, self._most - 2)
                found = self._chosen(design, waited) if has_room else None
                if found is not None:
                    self._busy.append(found)
                if found is not None or (has_room and self._may_start(design, waited)):
                    self._askers[asker] += 1
                    break
                self._change.wait(0.05 if waited < WAITS_FOR_THE_SAME else LOOKS_EACH)
        return self._started(asker) if found is None else found

    def _may_start(self, design: str | None, waited: float) -> bool:
        """Whether one more process is to be started; its place is taken by this."""
        if self._waits_for_one_that_knows(design, waited) or len(self._busy) + self._starting >= self._most:
            return False
        self._starting += 1
        return True

    def _started(self, asker: str) -> _Process:
        """A new process, started while others take and give back theirs."""
        try:
            process = _Process.start()
        except (OSError, EOFError) as error:
            # The process that forks has ended; the next start brings it back.
            with self._change:
                self._starting -= 1
                self._askers[asker] -= 1
            raise Broken from error
        with self._change:
            self._starting -= 1
            self._busy.append(process)
        return process

    def _waits_for_one_that_knows(self, design: str | None, waited: float) -> bool:
        return waited < WAITS_FOR_THE_SAME and any(design in one.designs and not one.slow for one in self._busy)

    def _chosen(self, design: str | None, waited: float) -> _Process | None:
        """A free process that knows the design; if those that know it are busy, another one after a moment."""
        # One that was ended from outside while it was idle answers nobody.
        self._free = [one for one in self._free if one.process.is_alive()]
        knows = [one for one in self._free if design in one.designs]
        if not knows and self._waits_for_one_that_knows(design, waited):
            return None
        free = knows or sorted(self._free, key=lambda one: (len(one.designs), one.idle_since))
        if not free:
            return None
        self._free.remove(free[0])
        return free[0]

    def _give_back(self, process: _Process, design: str | None, asker: str, *, healthy: bool) -> None:
        if healthy:
            process.remember(design)
            process.idle_since = time.monotonic()
        else:
            process.kill()
        with self._change:
            if process in self._busy:
                self._busy.remove(process)
                if healthy:
                    self._free.append(process)
            self._askers[asker] -= 1
            if self._askers[asker] <= 0:
                del self._askers[asker]
            self._change.notify_all()


def _answer(process: _Process, request: Request, seconds: float, somebody_waits: Callable[[], bool]) -> Answer:
    began = time.monotonic()
    try:
        process.pipe.send(request)
        while not process.pipe.poll(LOOKS_EACH):
            took = time.monotonic() - began
            if took > seconds:
                raise TooLong
            if took > 1 and not somebody_waits():
                raise NobodyWaits
            if took > SLOW_AFTER and not process.slow:
                process.give_way(19)
        answer, process.retires = process.pipe.recv()
    except (EOFError, OSError) as error:
        raise Broken from error
    found: Answer = answer
    return found
