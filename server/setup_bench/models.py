"""Trials of a ring and pinion and the readings taken in each."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from jobs.models import Job
from shared.models import Record


class TrialQuerySet(models.QuerySet["Trial"]):
    def with_readings(self) -> TrialQuerySet:
        """Trials of a job in order with all that was read, struck out or not."""
        return self.prefetch_related("readings__strike_out").order_by("number")


class Trial(Record):
    """What stands in the housing: stacks of shims as [[thickness_mm, count], ...] or adjuster positions in notches from the first."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="trials")
    number = models.PositiveSmallIntegerField()
    ring_side_pieces = models.JSONField(null=True)
    far_side_pieces = models.JSONField(null=True)
    ring_side_notches = models.SmallIntegerField(null=True)
    far_side_notches = models.SmallIntegerField(null=True)
    expected_backlash_mm = models.FloatField(null=True)
    note = models.CharField(max_length=200, blank=True)

    objects = TrialQuerySet.as_manager()

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["job", "number"], name="trial_number_once_per_job"),
            models.CheckConstraint(
                condition=Q(ring_side_pieces__isnull=False, far_side_pieces__isnull=False, ring_side_notches__isnull=True)
                | Q(ring_side_notches__isnull=False, far_side_notches__isnull=False, ring_side_pieces__isnull=True),
                name="trial_has_shims_or_notches",
            ),
        ]

    def __str__(self) -> str:
        return f"Trial {self.number}"


class Reading(Record):
    """Backlash at one clock position: the value in mm, and as it was typed."""

    trial = models.ForeignKey(Trial, on_delete=models.PROTECT, related_name="readings")
    angle_deg = models.FloatField()
    value_mm = models.FloatField()
    typed = models.CharField(max_length=40)
    unit = models.CharField(max_length=20)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=Q(angle_deg__gte=0, angle_deg__lt=360), name="reading_angle_on_the_circle"),
            models.CheckConstraint(condition=Q(value_mm__gte=0, value_mm__lte=10), name="reading_value_sane"),
        ]

    def __str__(self) -> str:
        return f"{self.value_mm:.3f} mm at {self.angle_deg:.0f}"


class StrikeOut(Record):
    """A reading that no longer counts, and why; the reading itself stays."""

    reading = models.OneToOneField(Reading, on_delete=models.PROTECT, related_name="strike_out")
    reason = models.CharField(max_length=200)

    class Meta:
        constraints = [models.CheckConstraint(condition=~Q(reason=""), name="strike_out_has_a_reason")]

    def __str__(self) -> str:
        return self.reason
