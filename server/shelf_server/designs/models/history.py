"""What was changed, and what changes are measured from."""

from django.conf import settings
from django.db import models

from shelf_server.designs.models.design import Design


class Change(models.Model):
    """One change of one entry: what it was before and after, as its part of the document; null where there was none.

    What was done at once has one revision, and `what` says it in the words of the person's page. `place_before` is where the
    entry stood in its list; `undoes` the revision of the step that this one takes back, null for none.
    """

    design = models.ForeignKey(Design, models.CASCADE, related_name="changes")
    revision = models.PositiveBigIntegerField()
    who = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    when = models.DateTimeField(auto_now_add=True)
    what = models.CharField(max_length=300, default="")
    list_name = models.CharField(max_length=20)
    key = models.CharField(max_length=100)
    version = models.PositiveBigIntegerField()
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    place_before = models.PositiveIntegerField(null=True)
    undoes = models.PositiveBigIntegerField(null=True)

    class Meta:
        ordering = ["revision"]
        constraints = [
            models.UniqueConstraint(fields=["design", "revision", "list_name", "key"], name="change_once_per_revision")
        ]

    def __str__(self) -> str:
        return f"{self.list_name} {self.key}, version {self.version}"


class Reference(models.Model):
    """The state of a design from which a person measures changes: a document as it was, never edited."""

    design = models.ForeignKey(Design, models.CASCADE, related_name="references")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="+")
    revision = models.PositiveBigIntegerField()
    set_at = models.DateTimeField(auto_now=True)
    document = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["design", "user"], name="reference_once_per_person")]

    def __str__(self) -> str:
        return f"{self.design} as of revision {self.revision}"
