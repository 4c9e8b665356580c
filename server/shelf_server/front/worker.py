"""A process that answers requests one after another, or, for long work, several at once. It has so much memory and no more."""

import os
import resource
import signal
import threading
from multiprocessing.connection import Connection

from shelf_server.front.request import Answer, Application, Request, answer_of

MOST_DATA_BYTES = 1_700 * 2**20
"""Memory that a process may take: what it keeps from before, and 1 GB for one question."""
RETIRES_ABOVE_BYTES = 900 * 2**20
"""A process that still holds so much after an answer says so, and is ended; another one takes its place."""


def work(pipe: Connection, *, several: bool) -> None:
    """Answer what comes through the pipe until it is closed.

    Each message is a number with a request; back come the number, the answer, and whether the process should end now.
    """
    # Ctrl-C at a terminal reaches the whole group; when to end is the front's affair.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_DATA, (MOST_DATA_BYTES, MOST_DATA_BYTES))
    from shelf_server.wsgi import application  # noqa: PLC0415 - the process that forks has loaded it already

    sending = threading.Lock()

    def answer(number: int, request: Request) -> None:
        found = _answer(application, request)
        with sending:
            pipe.send((number, found, _resident_bytes() > RETIRES_ABOVE_BYTES))

    try:
        while True:
            number, request = pipe.recv()
            if several:
                threading.Thread(target=_and_hang_up, args=(answer, number, request), daemon=True).start()
                continue
            answer(number, request)
    except (EOFError, OSError):
        return


def _answer(application: Application, request: Request) -> Answer:
    try:
        return answer_of(application, request)
    except MemoryError:
        return Answer("500 Internal Server Error", [("Content-Type", "text/plain")], b"out of memory")


def _and_hang_up(answer: object, number: int, request: Request) -> None:
    from django.db import connections  # noqa: PLC0415 - as above

    try:
        answer(number, request)  # type: ignore[operator]
    finally:
        connections.close_all()


def _resident_bytes() -> int:
    with open("/proc/self/statm") as file:  # noqa: PTH123 - a file of the kernel
        return int(file.read().split()[1]) * os.sysconf("SC_PAGE_SIZE")
