"""Holds and opening stock."""

from django.db import models

from shelf_server.designs.models.design import Design, Piece, in_order
from shelf_server.designs.models.routes import Copy
from shelf_server.designs.models.workloads import Workload


class Hold(Piece):
    """Points that stay for a reason beside the ladder."""

    design = models.ForeignKey(Design, models.CASCADE, related_name="holds")
    taken_from = models.DateField()
    taken_to = models.DateField()
    placed = models.DateField()
    released = models.DateField(null=True)

    class Meta(Piece.Meta):
        constraints = [in_order("hold", "placed", "released")]


class HoldWorkload(Piece):
    """A workload that a hold names."""

    hold = models.ForeignKey(Hold, models.CASCADE, related_name="workloads")
    workload = models.ForeignKey(Workload, models.RESTRICT, related_name="held_by")


class HoldTag(Piece):
    """A tag that a hold names."""

    hold = models.ForeignKey(Hold, models.CASCADE, related_name="tags")
    tag = models.CharField(max_length=100)


class Opening(Piece):
    """A point that is there when the design starts."""

    design = models.ForeignKey(Design, models.CASCADE, related_name="opening")
    copy = models.ForeignKey(Copy, models.CASCADE, related_name="opening")
    workload = models.ForeignKey(Workload, models.RESTRICT, related_name="opening")
    taken = models.CharField(max_length=19)
    kind = models.CharField(max_length=12)
    size = models.CharField(max_length=60, null=True)
