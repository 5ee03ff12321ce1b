"""What records of several areas have in common."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone


def one_of(field: str, choices: type[models.TextChoices], name: str) -> models.CheckConstraint:
    """The database refuses what is not one of the choices."""
    return models.CheckConstraint(condition=models.Q(**{f"{field}__in": choices.values}), name=name)


class Record(models.Model):
    """A row written once, by a client-made id, with who and when. The name stays readable when the account is gone or elsewhere."""

    client_id = models.UUIDField(unique=True, default=uuid.uuid4)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    by_name = models.CharField(max_length=120)
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        abstract = True
