"""Joints that were felt and looked at. Written once."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from amber_core.words import say
from shared.models import Record, one_of
from work.models import Work


class ShaftName(models.TextChoices):
    REAR = "rear", say("Rear driveline")
    FRONT = "front", say("Front driveline")


class Decision(models.TextChoices):
    REUSE = "reuse", say("Reuse")
    MEND = "mend", say("Mend")
    REPLACE = "replace", say("Replace")
    LOOK = "look", say("Look further")


class JointInspection(Record):
    """A joint by feel and by eye, what the rules made of it, and what was decided; another decision than proposed has a note."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="joint_inspections")
    shaft = models.CharField(max_length=10, choices=ShaftName)
    joint = models.PositiveSmallIntegerField()
    felt = models.JSONField()
    proposed = models.CharField(max_length=10, choices=Decision)
    decision = models.CharField(max_length=10, choices=Decision)
    note = models.CharField(max_length=500, blank=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            one_of("shaft", ShaftName, "joint_inspection_shaft"),
            one_of("proposed", Decision, "joint_inspection_proposed"),
            one_of("decision", Decision, "joint_inspection_decision"),
            models.CheckConstraint(condition=Q(joint__gte=1, joint__lte=4), name="joint_inspection_joint"),
            models.CheckConstraint(condition=Q(proposed=models.F("decision")) | ~Q(note=""), name="joint_inspection_reason"),
        ]

    def __str__(self) -> str:
        return f"joint {self.joint}: {self.decision}"
