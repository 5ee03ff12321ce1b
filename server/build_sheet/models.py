"""Sign-offs: who answers for a piece of work, and the document that they signed."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from amber_core.words import say
from shared.models import Record, one_of
from work.models import Work


class Origin(models.TextChoices):
    HERE = "here", say("signed here")
    FILE = "file", say("said by the file")


class SignOff(Record):
    """Somebody answers for the work as it stood; `verdict` keeps the final trial's. One that a file brought is not this shop's."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="sign_offs")
    statement = models.CharField(max_length=400)
    verdict = models.CharField(max_length=10)
    origin = models.CharField(max_length=10, choices=Origin, default=Origin.HERE)

    class Meta:
        ordering = ["id"]
        constraints = [
            one_of("origin", Origin, "sign_off_origin_known"),
            models.CheckConstraint(condition=Q(origin="file") | Q(by__isnull=False), name="sign_off_here_has_a_login"),
        ]

    def __str__(self) -> str:
        return f"{self.work}: signed by {self.by_name}"


class SignOffDocument(models.Model):
    """What was signed, as text that never changes: its data in JSON, its SHA-256, the core's version.

    `reconstructed`: made from the records after the sign-off, which is older than documents are.
    """

    sign_off = models.OneToOneField(SignOff, primary_key=True, on_delete=models.PROTECT, related_name="document")
    text = models.TextField()
    text_hash = models.CharField(max_length=64)
    core_version = models.CharField(max_length=20)
    reconstructed = models.BooleanField(default=False)

    class Meta:
        constraints = [models.CheckConstraint(condition=~Q(text="") & ~Q(text_hash=""), name="sign_off_document_says_something")]

    def __str__(self) -> str:
        return f"{self.sign_off}, {self.text_hash[:12]}"


class Withdrawal(Record):
    """A sign-off taken back, and why; the work is open again."""

    sign_off = models.OneToOneField(SignOff, on_delete=models.PROTECT, related_name="withdrawal")
    reason = models.CharField(max_length=200)

    class Meta:
        constraints = [models.CheckConstraint(condition=~Q(reason=""), name="withdrawal_has_a_reason")]

    def __str__(self) -> str:
        return self.reason
