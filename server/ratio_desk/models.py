"""Links that show one kept answer of the ratio desk to somebody without a login. Written once."""

from __future__ import annotations

from django.db import models
from django.db.models import F, Q

from shared.models import Record
from work.models import KeptAnswer


class RatioLink(Record):
    """A link to one result; whoever has it sees that page alone, until it expires. Only the hash of its token is stored."""

    result = models.ForeignKey(KeptAnswer, on_delete=models.PROTECT, related_name="ratio_links")
    token_hash = models.CharField(max_length=64, unique=True)
    expires_at = models.DateTimeField()

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=Q(expires_at__gt=F("at")), name="ratio_link_expires_later")]

    def __str__(self) -> str:
        return f"{self.result} until {self.expires_at:%Y-%m-%d}"
