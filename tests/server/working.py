"""Stands for a worker where nothing but the database's connection of the test may be used: does what is to do, here and now."""

from procrastinate.contrib.django.models import ProcrastinateJob

from shelf_server.jobs.computing import compute


def work_off(most: int = 1000) -> int:
    """Do so many of the batches that wait; back comes how many there were."""
    waiting = list(ProcrastinateJob.objects.filter(status="todo").order_by("id")[:most])
    for one in waiting:
        ProcrastinateJob.objects.filter(pk=one.pk).delete()
        compute(one.args["job"], one.args["number"], one.args["batches"])
    return len(waiting)
