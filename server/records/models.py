"""The envelope of every write: who, on which device, in which units, when it was written and when it came. Written once."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone


class Write(models.Model):
    """One command under its client-made id: what it was and to what, the hash of its content, and who wrote it where and when.

    The rows that a command makes carry the same id as `client_id`; their content is not stored here a second time.
    """

    id = models.UUIDField(primary_key=True)
    command = models.CharField(max_length=80)
    target = models.CharField(max_length=120, blank=True)
    content_hash = models.CharField(max_length=64)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    by_name = models.CharField(max_length=120)
    device = models.CharField(max_length=120, blank=True)
    length_unit = models.CharField(max_length=20)
    torque_unit = models.CharField(max_length=20)
    written_at = models.DateTimeField(null=True)
    received_at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [models.CheckConstraint(condition=~Q(command="") & ~Q(content_hash=""), name="write_says_what")]

    def __str__(self) -> str:
        return f"{self.command} by {self.by_name}"


class Allowance(models.Model):
    """How often something was asked for since its span began. The table is unlogged: it costs no wait for the disk, and begins empty
    after a crash."""

    key = models.CharField(max_length=200, primary_key=True)
    began = models.DateTimeField(db_index=True)
    used = models.PositiveIntegerField()

    def __str__(self) -> str:
        return f"{self.key}: {self.used}"
