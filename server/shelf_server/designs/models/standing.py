"""What a design must stand: recovery plans, cases of loss, duties, and rehearsals that were held.

What a plan, a case or a duty says in detail is kept as the document has it: it is always read and written as a whole.
"""

from django.db import models

from shelf_server.designs.models.constraints import unique_key
from shelf_server.designs.models.design import Design, Entity, Piece
from shelf_server.designs.models.targets import Site


class RecoveryPlan(Entity):
    """Groups of workloads that are restored one after another."""

    site = models.ForeignKey(Site, models.RESTRICT, null=True, related_name="+")
    ready = models.CharField(max_length=60, null=True)
    groups = models.JSONField()
    in_place = models.BooleanField(default=False)

    class Meta(Entity.Meta):
        constraints = [unique_key("recoveryplan")]


class LossCase(Entity):
    """What is lost at once, and the plan by which all is brought back."""

    lost = models.JSONField()
    intruder = models.JSONField(null=True)
    unnoticed = models.CharField(max_length=60, null=True)
    plan = models.ForeignKey(RecoveryPlan, models.RESTRICT, null=True, related_name="+")

    class Meta(Entity.Meta):
        constraints = [unique_key("losscase")]


class Duty(Entity):
    """What is asked of workloads."""

    workloads = models.JSONField()
    begins = models.DateField(null=True)
    until = models.DateField(null=True)
    source = models.CharField(max_length=500, blank=True)
    first_by = models.CharField(max_length=60, null=True)
    asks = models.JSONField()

    class Meta(Entity.Meta):
        constraints = [unique_key("duty")]


class Rehearsal(Piece):
    """A rehearsal of a plan that was held."""

    design = models.ForeignKey(Design, models.CASCADE, related_name="rehearsals")
    plan = models.ForeignKey(RecoveryPlan, models.RESTRICT, related_name="rehearsals")
    at = models.CharField(max_length=19)
    passed = models.BooleanField()
    acted = models.BooleanField(default=False)
    note = models.CharField(max_length=500, blank=True)
