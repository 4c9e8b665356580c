"""How a person likes to see things, on every machine."""

from django.conf import settings
from django.db import models


class Preferences(models.Model):
    """What a person has chosen: the columns of the grid of workloads, how digits are grouped and how dates are written.

    `grid` are the columns in their order, each with width and hiding.
    """

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, primary_key=True, related_name="preferences")
    grid = models.JSONField(default=list)
    digits = models.CharField(max_length=10, default="space")
    dates = models.CharField(max_length=10, default="words")

    def __str__(self) -> str:
        return f"what {self.user} likes"
