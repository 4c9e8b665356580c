"""A design and the people it belongs to."""

import uuid
from typing import Any

from django.conf import settings
from django.db import models
from django.db.models import Q

from shelf_core.design import document
from shelf_server.designs.models.constraints import checks_of

AS_IT_STANDS = "As it stands"


class Family(models.Model):
    """The variants of one design: what it is and what it might be."""

    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return ", ".join(self.variants.values_list("variant", flat=True))


class Design(models.Model):
    """The settings of a design, and which variant of its family it is.

    `revision` counts every change of anything in it, and `state` is a name of that revision which never comes again;
    `version` counts those of the settings, `stock_version` those of its holds, opening stock and unknowns.
    """

    family = models.ForeignKey(Family, models.CASCADE, related_name="variants")
    variant = models.CharField(max_length=100, default=AS_IT_STANDS)
    current = models.BooleanField(default=True)
    name = models.CharField(max_length=200)
    timezone = models.CharField(max_length=64)
    starts = models.DateField()
    years = models.PositiveSmallIntegerField()
    week_starts = models.CharField(max_length=2)
    currency = models.CharField(max_length=3, default="EUR")
    correlation = models.FloatField(default=0.5)
    revision = models.PositiveBigIntegerField(default=1)
    state = models.UUIDField(default=uuid.uuid4)
    version = models.PositiveBigIntegerField(default=1)
    stock_version = models.PositiveBigIntegerField(default=1)
    created = models.DateTimeField(auto_now_add=True)
    stored: Any = None
    """What was read together with this row, where it was; no column."""
    asker: tuple[int, str] | None = None
    """Who this row was fetched for, and their role in it; no column."""

    class Meta:
        constraints = [
            *checks_of("design", document.Settings),
            models.UniqueConstraint(fields=["family", "variant"], name="design_variant_once_per_family"),
            models.UniqueConstraint(fields=["family"], condition=Q(current=True), name="design_one_current_per_family"),
        ]

    def __str__(self) -> str:
        return self.name

    def changed(self) -> None:
        """Count a change; the row is not saved by this."""
        self.revision += 1
        self.state = uuid.uuid4()
        self.stored = None


class Membership(models.Model):
    """What a person is to a design."""

    class Role(models.TextChoices):
        """Each may do what the one before may."""

        VIEWER = "viewer"
        EDITOR = "editor"
        OWNER = "owner"

    design = models.ForeignKey(Design, models.CASCADE, related_name="memberships")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=6, choices=Role.choices)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["design", "user"], name="membership_once_per_person"),
            models.CheckConstraint(condition=Q(role__in=["viewer", "editor", "owner"]), name="membership_role_is_known"),
        ]

    def __str__(self) -> str:
        return f"{self.user} is {self.role} of {self.design}"


class Entity(models.Model):
    """An entry of one of a design's lists: `key` is its id in the document, `version` counts its changes."""

    design = models.ForeignKey(Design, models.CASCADE, related_name="+")
    key = models.CharField(max_length=100)
    position = models.PositiveIntegerField()
    name = models.CharField(max_length=200, blank=True)
    version = models.PositiveBigIntegerField(default=1)

    class Meta:
        abstract = True
        ordering = ["position"]

    def __str__(self) -> str:
        return self.name or self.key


class Piece(models.Model):
    """An entry of a list within an entity; the list is always written as a whole."""

    position = models.PositiveIntegerField()

    class Meta:
        abstract = True
        ordering = ["position"]
