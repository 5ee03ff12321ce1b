"""Sign-offs: who answers for the job."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from jobs.models import Job
from shared.models import Record


class SignOff(Record):
    """Somebody answers for the job as it stood; `verdict` keeps the final trial's."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="sign_offs")
    statement = models.CharField(max_length=400)
    verdict = models.CharField(max_length=10)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.job}: signed by {self.by_name}"


class Withdrawal(Record):
    """A sign-off taken back, and why; the job is open again."""

    sign_off = models.OneToOneField(SignOff, on_delete=models.PROTECT, related_name="withdrawal")
    reason = models.CharField(max_length=200)

    class Meta:
        constraints = [models.CheckConstraint(condition=~Q(reason=""), name="withdrawal_has_a_reason")]

    def __str__(self) -> str:
        return self.reason
