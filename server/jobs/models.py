"""A job: one vehicle's work, its driveline, its gear set and its run sheet."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.db.models import F, Q
from django.utils import timezone

from shared.models import Record, one_of
from stores.models import AxleFamily


class Layout(models.TextChoices):
    REAR = "rear_drive", "Rear-wheel drive"
    FOUR = "four_wheel_drive", "Four-wheel drive with a transfer case"


class AxleEnd(models.TextChoices):
    FRONT = "front", "Front axle"
    REAR = "rear", "Rear axle"


class Use(models.TextChoices):
    ROAD = "road", "Road"
    TOWING = "towing", "Towing"
    OFF_ROAD = "off_road", "Off the road"
    RAIL = "rail", "Road and rail"
    SHORE = "shore", "Shore and slipway"


class JobState(models.TextChoices):
    BOOKED = "booked", "Booked"
    IN_WORK = "in_work", "In work"
    WAITING = "waiting", "Waiting"
    TO_SIGN = "to_sign", "Ready to sign"
    DONE = "done", "Signed off"


class WaitsFor(models.TextChoices):
    NOTHING = "nothing", "Nothing"
    PARTS = "parts", "Parts"
    CURE = "cure", "Sealant to cure"
    COOL_DOWN = "cool_down", "Cool-down"
    CUSTOMER = "customer", "The customer"
    SIGN_OFF = "sign_off", "Sign-off"


class Place(models.TextChoices):
    ENGINE = "engine", "Engine"
    GEARBOX = "gearbox", "Gearbox"
    TRANSFER = "transfer_case", "Transfer case"
    FRONT_SHAFT = "front_shaft", "Front shaft"
    REAR_SHAFT = "rear_shaft", "Rear shaft"
    FRONT_AXLE = "front_axle", "Front axle"
    REAR_AXLE = "rear_axle", "Rear axle"


PLACES: dict[str, list[Place]] = {
    Layout.REAR: [Place.ENGINE, Place.GEARBOX, Place.REAR_SHAFT, Place.REAR_AXLE],
    Layout.FOUR: list(Place),
}


class StationState(models.TextChoices):
    NOT_LOOKED_AT = "not_looked_at", "Not looked at"
    IN_WORK = "in_work", "In work"
    GOOD = "good", "Good"
    FAULT = "fault", "Fault"


class Verdict(models.TextChoices):
    IN = "in", "in"
    EDGE = "edge", "edge"
    OUT = "out", "out"
    UNKNOWN = "unknown", "unknown"


NOT_READ_AFTER_ASSEMBLY = "Nothing has been read after the final assembly yet."


class JobQuerySet(models.QuerySet["Job"]):
    def for_floor(self) -> JobQuerySet:
        """What the Floor lists: what can be worked on now first, the latest touched first in each state."""
        return self.only(
            "id", "number", "customer", "vehicle", "axle", "complaint", "state", "waits_for", "waits_note", "next_action", "updated_at"
        ).order_by("floor_order", "-updated_at", "id")


FLOOR_ORDER = {JobState.TO_SIGN: 0, JobState.IN_WORK: 1, JobState.WAITING: 2, JobState.BOOKED: 3, JobState.DONE: 4}


class Job(models.Model):
    """One vehicle's work. Its id is made by the client, so that a retry makes no second job."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    number = models.PositiveIntegerField(unique=True)
    customer = models.CharField(max_length=200)
    vehicle = models.CharField(max_length=200)
    layout = models.CharField(max_length=20, choices=Layout)
    axle = models.CharField(max_length=10, choices=AxleEnd)
    family = models.ForeignKey(AxleFamily, on_delete=models.PROTECT, related_name="jobs")
    complaint = models.CharField(max_length=2000)
    use = models.CharField(max_length=20, choices=Use)
    use_note = models.CharField(max_length=2000, blank=True)
    state = models.CharField(max_length=20, choices=JobState, default=JobState.BOOKED)
    floor_order = models.PositiveSmallIntegerField(default=FLOOR_ORDER[JobState.BOOKED])
    waits_for = models.CharField(max_length=20, choices=WaitsFor, default=WaitsFor.NOTHING)
    waits_note = models.CharField(max_length=200, blank=True)
    next_action = models.CharField(max_length=200)
    backlash_verdict = models.CharField(max_length=10, choices=Verdict, default=Verdict.UNKNOWN)
    pattern_verdict = models.CharField(max_length=10, choices=Verdict, default=Verdict.UNKNOWN)
    final_missing = models.CharField(max_length=300, default=NOT_READ_AFTER_ASSEMBLY, blank=True)
    version = models.PositiveIntegerField(default=1)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    created_by_name = models.CharField(max_length=120)
    created_at = models.DateTimeField(default=timezone.now)
    updated_at = models.DateTimeField(default=timezone.now)
    signed_off_at = models.DateTimeField(null=True, blank=True)
    imported_by_name = models.CharField(max_length=120, blank=True)
    imported_at = models.DateTimeField(null=True, blank=True)

    objects = JobQuerySet.as_manager()

    class Meta:
        indexes = [
            models.Index(fields=["floor_order", "-updated_at", "id"], name="job_floor_order"),
            models.Index(fields=["state", "-updated_at", "id"], name="job_by_state"),
        ]
        constraints = [
            one_of("layout", Layout, "job_layout_known"),
            one_of("axle", AxleEnd, "job_axle_known"),
            one_of("use", Use, "job_use_known"),
            one_of("state", JobState, "job_state_known"),
            one_of("waits_for", WaitsFor, "job_waits_for_known"),
            one_of("backlash_verdict", Verdict, "job_backlash_verdict_known"),
            one_of("pattern_verdict", Verdict, "job_pattern_verdict_known"),
            models.CheckConstraint(condition=~Q(customer="") & ~Q(vehicle="") & ~Q(complaint=""), name="job_says_whose_what_why"),
            models.CheckConstraint(condition=Q(layout="four_wheel_drive") | Q(axle="rear"), name="job_front_axle_needs_four_wheel_drive"),
            models.CheckConstraint(
                condition=Q(state="done", signed_off_at__isnull=False) | (~Q(state="done") & Q(signed_off_at__isnull=True)),
                name="job_done_means_signed",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.number} {self.vehicle}"

    def put_in_state(self, state: str) -> None:
        """Set the state and its place on the Floor; the caller saves."""
        self.state, self.floor_order = state, FLOOR_ORDER[JobState(state)]


class Station(models.Model):
    """A part of the driveline on the job's map."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="stations")
    place = models.CharField(max_length=20, choices=Place)
    state = models.CharField(max_length=20, choices=StationState, default=StationState.NOT_LOOKED_AT)
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints = [
            one_of("place", Place, "station_place_known"),
            one_of("state", StationState, "station_state_known"),
            models.UniqueConstraint(fields=["job", "place"], name="station_once_per_job"),
        ]

    def __str__(self) -> str:
        return f"{self.get_place_display()}: {self.get_state_display()}"


class GearSetRecord(Record):
    """An identification of the gear set: what was counted and what it gave. The latest one counts."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="gear_sets")
    pinion_teeth = models.PositiveSmallIntegerField()
    ring_teeth = models.PositiveSmallIntegerField()
    question = models.JSONField()
    answer = models.JSONField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=Q(pinion_teeth__gte=3, ring_teeth__gt=F("pinion_teeth")), name="gear_set_teeth_sane")
        ]

    def __str__(self) -> str:
        return f"{self.pinion_teeth}/{self.ring_teeth}"


