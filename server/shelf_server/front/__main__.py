"""Serve the application: `python -m shelf_server.front --port 8117`."""

import argparse
import contextlib
import signal
import sys
import time
from types import FrameType
from typing import Any

import waitress

from shelf_server.front.application import SECONDS, Front

LARGEST_BODY_BYTES = 72 * 2**20
RECEIVED_WITHIN = 60
"""Seconds within which a request must have come in whole."""


def main(arguments: list[str]) -> int:
    """Serve until we are told to end."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, required=True)
    parser.add_argument("--trusted-proxy", help="the address of a server in front, which says who asks and how")
    parser.add_argument("--workers", type=int, default=10)
    parser.add_argument("--seconds", type=float, default=SECONDS)
    chosen = parser.parse_args(arguments)
    front = Front(chosen.workers, seconds=chosen.seconds)
    # The server in front reads requests and writes answers for all connections by itself; its threads only wait for answers.
    server = waitress.create_server(
        front,
        listen=f"{chosen.host}:{chosen.port}",
        threads=48,
        connection_limit=1000,
        channel_timeout=60,
        channel_request_lookahead=1,
        cleanup_interval=5,
        asyncore_use_poll=True,
        max_request_body_size=LARGEST_BODY_BYTES,
        ident=None,
        clear_untrusted_proxy_headers=True,
        **_behind(chosen.trusted_proxy),
    )
    _end_what_never_comes_in(server)
    signal.signal(signal.SIGTERM, _ended)
    with contextlib.suppress(OSError, EOFError):
        front.begin()
    try:
        server.run()
    except (SystemExit, KeyboardInterrupt):
        return 0
    finally:
        front.close()
    return 0


def _behind(proxy: str | None) -> dict[str, Any]:
    """What is believed of a server in front: for whom it asks, and by which scheme and name it was asked."""
    if proxy is None:
        return {}
    headers = {"x-forwarded-for", "x-forwarded-proto", "x-forwarded-host"}
    return {"trusted_proxy": proxy, "trusted_proxy_count": 1, "trusted_proxy_headers": headers}


def _ended(_signal: int, _frame: FrameType | None) -> None:
    # What the server passes on from anywhere in it.
    raise SystemExit(0)


def _end_what_never_comes_in(server: Any) -> None:
    """Close connections whose request drips in for longer than it may; a silent one is closed by the server itself."""
    began: dict[Any, float] = {}
    maintain = server.maintenance

    def maintenance(now: float) -> None:
        maintain(now)
        receiving = {one for one in server.active_channels.values() if one.request is not None}
        for one in [one for one in began if one not in receiving]:
            del began[one]
        for one in receiving:
            if time.monotonic() - began.setdefault(one, time.monotonic()) > RECEIVED_WITHIN:
                one.will_close = True

    server.maintenance = maintenance


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
