"""A process that answers requests one after another. It has so much memory and no more."""

import resource
import signal
from multiprocessing.connection import Connection

from shelf_server.front.request import Answer, Application, Request, answer_of
from shelf_server.resident import resident_bytes

MOST_DATA_BYTES = 1_700 * 2**20
"""Memory that a process may take: what it keeps from before, and 1 GB for one question."""
RETIRES_ABOVE_BYTES = 900 * 2**20
"""A process that still holds so much after an answer says so, and is ended; another one takes its place."""


def work(pipe: Connection) -> None:
    """Answer what comes through the pipe until it is closed: with the answer, and whether the process should end now."""
    # Ctrl-C at a terminal reaches the whole group; when to end is the front's affair.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_DATA, (MOST_DATA_BYTES, MOST_DATA_BYTES))
    from shelf_server.wsgi import application  # noqa: PLC0415 - the process that forks has loaded it already

    try:
        while True:
            found = _answer(application, pipe.recv())
            pipe.send((found, resident_bytes() > RETIRES_ABOVE_BYTES))
    except (EOFError, OSError):
        return


def _answer(application: Application, request: Request) -> Answer:
    try:
        return answer_of(application, request)
    except MemoryError:
        return Answer("500 Internal Server Error", [("Content-Type", "text/plain")], b"out of memory")
