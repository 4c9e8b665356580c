"""Routes, their copies, and the locks and step-downs of those."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from shelf_core.design import routes
from shelf_server.designs.models.cadences import Cadence
from shelf_server.designs.models.constraints import checks_of, unique_key
from shelf_server.designs.models.design import Entity, Piece
from shelf_server.designs.models.ladders import Ladder
from shelf_server.designs.models.targets import Target
from shelf_server.designs.models.workloads import Workload


class Route(Entity):
    """Workloads and the copies made of them."""

    class Meta(Entity.Meta):
        constraints = [unique_key("route")]


class RouteWorkload(Piece):
    """A workload that a route names."""

    route = models.ForeignKey(Route, models.CASCADE, related_name="workloads")
    workload = models.ForeignKey(Workload, models.RESTRICT, related_name="named_by")


class RouteTag(Piece):
    """A tag that a route names."""

    route = models.ForeignKey(Route, models.CASCADE, related_name="tags")
    tag = models.CharField(max_length=100)


class Copy(Piece):
    """One stop of a route."""

    route = models.ForeignKey(Route, models.CASCADE, related_name="copies")
    key = models.CharField(max_length=100)
    name = models.CharField(max_length=200, blank=True)
    target = models.ForeignKey(Target, models.RESTRICT, related_name="copies")
    cadence = models.ForeignKey(Cadence, models.RESTRICT, null=True, related_name="copies")
    source = models.ForeignKey("self", models.CASCADE, null=True, related_name="followers")
    take_by = models.CharField(max_length=5, null=True)
    take_names = ArrayField(models.CharField(max_length=100), default=list)
    delay = models.CharField(max_length=60, null=True)
    ladder = models.ForeignKey(Ladder, models.RESTRICT, null=True, related_name="copies")
    rotation_scheme = models.CharField(max_length=5, null=True)
    rotation_sets = models.PositiveSmallIntegerField(null=True)
    rotation_weekly_on = models.CharField(max_length=2, null=True)
    rotation_years = models.PositiveSmallIntegerField(null=True)
    sweep = models.CharField(max_length=9, default="daily")
    window_opens = models.CharField(max_length=5, null=True)
    window_closes = models.CharField(max_length=5, null=True)
    at_close = models.CharField(max_length=6, default="finish")
    spread = models.CharField(max_length=60, null=True)
    verify = models.BooleanField(default=False)
    priority = models.PositiveSmallIntegerField(null=True)

    class Meta(Piece.Meta):
        constraints = [
            models.UniqueConstraint(fields=["route", "key"], name="copy_key_once_per_route"),
            *checks_of("copy", routes.Copy),
            *checks_of("copy", routes.Rotation, prefix="rotation_"),
            models.CheckConstraint(condition=Q(take_by__in=routes.UNION_TAGS), name="copy_take_by_is_known"),
            models.CheckConstraint(
                condition=Q(cadence__isnull=False) | Q(source__isnull=False), name="copy_comes_from_somewhere"
            ),
            models.CheckConstraint(
                condition=Q(ladder__isnull=False, rotation_scheme__isnull=True)
                | Q(ladder__isnull=True, rotation_scheme__isnull=False),
                name="copy_has_ladder_or_rotation",
            ),
        ]


class StepDown(Piece):
    """A move of older points to a colder target. `which` is `rungs`, `all` or `named`, with the rungs in `rungs`."""

    copy = models.ForeignKey(Copy, models.CASCADE, related_name="step_downs")
    after = models.CharField(max_length=60)
    target = models.ForeignKey(Target, models.RESTRICT, related_name="arrivals")
    which = models.CharField(max_length=5, default="rungs")
    rungs = ArrayField(models.CharField(max_length=100), default=list)
    arrives_as = models.CharField(max_length=5, default="full")
    keep_source = models.BooleanField(default=False)
    skip_if_short = models.BooleanField(default=True)

    class Meta(Piece.Meta):
        constraints = [
            *checks_of("stepdown", routes.StepDown, {"as": "arrives_as", "which": None}),
            models.CheckConstraint(condition=Q(which__in=("rungs", "all", "named")), name="stepdown_which_is_known"),
        ]


class Lock(Piece):
    """A lock of a copy or of one of its step-downs."""

    copy = models.ForeignKey(Copy, models.CASCADE, null=True, related_name="locks")
    step_down = models.ForeignKey(StepDown, models.CASCADE, null=True, related_name="locks")
    lasts = models.CharField(max_length=60)
    mode = models.CharField(max_length=8, default="liftable")
    runs = ArrayField(models.CharField(max_length=100), null=True)
    kinds = ArrayField(models.CharField(max_length=12), null=True)
    rungs = ArrayField(models.CharField(max_length=100), null=True)

    class Meta(Piece.Meta):
        constraints = [
            *checks_of("lock", routes.Lock),
            models.CheckConstraint(
                condition=Q(copy__isnull=False, step_down__isnull=True) | Q(copy__isnull=True, step_down__isnull=False),
                name="lock_has_one_owner",
            ),
        ]
