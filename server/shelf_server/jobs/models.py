"""A job, and what has come of its parts so far."""

import uuid
from datetime import timedelta

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone

from shelf_server.designs.models import Design

STATES = ["waiting", "running", "done", "stopped", "failed"]
MOST_SECONDS = 900
"""So long may one job be worked on."""
LEFT_AFTER_SECONDS = 30
"""A job of which nothing was heard for so long has been left, as by a server that was down; that time does not count."""


class Job(models.Model):
    """Long work about one state of a design. It ends with its design.

    `document` is the design as it was when the work was asked for, `asked` what else it depends on, both as JSON in bytes.
    `result` is what came of it: JSON, or the bytes of a file. `begun` is when the work on it began, later by all the time in
    which it was left; `heard` when a worker last did something for it.
    """

    class State(models.TextChoices):
        """Waiting for a worker, running, or one of three ends."""

        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        STOPPED = "stopped"
        FAILED = "failed"

    GOING = (State.WAITING, State.RUNNING)

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    design = models.ForeignKey(Design, models.CASCADE, related_name="jobs")
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    kind = models.CharField(max_length=20)
    design_state = models.UUIDField()
    revision = models.PositiveBigIntegerField()
    asked = models.JSONField()
    document = models.BinaryField()
    state = models.CharField(max_length=7, choices=State.choices, default=State.WAITING)
    done = models.PositiveIntegerField(default=0)
    of = models.PositiveIntegerField(default=1)
    result = models.BinaryField(null=True)
    failure = models.TextField(default="")
    taken_up_again = models.PositiveSmallIntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    begun = models.DateTimeField(null=True)
    heard = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["design", "kind", "-created"], name="job_of_a_design")]
        constraints = [
            models.CheckConstraint(
                condition=Q(state__in=["waiting", "running", "done", "stopped", "failed"]), name="job_state"
            ),
            models.CheckConstraint(
                condition=Q(state="done", result__isnull=False) | ~Q(state="done"), name="job_done_has_result"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.kind} of {self.design}, {self.state}"

    @property
    def is_overdue(self) -> bool:
        """Whether it has taken as long as it may."""
        return self.begun is not None and timezone.now() - self.begun > timedelta(seconds=MOST_SECONDS)


class JobPart(models.Model):
    """What came of one part of a job, kept until all parts are there."""

    job = models.ForeignKey(Job, models.CASCADE, related_name="parts")
    number = models.PositiveIntegerField()
    result = models.BinaryField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["job", "number"], name="job_part_once")]

    def __str__(self) -> str:
        return f"part {self.number} of {self.job_id}"
