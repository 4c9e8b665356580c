"""What procrastinate hands to workers: batches of the parts of a job."""

from django.db import InterfaceError, OperationalError
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.types import JSONValue

from shelf_server.jobs.given_back import GivenBack
from shelf_server.jobs.models import Job

BATCHES = 8
"""A job falls into so many batches, or fewer, which as many workers can do at the same time."""
_AGAIN = RetryStrategy(max_attempts=20, wait=1, retry_exceptions={GivenBack, OperationalError, InterfaceError})


@app.task(name="batch", queue="designs", retry=_AGAIN)
def batch(job: str, number: int, batches: int) -> None:
    """Compute one batch of a job's parts."""
    # Every command of the server reads this file, few of them compute anything.
    from shelf_server.jobs.computing import compute  # noqa: PLC0415

    compute(job, number, batches)


def send_out(job: Job) -> None:
    """Hand a job to the workers; they see it when the transaction that asked for it is done."""
    batches = max(1, min(BATCHES, job.of))
    each: list[dict[str, JSONValue]] = [{"job": str(job.pk), "number": number, "batches": batches} for number in range(batches)]
    batch.batch_defer(*each)
