"""The WSGI application in front: which process a request goes to, how long it may take, what is said when it cannot be."""

import hashlib
import json
import re
from collections.abc import Callable, Iterable
from typing import Any

from shelf_server.front.pool import Broken, Busy, NobodyWaits, Pool, TooLong
from shelf_server.front.request import Answer, Request

SECONDS = 30.0
SECONDS_FOR_FILES = 90.0
_DESIGN = re.compile(r"^/api/designs/(\d+)(/|$)")
_FILES = re.compile(r"^/api/designs/\d+/(files|tables)/|/calendar\.ics$|/points\.csv$")
_ONLY_ASKS = re.compile(r"/(trial|trial/shelves|trial/verdicts|effects)$")


class Front:
    """Hands each request to a process; `waits` is how long it waits for a free one."""

    def __init__(self, workers: int = 10, waits: float = 10.0, seconds: float = SECONDS) -> None:
        self._pool, self._seconds = Pool(workers, waits), seconds

    def __call__(self, environ: dict[str, Any], start_response: Callable[..., Any]) -> Iterable[bytes]:
        """Answer one request, as WSGI has it."""
        answer = self._answer(environ)
        start_response(answer.status, answer.headers)
        return [answer.body]

    def begin(self) -> None:
        """Be ready for the first request."""
        self._pool.begin()

    def close(self) -> None:
        """End all processes."""
        self._pool.close()

    def _answer(self, environ: dict[str, Any]) -> Answer:
        request, path = Request.of(environ), environ.get("PATH_INFO", "")
        seconds = max(self._seconds, SECONDS_FOR_FILES) if _FILES.search(path) else self._seconds
        try:
            design = _DESIGN.match(path)
            waits = _still_there(environ) if _changes_nothing(environ, path) else lambda: True
            return self._pool.ask(request, design[1] if design else None, _asker(environ), seconds, waits)
        except Busy:
            detail = "Everything that computes is busy; nothing was done. Ask again in a moment."
            return _problem("busy", "Too much is being asked at once", 503, detail, ("Retry-After", "5"))
        except TooLong:
            saved = "" if _changes_nothing(environ, path) else " Look first whether it was saved."
            detail = f"It was stopped after {seconds:.0f} seconds. Fewer points, rules or years take less.{saved}"
            return _problem("too-much", f"This takes longer than {seconds:.0f} seconds to compute", 422, detail)
        except Broken:
            detail = "What was answering this ended; nothing is half saved. Ask again."
            return _problem("broken", "This was interrupted", 503, detail, ("Retry-After", "1"))
        except NobodyWaits:
            return Answer("499 Client Closed Request", [], b"")


def _changes_nothing(environ: dict[str, Any], path: str) -> bool:
    return environ["REQUEST_METHOD"] in ("GET", "HEAD") or bool(_ONLY_ASKS.search(path))


def _still_there(environ: dict[str, Any]) -> Callable[[], bool]:
    """Whether whoever asked still waits, where the server in front can tell."""
    has_gone = environ.get("waitress.client_disconnected")
    return (lambda: not has_gone()) if has_gone is not None else (lambda: True)


def _asker(environ: dict[str, Any]) -> str:
    """What tells one who asks from another: what they sign in with, else where they are. Nothing of it is kept."""
    said = environ.get("HTTP_AUTHORIZATION") or _session(environ.get("HTTP_COOKIE", "")) or environ.get("REMOTE_ADDR", "")
    return hashlib.sha256(said.encode()).hexdigest()


def _session(cookies: str) -> str:
    found = re.search(r"(?:^|;\s*)sessionid=([^;]+)", cookies)
    return found[1] if found else ""


def _problem(kind: str, title: str, status: int, detail: str, *headers: tuple[str, str]) -> Answer:
    """Problem details (RFC 9457), as the application answers them."""
    body = {"type": f"urn:rested-shelf:problem:{kind}", "title": title, "status": status, "detail": detail}
    words = {422: "422 Unprocessable Content", 503: "503 Service Unavailable"}[status]
    content = json.dumps(body).encode()
    about = [("Content-Type", "application/problem+json"), ("Content-Length", str(len(content))), ("Cache-Control", "no-store")]
    return Answer(words, [*about, *headers], content)
