"""Kept answers of the ratio desk, and links that show one of them to somebody without a login. Written once."""

from __future__ import annotations

from django.db import models
from django.db.models import F, Q

from jobs.models import Job
from shared.models import Record


class RatioResult(Record):
    """What was asked and what came out, with the version that worked it out; an old one is shown as it was."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="ratio_results")
    title = models.CharField(max_length=200)
    inputs = models.JSONField()
    answer = models.JSONField()
    engine_version = models.CharField(max_length=20)

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=~Q(title="") & ~Q(engine_version=""), name="ratio_result_is_named")]

    def __str__(self) -> str:
        return self.title


class RatioLink(Record):
    """A link to one result; whoever has it sees that page alone, until it expires. Only the hash of its token is stored."""

    result = models.ForeignKey(RatioResult, on_delete=models.PROTECT, related_name="links")
    token_hash = models.CharField(max_length=64, unique=True)
    expires_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=Q(expires_at__gt=F("at")), name="ratio_link_expires_later")]

    def __str__(self) -> str:
        return f"{self.result} until {self.expires_at:%Y-%m-%d}"
