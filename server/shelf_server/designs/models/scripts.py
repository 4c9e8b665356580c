"""What scripts need: tokens to be known by, and what was made on account of which key."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from shelf_server.designs.models.design import Design


class Token(models.Model):
    """Lets a script act for a person, as far as its role goes and until it expires. Only the digest of it is stored.

    `made_under` stands for the password that the person had when it was made: with another password it is over. It is empty
    for tokens of before, until they are used next.
    """

    class Role(models.TextChoices):
        """Each may do what the one before may; the first only subscribes to calendars."""

        CALENDAR = "calendar"
        VIEWER = "viewer"
        EDITOR = "editor"
        OWNER = "owner"

    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="tokens")
    name = models.CharField(max_length=100)
    role = models.CharField(max_length=8, choices=Role.choices)
    digest = models.CharField(max_length=64, unique=True)
    made_under = models.CharField(max_length=128, default="")
    created = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()
    last_used = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=Q(role__in=["calendar", "viewer", "editor", "owner"]), name="token_role_is_known")
        ]

    def __str__(self) -> str:
        return f"{self.name} of {self.user}"


class Remembered(models.Model):
    """A design that was made for a request with a key: the same request again gives the same design."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="+")
    key = models.CharField(max_length=200)
    digest = models.CharField(max_length=64)
    design = models.ForeignKey(Design, models.CASCADE, null=True, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "key"], name="remembered_key_once_per_person")]

    def __str__(self) -> str:
        return self.key


class RequestCount(models.Model):
    """How often somebody has asked within a minute, from all processes together. The table is not logged: it may be lost."""

    who = models.CharField(max_length=100)
    minute = models.BigIntegerField()
    times = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["who", "minute"], name="request_count_once_per_minute")]

    def __str__(self) -> str:
        return f"{self.who}: {self.times}"
