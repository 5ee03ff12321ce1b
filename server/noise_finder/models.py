"""Recorded drives and what came of them. What was recorded is written once."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from amber_core.words import say
from shared.models import Record, one_of
from work.models import Work


class Source(models.TextChoices):
    FILE = "file", say("A file")
    SIMULATED = "simulated", say("The simulated recorder")


class ReadingState(models.TextChoices):
    QUEUED = "queued", say("Waiting to be read")
    READING = "reading", say("Being read")
    DONE = "done", say("Read")
    FAILED = "failed", say("Could not be read")


class Recording(Record):
    """A recorded drive as it came: its name, its size, and the road speed as it was told where the file has none [km/h]."""

    work = models.ForeignKey(Work, on_delete=models.PROTECT, related_name="recordings")
    name = models.CharField(max_length=200)
    source = models.CharField(max_length=10, choices=Source)
    size_bytes = models.PositiveIntegerField()
    from_kmh = models.FloatField()
    to_kmh = models.FloatField()

    class Meta:
        ordering = ["id"]
        constraints = [
            one_of("source", Source, "recording_source"),
            models.CheckConstraint(condition=Q(from_kmh__gt=0, from_kmh__lte=500, to_kmh__gt=0, to_kmh__lte=500), name="recording_speed"),
        ]

    def __str__(self) -> str:
        return self.name


class RecordingChunk(models.Model):
    """A piece of the file, in its order."""

    recording = models.ForeignKey(Recording, on_delete=models.PROTECT, related_name="chunks")
    index = models.PositiveIntegerField()
    content = models.BinaryField()

    class Meta:
        ordering = ["recording", "index"]
        constraints = [models.UniqueConstraint(fields=["recording", "index"], name="recording_chunk_once")]

    def __str__(self) -> str:
        return f"{self.recording_id}, {self.index}"


class RecordingReading(models.Model):
    """How far the reading of a file has come, and its order chart once it is read. The only rows here that change."""

    recording = models.OneToOneField(Recording, on_delete=models.PROTECT, related_name="reading")
    state = models.CharField(max_length=10, choices=ReadingState, default=ReadingState.QUEUED)
    bytes_read = models.PositiveIntegerField(default=0)
    error = models.CharField(max_length=500, blank=True)
    notes = models.JSONField(default=list)
    chart = models.JSONField(null=True)

    class Meta:
        constraints = [
            one_of("state", ReadingState, "recording_reading_state"),
            models.CheckConstraint(condition=Q(state="done", chart__isnull=False) | ~Q(state="done"), name="recording_done_has_chart"),
            models.CheckConstraint(condition=~Q(state="failed") | ~Q(error=""), name="recording_failed_says_why"),
        ]

    def __str__(self) -> str:
        return f"{self.recording_id}: {self.state}"


class Kind(models.TextChoices):
    FELT = "felt", say("What was felt")
    RECORDED = "recorded", say("What was recorded")
