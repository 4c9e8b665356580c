"""Requests and answers as they pass between the front and the processes that answer: plain values, whole."""

import io
import sys
from collections.abc import Callable, Iterable
from typing import Any, NamedTuple

Application = Callable[[dict[str, Any], Callable[..., Any]], Iterable[bytes]]


class Request(NamedTuple):
    """A request that has come in whole: the WSGI environment's texts, and the body."""

    environ: dict[str, str]
    body: bytes

    @classmethod
    def of(cls, environ: dict[str, Any]) -> "Request":
        """The request of a WSGI environment. Reads the body, which the server in front has buffered."""
        texts = {name: value for name, value in environ.items() if isinstance(value, str)}
        length = int(environ.get("CONTENT_LENGTH") or 0)
        return cls(texts, environ["wsgi.input"].read(length) if length else b"")


class Answer(NamedTuple):
    """An answer, whole."""

    status: str
    headers: list[tuple[str, str]]
    body: bytes


def answer_of(application: Application, request: Request) -> Answer:
    """What an application answers."""
    begun: list[tuple[str, list[tuple[str, str]]]] = []

    def start_response(status: str, headers: list[tuple[str, str]], _exc_info: Any = None) -> Callable[[bytes], None]:
        begun.append((status, headers))
        return lambda _part: None

    environ: dict[str, Any] = {
        **request.environ,
        "wsgi.input": io.BytesIO(request.body),
        "wsgi.errors": sys.stderr,
        "wsgi.version": (1, 0),
        "wsgi.multithread": False,
        "wsgi.multiprocess": True,
        "wsgi.run_once": False,
    }
    parts = application(environ, start_response)
    try:
        body = b"".join(parts)
    finally:
        close = getattr(parts, "close", None)
        if close is not None:
            close()
    status, headers = begun[-1]
    return Answer(status, headers, body)
