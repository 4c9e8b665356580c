"""What a worker looks after beside its work: jobs whose worker ended, and its own limits of time."""

import asyncio
import logging
import os
import time

from asgiref.sync import sync_to_async
from procrastinate import App
from procrastinate.exceptions import ConnectorException
from procrastinate.jobs import Job as Batch

from shelf_server.jobs.computing import AT_WORK, OVERDUE, fail
from shelf_server.jobs.models import MOST_SECONDS, Job
from shelf_server.resident import resident_bytes

LOOKS_EACH = 5.0
SILENT_FOR = 30.0
"""A worker from which nothing was heard for so many seconds has ended; each of them is heard from every ten."""
RETIRES_ABOVE_BYTES = 900 * 2**20
"""A worker that holds so much when it has nothing to do ends; another one is started in its place."""
TAKEN_UP_AGAIN = 3
"""So often is a job taken up again whose worker ended; then it is taken for what ends them."""
ENDED_TOO_OFTEN = "What computes this ended each time before it was done; it may take more memory than there is."
_log = logging.getLogger(__name__)


async def look_after(app: App, looks_each: float = LOOKS_EACH, silent_for: float = SILENT_FOR) -> None:
    """Take up again what was left, and end this process when a part takes too long. Comes back when it holds too much."""
    while AT_WORK.job or resident_bytes() < RETIRES_ABOVE_BYTES:
        await asyncio.sleep(looks_each)
        await end_what_takes_too_long()
        for one in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=silent_for):
            await _take_up_again(app, one)


async def end_what_takes_too_long() -> None:
    """A part that nobody can stop from within ends with its process; another one is started in its place."""
    if AT_WORK.job and time.monotonic() - AT_WORK.since > MOST_SECONDS + 60:
        await sync_to_async(fail, thread_sensitive=False)(AT_WORK.job, OVERDUE)
        os._exit(1)


async def _take_up_again(app: App, one: Batch) -> None:
    key = str(one.task_kwargs["job"])
    if not await sync_to_async(may_be_taken_up, thread_sensitive=False)(key):
        await sync_to_async(fail, thread_sensitive=False)(key, ENDED_TOO_OFTEN)
    # Of a job that has ended, the batch ends at once when it is taken.
    try:
        await app.job_manager.retry_job(one)
    except ConnectorException:
        # Another worker has taken it up, or its own was only slow and has done it.
        _log.info("job %s: a batch that seemed left was taken up or done meanwhile", key)
        return
    _log.warning("job %s: its worker has ended; it is taken up again", key)


def may_be_taken_up(key: str) -> bool:
    """Count that a job is taken up again; False where that was done so often that it does not help."""
    job = Job.objects.filter(pk=key).only("taken_up_again").first()
    if job is None or job.taken_up_again >= TAKEN_UP_AGAIN:
        return False
    Job.objects.filter(pk=key).update(taken_up_again=job.taken_up_again + 1)
    return True
