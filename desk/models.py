"""What is kept: cases and what an analyst prefers."""

import uuid

from django.conf import settings
from django.db import models


class Case(models.Model):
    """A loan an analyst works on.

    `statement` is what stands on the page, as typed; `document` the whole loan document last
    read from it (null until there is one). `found` tells what the list shows of its answer.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="cases"
    )
    name = models.CharField(max_length=200, blank=True)
    statement = models.JSONField()
    document = models.JSONField(null=True)
    found = models.JSONField(null=True)
    version = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-changed_at"]
        indexes = [models.Index(fields=["owner", "-changed_at"])]

    def __str__(self) -> str:
        return self.name or "Unnamed case"


class Preferences(models.Model):
    """How an analyst reads and writes numbers."""

    user = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="preferences"
    )
    marks = models.CharField(max_length=20, default="comma-point")

    def __str__(self) -> str:
        return f"Preferences of {self.user}"
