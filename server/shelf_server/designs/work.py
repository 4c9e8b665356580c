"""Long work in the background: how far it is, a way to stop it, its result. In memory, as the engine's results are."""

import threading
import uuid
from collections.abc import Callable
from dataclasses import dataclass, field
from time import monotonic
from typing import Any, Literal

from shelf_core.design.faults import DesignError
from shelf_core.engine.watching import Stopped, Watch

Kind = Literal["bands", "rules", "longer"]
State = Literal["running", "done", "stopped", "failed"]
MOST_KEPT = 40
"""So many pieces of work are remembered, the oldest forgotten first."""
MOST_AT_ONCE = 4
"""So many run at a time for one person: more would only slow each other down."""


MOST_SECONDS = 900
"""So long may one piece of work take."""


class TooMuchAtOnce(ValueError):
    """A person has so much work running that no more is begun."""


@dataclass
class Work:
    """One piece of work. `owner` is the person who asked, `design`, `revision` and the day `on` what it is about."""

    kind: Kind
    owner: int
    design: int
    revision: int
    on: str
    id: str = field(default_factory=lambda: uuid.uuid4().hex)
    begun: float = field(default_factory=monotonic)
    state: State = "running"
    done: int = 0
    of: int = 1
    result: Any = None
    failure: str = ""
    _stop: threading.Event = field(default_factory=threading.Event)

    def watch(self, done: int, of: int) -> None:
        """Note how far it is. Raises Stopped once somebody has asked for it."""
        self.done, self.of = done, of
        if self._stop.is_set():
            raise Stopped
        if monotonic() - self.begun > MOST_SECONDS:
            raise ValueError(f"This was stopped after {MOST_SECONDS // 60} minutes; ask for fewer draws or a smaller design.")

    def stop(self) -> None:
        """Ask it to stop; it does at its next step."""
        self._stop.set()


_works: dict[str, Work] = {}
_lock = threading.Lock()


def begin(work: Work, do: Callable[[Watch], Any]) -> Work:
    """Start work in a thread of its own. Raises TooMuchAtOnce."""
    with _lock:
        running = [one for one in _works.values() if one.owner == work.owner and one.state == "running"]
        if len(running) >= MOST_AT_ONCE:
            raise TooMuchAtOnce(f"expected at most {MOST_AT_ONCE} pieces of work at a time, got one more; stop one first")
        _works[work.id] = work
        ended = [one for one in _works.values() if one.state != "running"]
        for one in sorted(ended, key=lambda one: one.begun)[: max(0, len(_works) - MOST_KEPT)]:
            del _works[one.id]
    threading.Thread(target=_run, args=(work, do), daemon=True).start()
    return work


def find(work_id: str, owner: int) -> Work | None:
    """Somebody's work; None where there is none, or it is another person's."""
    work = _works.get(work_id)
    return work if work is not None and work.owner == owner else None


def latest(owner: int, design: int) -> list[Work]:
    """What somebody last asked for about a design, one of each kind: it is found again when the page is opened anew."""
    newest: dict[str, Work] = {}
    with _lock:
        for one in sorted(_works.values(), key=lambda one: one.begun):
            if one.owner == owner and one.design == design:
                newest[one.kind] = one
    return list(newest.values())


def _run(work: Work, do: Callable[[Watch], Any]) -> None:
    try:
        work.result = do(work.watch)
        work.state = "done"
    except Stopped:
        work.state = "stopped"
    except (DesignError, ValueError) as error:
        work.failure, work.state = str(error), "failed"
    except MemoryError:
        work.failure, work.state = "This takes more memory than there is for it.", "failed"
    except Exception:
        # A thread has nobody above it who would tell the person; the log gets the trace, the page gets to know.
        work.failure, work.state = "This failed for a reason of our own; the server's log says more.", "failed"
        raise
