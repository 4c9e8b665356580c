"""Cadences and their runs."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from shelf_core.design import cadences
from shelf_server.designs.models.constraints import checks_of, unique_key
from shelf_server.designs.models.design import Entity, Piece


class Cadence(Entity):
    """When points are taken."""

    class Meta(Entity.Meta):
        constraints = [unique_key("cadence")]


class Run(Piece):
    """One run: a recurrence with times of day, or single local times."""

    cadence = models.ForeignKey(Cadence, models.CASCADE, related_name="runs")
    key = models.CharField(max_length=100)
    name = models.CharField(max_length=200, blank=True)
    kind = models.CharField(max_length=12)
    rrule = models.CharField(max_length=2000, null=True)
    at = ArrayField(models.CharField(max_length=5), default=list)
    once = ArrayField(models.CharField(max_length=19), null=True)
    timezone = models.CharField(max_length=64, null=True)
    begins = models.DateField(null=True)
    until = models.DateField(null=True)
    skipped = ArrayField(models.DateField(), default=list)

    class Meta(Piece.Meta):
        constraints = [
            models.UniqueConstraint(fields=["cadence", "key"], name="run_key_once_per_cadence"),
            *checks_of("run", cadences.Run),
            models.CheckConstraint(
                condition=Q(rrule__isnull=True, once__isnull=False) | Q(rrule__isnull=False, once__isnull=True),
                name="run_has_rule_or_times",
            ),
        ]
