"""Ports of the loopback interface."""

import socket


def is_free(port: int) -> bool:
    """Whether nobody listens on a port."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True


def any_free() -> int:
    """A port that nobody listens on, chosen by the system."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
        return port
