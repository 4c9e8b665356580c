"""Workloads and what is listed with them."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from shelf_core.design import workloads
from shelf_server.designs.models.constraints import checks_of, unique_key
from shelf_server.designs.models.design import Entity, Piece
from shelf_server.designs.models.targets import Site, speed_column


class Workload(Entity):
    """A body of data to protect."""

    site = models.ForeignKey(Site, models.RESTRICT, related_name="workloads")
    size = models.CharField(max_length=60)
    count = models.PositiveIntegerField(default=1)
    daily_change_percent = models.FloatField(default=0)
    hot_percent = models.FloatField(default=100)
    change_pattern = models.CharField(max_length=9, default="scattered")
    annual_growth_percent = models.FloatField(default=0)
    annual_growth = models.CharField(max_length=60, null=True)
    reduction = models.FloatField(default=1)
    change_reduction = models.FloatField(null=True)
    alike_group = models.CharField(max_length=100, null=True)
    alike_percent = models.FloatField(null=True)
    log_per_day = models.CharField(max_length=60, null=True)
    begins = models.DateField(null=True)
    until = models.DateField(null=True)
    priority = models.IntegerField(null=True)
    needed_first = models.BooleanField(default=False)
    read_speed = speed_column()
    write_speed = speed_column()
    scan = models.CharField(max_length=60, null=True)

    class Meta(Entity.Meta):
        constraints = [
            unique_key("workload"),
            *checks_of("workload", workloads.Workload),
            *checks_of("workload", workloads.Alike, prefix="alike_"),
            models.CheckConstraint(
                condition=Q(alike_group__isnull=True, alike_percent__isnull=True)
                | Q(alike_group__isnull=False, alike_percent__isnull=False),
                name="workload_alike_is_whole",
            ),
        ]


class WorkloadTag(Piece):
    """A tag of a workload."""

    workload = models.ForeignKey(Workload, models.CASCADE, related_name="tags")
    tag = models.CharField(max_length=100, db_index=True)

    class Meta(Piece.Meta):
        constraints = [models.UniqueConstraint(fields=["workload", "position"], name="workload_tag_place_once")]


class Step(Piece):
    """A dated change of size."""

    workload = models.ForeignKey(Workload, models.CASCADE, related_name="steps")
    on = models.DateField()
    add = models.CharField(max_length=60)


class CountStep(Piece):
    """More machines from a date on."""

    workload = models.ForeignKey(Workload, models.CASCADE, related_name="count_steps")
    on = models.DateField()
    add = models.PositiveIntegerField()


class Member(Piece):
    """A part of an index. `offline` holds dates in pairs; `keep_closed` is a date, `true` or `false`."""

    workload = models.ForeignKey(Workload, models.CASCADE, related_name="members")
    key = models.CharField(max_length=100)
    offline = ArrayField(models.DateField(), default=list)
    closed_from = models.DateField(null=True)
    keep_closed = models.CharField(max_length=10, null=True)
