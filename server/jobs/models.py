"""A job: one visit of a vehicle, with its complaint, what it waits for, and how its driveline was found."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models import F, Q
from django.utils import timezone

from accounts.models import of_shop
from amber_core.words import say
from shared.models import Record, one_of
from shared.scope import EVERY, OfShop, shop_now
from vehicles.models import AxleEnd, Place, Vehicle


class Use(models.TextChoices):
    ROAD = "road", say("Road")
    TOWING = "towing", say("Towing")
    OFF_ROAD = "off_road", say("Off-road")
    RAIL = "rail", say("Road and rail")
    SHORE = "shore", say("Shore and slipway")


class JobState(models.TextChoices):
    BOOKED = "booked", say("Booked")
    IN_WORK = "in_work", say("In work")
    WAITING = "waiting", say("Waiting")
    TO_SIGN = "to_sign", say("Ready to sign")
    DONE = "done", say("Signed off")


class WaitsFor(models.TextChoices):
    NOTHING = "nothing", say("Nothing")
    PARTS = "parts", say("Parts")
    CURE = "cure", say("Sealant to cure")
    COOL_DOWN = "cool_down", say("Cool-down")
    CUSTOMER = "customer", say("The customer")
    SIGN_OFF = "sign_off", say("Sign-off")


class StationState(models.TextChoices):
    NOT_LOOKED_AT = "not_looked_at", say("Not checked")
    IN_WORK = "in_work", say("In work")
    GOOD = "good", say("Good")
    FAULT = "fault", say("Fault")


class JobQuerySet(models.QuerySet["Job"]):
    def for_floor(self) -> JobQuerySet:
        """What the Floor lists: what can be worked on now first, the latest touched first in each state."""
        every = shop_now() is EVERY
        return (
            self.select_related("vehicle", *(["shop"] if every else []))
            .only(
                "id",
                "number",
                "customer",
                "vehicle__name",
                "complaint",
                "state",
                "waits_for",
                "waits_note",
                "next_action",
                "updated_at",
                *(["shop__name"] if every else []),
            )
            .order_by("floor_order", "-updated_at", "id")
        )


FLOOR_ORDER = {JobState.TO_SIGN: 0, JobState.IN_WORK: 1, JobState.WAITING: 2, JobState.BOOKED: 3, JobState.DONE: 4}


class Job(models.Model):
    """One visit. Its id is made by the client, so that a retry makes no second job.

    `version` counts changes of the card alone; state and next action follow from its pieces of work. `search` is what the Floor looks in.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    shop = of_shop()
    number = models.PositiveIntegerField(unique=True)
    vehicle = models.ForeignKey(Vehicle, on_delete=models.PROTECT, related_name="jobs")
    customer = models.CharField(max_length=200)
    complaint = models.CharField(max_length=2000)
    use = models.CharField(max_length=20, choices=Use)
    use_note = models.CharField(max_length=2000, blank=True)
    promised_on = models.DateField(null=True, blank=True)
    state = models.CharField(max_length=20, choices=JobState, default=JobState.BOOKED)
    floor_order = models.PositiveSmallIntegerField(default=FLOOR_ORDER[JobState.BOOKED])
    waits_for = models.CharField(max_length=20, choices=WaitsFor, default=WaitsFor.NOTHING)
    waits_note = models.CharField(max_length=200, blank=True)
    next_action = models.CharField(max_length=800)
    search = models.CharField(max_length=700, blank=True)
    version = models.PositiveIntegerField(default=1)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    created_by_name = models.CharField(max_length=120)
    created_at = models.DateTimeField(default=timezone.now)
    updated_at = models.DateTimeField(default=timezone.now)
    signed_off_at = models.DateTimeField(null=True, blank=True)
    imported_by_name = models.CharField(max_length=120, blank=True)
    imported_at = models.DateTimeField(null=True, blank=True)
    imported_note = models.CharField(max_length=200, blank=True)

    objects = OfShop.from_queryset(JobQuerySet)()

    class Meta:
        indexes = [
            models.Index(fields=["floor_order", "-updated_at", "id"], name="job_floor_order"),
            models.Index(fields=["shop", "floor_order", "-updated_at", "id"], name="job_floor_order_of_shop"),
            models.Index(fields=["shop", "state", "-updated_at", "id"], name="job_by_state"),
            GinIndex(OpClass("search", name="gin_trgm_ops"), name="job_search"),
            models.Index(
                fields=["promised_on", "number"],
                name="job_promised",
                condition=Q(signed_off_at__isnull=True, promised_on__isnull=False),
            ),
        ]
        constraints = [
            one_of("use", Use, "job_use_known"),
            one_of("state", JobState, "job_state_known"),
            one_of("waits_for", WaitsFor, "job_waits_for_known"),
            models.CheckConstraint(condition=~Q(customer="") & ~Q(complaint=""), name="job_says_whose_why"),
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

    @property
    def searched(self) -> str:
        """What the Floor's search looks in: number, customer, vehicle, its number plate."""
        return " ".join([str(self.number), self.customer, self.vehicle.name, self.vehicle.registration]).lower()[:700]


class Station(models.Model):
    """A part of the driveline on the job's map, as it is now; `version` counts what was said of it."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="stations")
    place = models.CharField(max_length=20, choices=Place)
    state = models.CharField(max_length=20, choices=StationState, default=StationState.NOT_LOOKED_AT)
    note = models.CharField(max_length=200, blank=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [
            one_of("place", Place, "station_place_known"),
            one_of("state", StationState, "station_state_known"),
            models.UniqueConstraint(fields=["job", "place"], name="station_once_per_job"),
        ]

    def __str__(self) -> str:
        return f"{self.get_place_display()}: {self.get_state_display()}"


class StationRecord(Record):
    """What was said of a part of the driveline, every time; the latest is the station's own."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="station_records")
    place = models.CharField(max_length=20, choices=Place)
    state = models.CharField(max_length=20, choices=StationState)
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["id"]
        constraints = [one_of("place", Place, "station_record_place_known"), one_of("state", StationState, "station_record_state_known")]

    def __str__(self) -> str:
        return f"{self.get_place_display()}: {self.get_state_display()}"


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
