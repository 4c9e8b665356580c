"""Ladders, their recent rules and their rungs.

What a rule keeps is a count of points or periods, or a text: a duration or `forever`.
"""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from shelf_core.design import ladders
from shelf_server.designs.models.constraints import checks_of, unique_key
from shelf_server.designs.models.design import Entity, Piece


def _one_keep(table: str, *fields: str) -> models.CheckConstraint:
    condition = Q()
    for chosen in fields:
        condition |= Q(**{f"{field}__isnull": field != chosen for field in fields})
    return models.CheckConstraint(condition=condition, name=f"{table}_keeps_in_one_way")


class Ladder(Entity):
    """How long points stay."""

    floor = models.PositiveIntegerField(default=1)
    logs = models.CharField(max_length=60, null=True)

    class Meta(Entity.Meta):
        constraints = [unique_key("ladder"), *checks_of("ladder", ladders.Ladder)]


class Recent(Piece):
    """One rule of the recent part."""

    ladder = models.ForeignKey(Ladder, models.CASCADE, related_name="recent")
    keep_points = models.PositiveIntegerField(null=True)
    keep_superseded_extra = models.PositiveIntegerField(null=True)
    keep_for = models.CharField(max_length=60, null=True)
    runs = ArrayField(models.CharField(max_length=100), null=True)
    kinds = ArrayField(models.CharField(max_length=12), null=True)

    class Meta(Piece.Meta):
        constraints = [
            *checks_of("recent", ladders.KeepPoints, prefix="keep_"),
            *checks_of("recent", ladders.Extra, prefix="keep_superseded_"),
            _one_keep("recent", "keep_points", "keep_superseded_extra", "keep_for"),
        ]


class Rung(Piece):
    """One rung."""

    ladder = models.ForeignKey(Ladder, models.CASCADE, related_name="rungs")
    name = models.CharField(max_length=100)
    every = models.CharField(max_length=7)
    pick = models.CharField(max_length=5, default="first")
    on = models.CharField(max_length=5, null=True)
    source = models.CharField(max_length=100, default="self-contained")
    keep_periods = models.PositiveIntegerField(null=True)
    keep_for = models.CharField(max_length=60, null=True)

    class Meta(Piece.Meta):
        constraints = [
            models.UniqueConstraint(fields=["ladder", "name"], name="rung_name_once_per_ladder"),
            *checks_of("rung", ladders.Rung),
            *checks_of("rung", ladders.KeepPeriods, prefix="keep_"),
            _one_keep("rung", "keep_periods", "keep_for"),
        ]
