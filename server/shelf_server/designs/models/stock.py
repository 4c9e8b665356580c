"""Holds and opening stock."""

from django.db import models

from shelf_core.design import document, unknowns
from shelf_server.designs.models.constraints import checks_of, in_order
from shelf_server.designs.models.design import Design, Piece
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

    class Meta(Piece.Meta):
        constraints = checks_of("opening", document.Opening)


class Unknown(Piece):
    """Low and high values of what is not known of some workloads; both of a pair or neither."""

    design = models.ForeignKey(Design, models.CASCADE, related_name="unknowns")
    key = models.CharField(max_length=100)
    name = models.CharField(max_length=200, blank=True)
    growth_low = models.FloatField(null=True)
    growth_high = models.FloatField(null=True)
    growth_by_factors = models.BooleanField(default=False)
    change_low = models.FloatField(null=True)
    change_high = models.FloatField(null=True)
    change_by_factors = models.BooleanField(default=False)
    reduction_low = models.FloatField(null=True)
    reduction_high = models.FloatField(null=True)
    reduction_by_factors = models.BooleanField(default=False)

    class Meta(Piece.Meta):
        constraints = [
            *checks_of("unknown", unknowns.GrowthRange, prefix="growth_"),
            *checks_of("unknown", unknowns.ChangeRange, prefix="change_"),
            *checks_of("unknown", unknowns.ReductionRange, prefix="reduction_"),
            *(in_order("unknown", f"{what}_low", f"{what}_high") for what in ("growth", "change", "reduction")),
        ]


class UnknownWorkload(Piece):
    """A workload that an unknown names."""

    unknown = models.ForeignKey(Unknown, models.CASCADE, related_name="workloads")
    workload = models.ForeignKey(Workload, models.RESTRICT, related_name="unknown_by")


class UnknownTag(Piece):
    """A tag that an unknown names."""

    unknown = models.ForeignKey(Unknown, models.CASCADE, related_name="tags")
    tag = models.CharField(max_length=100)
