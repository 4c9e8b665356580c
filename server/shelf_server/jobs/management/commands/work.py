"""Do long work until we are told to end."""

import asyncio
import resource
import signal
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from procrastinate import App
from procrastinate.contrib.django import app

from shelf_server.jobs.computing import AT_WORK
from shelf_server.jobs.watching import LOOKS_EACH, SILENT_FOR, look_after

MOST_DATA_BYTES = 1_700 * 2**20
"""Memory that a worker may take: what it keeps from before, and 1 GB for one part."""


class Command(BaseCommand):
    """Do long work."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """How often it looks after what others left; shorter where somebody waits for it, as tests do."""
        parser.add_argument("--looks-each", type=float, default=LOOKS_EACH)
        parser.add_argument("--silent-for", type=float, default=SILENT_FOR)

    def handle(self, *_args: Any, looks_each: float, silent_for: float, **_options: Any) -> None:
        """Run the command."""
        resource.setrlimit(resource.RLIMIT_DATA, (MOST_DATA_BYTES, MOST_DATA_BYTES))
        with app.replace_connector(app.connector.get_worker_connector()) as with_pool:  # type: ignore[attr-defined]
            asyncio.run(_work(with_pool, looks_each, silent_for))


async def _work(with_pool: App, looks_each: float, silent_for: float) -> None:
    async with with_pool.open_async():
        worker = asyncio.create_task(
            with_pool.run_worker_async(
                queues=["designs"],
                concurrency=1,
                install_signal_handlers=False,
                delete_jobs="always",
                update_heartbeat_interval=min(10.0, silent_for / 3),
                stalled_worker_timeout=silent_for,
            )
        )
        loop = asyncio.get_running_loop()
        for number in (signal.SIGTERM, signal.SIGINT):
            loop.add_signal_handler(number, _end, worker)
        looking = asyncio.create_task(look_after(with_pool, looks_each, silent_for))
        looking.add_done_callback(lambda _: _end(worker))
        try:
            await worker
        except asyncio.CancelledError:
            return
        finally:
            looking.cancel()


def _end(worker: "asyncio.Task[None]") -> None:
    """The part that is being done is done to its end; the rest of its batch is for others."""
    AT_WORK.is_ending.set()
    worker.cancel()