class AxleFact(Record):
    """What is known of one end of the vehicle: tyre as written, rolling circumference [m], teeth. The latest of an end counts."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="axle_facts")
    end = models.CharField(max_length=10, choices=AxleEnd)
    tyre = models.CharField(max_length=60, blank=True)
    circumference_m = models.FloatField(null=True)
    measured = models.BooleanField(default=False)
    pinion_teeth = models.PositiveSmallIntegerField(null=True)
    ring_teeth = models.PositiveSmallIntegerField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            one_of("end", AxleEnd, "axle_fact_end_known"),
            models.CheckConstraint(
                condition=Q(circumference_m__isnull=True) | Q(circumference_m__gte=0.3, circumference_m__lte=12), name="axle_fact_tyre_sane"
            ),
            models.CheckConstraint(
                condition=Q(pinion_teeth__isnull=True, ring_teeth__isnull=True) | Q(pinion_teeth__gte=3, ring_teeth__gt=F("pinion_teeth")),
                name="axle_fact_teeth_sane",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.get_end_display()}: {self.tyre} {self.pinion_teeth}/{self.ring_teeth}"


class Outcome(models.TextChoices):
    PASSED = "passed", "Passed"
    TAKEN_BACK = "taken_back", "Taken back"


class StepRecord(Record):
    """A step of the run sheet was passed, or that was taken back. The latest row of a step counts."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="step_records")
    step_code = models.SlugField(max_length=40)
    outcome = models.CharField(max_length=20, choices=Outcome)
    entered = models.CharField(max_length=200, blank=True)
    value = models.FloatField(null=True)
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["job", "id"], name="step_record_by_job")]
        constraints = [one_of("outcome", Outcome, "step_outcome_known")]

    def __str__(self) -> str:
        return f"{self.step_code}: {self.outcome}"
