"""Sites and targets. Sizes and durations are kept as they were typed."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import F, Q

from shelf_core.design import links, targets
from shelf_server.designs.models.constraints import checks_of, unique_key
from shelf_server.designs.models.design import Entity, Piece


def speed_column() -> "models.CharField[str | None, str | None]":
    """A speed as it was typed."""
    return models.CharField(max_length=60, null=True)


class Site(Entity):
    """A place that can be lost as a whole."""

    read_speed = speed_column()
    write_speed = speed_column()
    network = speed_column()

    class Meta(Entity.Meta):
        constraints = [unique_key("site")]


class Link(Entity):
    """A line between two sites."""

    one_end = models.ForeignKey(Site, models.RESTRICT, related_name="+")
    other_end = models.ForeignKey(Site, models.RESTRICT, related_name="+")
    speed = speed_column()
    shared = models.BooleanField(default=False)
    stream_speed = speed_column()
    usable_percent = models.FloatField(default=100)

    class Meta(Entity.Meta):
        constraints = [
            unique_key("link"),
            *checks_of("link", links.Link),
            models.CheckConstraint(condition=~Q(one_end=F("other_end")), name="link_joins_two"),
        ]


class Limit(Piece):
    """What a link may carry in some hours."""

    link = models.ForeignKey(Link, models.CASCADE, related_name="limits")
    days = ArrayField(models.CharField(max_length=2), null=True)
    begins = models.CharField(max_length=5, null=True)
    to = models.CharField(max_length=5, null=True)
    speed = models.CharField(max_length=60)


class Target(Entity):
    """Where points lie."""

    site = models.ForeignKey(Site, models.RESTRICT, related_name="targets")
    media = models.CharField(max_length=8)
    capacity = models.CharField(max_length=60, null=True)
    reserve_percent = models.FloatField(default=0)
    used_size = models.CharField(max_length=60, null=True)
    used_growth_percent = models.FloatField(default=0)
    packing = models.CharField(max_length=8, default="separate")
    lock = models.CharField(max_length=8, default="none")
    minimum_days = models.PositiveIntegerField(default=0)
    reclaim_rrule = models.CharField(max_length=2000, null=True)
    reclaim_at = ArrayField(models.CharField(max_length=5), default=list)
    fill_order = models.CharField(max_length=10, default="in-order")
    cartridge = models.CharField(max_length=60, null=True)
    slots = models.PositiveIntegerField(null=True)
    drives = models.PositiveIntegerField(null=True)
    batch_closes = models.CharField(max_length=5, null=True)
    returns_after = models.CharField(max_length=60, null=True)
    storage_class = models.CharField(max_length=200, default="")
    generation = models.CharField(max_length=200, default="")
    account = models.CharField(max_length=100, null=True)
    read_speed = speed_column()
    write_speed = speed_column()
    stream_speed = speed_column()
    streams = models.PositiveIntegerField(null=True)
    thaw = models.CharField(max_length=60, null=True)
    mount = models.CharField(max_length=60, null=True)
    fetch = models.CharField(max_length=60, null=True)
    away_site = models.ForeignKey(Site, models.RESTRICT, null=True, related_name="away_targets")
    feed = speed_column()
    run_from = models.CharField(max_length=60, null=True)

    class Meta(Entity.Meta):
        constraints = [
            unique_key("target"),
            *checks_of("target", targets.Target),
            *checks_of("target", targets.Use, {"annual_growth_percent": "used_growth_percent"}),
        ]


class Device(Piece):
    """One of several devices of a disk target."""

    target = models.ForeignKey(Target, models.CASCADE, related_name="devices")
    name = models.CharField(max_length=200)
    capacity = models.CharField(max_length=60)


class Prices(models.Model):
    """What a target costs, in the design's currency."""

    target = models.OneToOneField(Target, models.CASCADE, related_name="prices")
    capacity_tb_month = models.FloatField()
    requests_thousand = models.FloatField()
    part_size = models.CharField(max_length=60)
    retrieval_tb = models.FloatField()
    traffic_tb = models.FloatField()
    cartridge = models.FloatField()
    cartridge_month = models.FloatField()

    class Meta:
        constraints = checks_of("prices", targets.Prices)

    def __str__(self) -> str:
        return f"prices of {self.target}"
