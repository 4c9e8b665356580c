"""What costs beside storage."""

from django.db import models

from shelf_server.designs.models.constraints import unique_key
from shelf_server.designs.models.design import Entity


class ExtraCost(Entity):
    """An amount a month or a year; `workloads` are kept as the document has them."""

    amount = models.FloatField()
    every = models.CharField(max_length=5, default="month")
    counted_by = models.CharField(max_length=8, default="design")
    workloads = models.JSONField()
    begins = models.DateField(null=True)
    until = models.DateField(null=True)

    class Meta(Entity.Meta):
        constraints = [unique_key("extracost")]
