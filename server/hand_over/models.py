"""A hand-over: the one page that the customer takes home, as it was given, and what comes due after it."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from amber_core.words import say
from jobs.models import Job
from shared.models import Record, one_of
from vehicles.models import Vehicle


class HandOver(Record):
    """The page as it was handed over: `text` is its content as JSON, never changed. The latest of a job counts."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="hand_overs")
    odometer_km = models.FloatField()
    received_by = models.CharField(max_length=120)
    text = models.TextField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=Q(odometer_km__gte=0, odometer_km__lte=5_000_000), name="hand_over_odometer_sane"),
            models.CheckConstraint(condition=~Q(received_by="") & ~Q(text=""), name="hand_over_is_to_somebody"),
        ]

    def __str__(self) -> str:
        return f"{self.job.number}, to {self.received_by}"

    @property
    def by_file(self) -> bool:
        """Whether only an imported file says so: nobody gave it here."""
        return self.by_id is None


class FollowUp(models.Model):
    """One thing that comes due after a hand-over, by day, by odometer [km], or both; made with it, and never changed."""

    hand_over = models.ForeignKey(HandOver, on_delete=models.PROTECT, related_name="follow_ups")
    vehicle = models.ForeignKey(Vehicle, on_delete=models.PROTECT, related_name="follow_ups")
    code = models.SlugField(max_length=40)
    text = models.CharField(max_length=600)
    kind = models.CharField(max_length=10)
    at_km = models.FloatField(null=True)
    from_km = models.FloatField(null=True)
    until_km = models.FloatField(null=True)
    on_date = models.DateField(null=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["on_date"], name="follow_up_by_day"), models.Index(fields=["vehicle"], name="follow_up_of_vehicle")]
        constraints = [
            models.UniqueConstraint(fields=["hand_over", "code"], name="follow_up_once"),
            models.CheckConstraint(condition=Q(kind__in=("do", "limit", "check")), name="follow_up_kind_known"),
        ]

    def __str__(self) -> str:
        return f"{self.vehicle}: {self.code}"


class Ended(models.TextChoices):
    DONE = "done", say("Done")
    MISSED = "missed", say("Missed")


class FollowUpEnd(Record):
    """A follow-up was done, or the customer did not come."""

    follow_up = models.OneToOneField(FollowUp, on_delete=models.PROTECT, related_name="end")
    outcome = models.CharField(max_length=10, choices=Ended)
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints = [one_of("outcome", Ended, "follow_up_end_known")]

    def __str__(self) -> str:
        return f"{self.follow_up}: {self.outcome}"
