"""A vehicle, its assemblies and its odometer: what stays when a job is done."""

from __future__ import annotations

import uuid
from typing import ClassVar, Self

from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models import Q
from django.db.models.functions import Upper
from django.utils import timezone

from accounts.models import of_shop
from amber_core.words import say
from shared.models import Record, one_of
from shared.scope import OfShop
from stores.models import AxleFamily, SheetPart


class Layout(models.TextChoices):
    REAR = "rear_drive", say("Rear-wheel drive")
    FRONT = "front_drive", say("Front-wheel drive")
    FOUR = "four_wheel_drive", say("Four-wheel drive with a transfer case")
    ALL = "all_wheel_drive", say("All-wheel drive with a rear final drive")
    TRACTOR = "tractor", say("Tractor")
    QUAD = "quad", say("Quad")
    RAIL = "rail", say("Road-rail vehicle")


class AxleEnd(models.TextChoices):
    FRONT = "front", say("Front axle")
    REAR = "rear", say("Rear axle")


class Place(models.TextChoices):
    VEHICLE = "vehicle", say("Whole vehicle")
    ENGINE = "engine", say("Engine")
    GEARBOX = "gearbox", say("Gearbox")
    TRANSFER = "transfer_case", say("Transfer case")
    FRONT_SHAFT = "front_shaft", say("Front propshaft")
    REAR_SHAFT = "rear_shaft", say("Rear propshaft")
    FRONT_AXLE = "front_axle", say("Front axle")
    REAR_AXLE = "rear_axle", say("Rear axle")


_DRIVE = [Place.ENGINE, Place.GEARBOX]
_BOTH = [Place.FRONT_SHAFT, Place.REAR_SHAFT, Place.FRONT_AXLE, Place.REAR_AXLE]
PLACES: dict[str, list[Place]] = {
    Layout.REAR: [*_DRIVE, Place.REAR_SHAFT, Place.REAR_AXLE],
    Layout.FRONT: [*_DRIVE, Place.FRONT_AXLE],
    Layout.FOUR: [*_DRIVE, Place.TRANSFER, *_BOTH],
    Layout.ALL: [*_DRIVE, Place.REAR_SHAFT, Place.FRONT_AXLE, Place.REAR_AXLE],
    Layout.TRACTOR: [*_DRIVE, Place.FRONT_SHAFT, Place.FRONT_AXLE, Place.REAR_AXLE],
    Layout.QUAD: [*_DRIVE, *_BOTH],
    Layout.RAIL: [*_DRIVE, *_BOTH],
}


def has_place(layout: str, place: str) -> bool:
    """Whether work can be booked there on a vehicle of this layout."""
    return place == Place.VEHICLE or place in PLACES[layout]


BOTH_DRIVEN = (Layout.FOUR, Layout.ALL, Layout.TRACTOR, Layout.QUAD, Layout.RAIL)
AXLE_OF = {AxleEnd.FRONT: Place.FRONT_AXLE, AxleEnd.REAR: Place.REAR_AXLE}
END_OF = {place: end for end, place in AXLE_OF.items()}

SHEET_FOR: dict[str, str] = {
    Place.FRONT_AXLE: SheetPart.AXLE,
    Place.REAR_AXLE: SheetPart.AXLE,
    Place.TRANSFER: SheetPart.TRANSFER_CASE,
    Place.FRONT_SHAFT: SheetPart.PROPSHAFT,
    Place.REAR_SHAFT: SheetPart.PROPSHAFT,
}
"""What a sheet must be for to belong to a place."""


class Vehicle(models.Model):
    """One vehicle; its id is made by the client. `version` counts changes of what is written on it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    shop = of_shop()
    owner = models.CharField(max_length=200)
    name = models.CharField(max_length=200)
    registration = models.CharField(max_length=40, blank=True)
    layout = models.CharField(max_length=20, choices=Layout)
    mass_kg = models.FloatField(null=True, blank=True)
    gearbox = models.SlugField(max_length=60, blank=True)
    """Code of the gearbox that is in, as the Stores have it; so with the transfer case."""
    transfer_case = models.SlugField(max_length=60, blank=True)
    note = models.CharField(max_length=2000, blank=True)
    version = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(default=timezone.now)

    objects: ClassVar[OfShop[Self]] = OfShop()

    class Meta:
        ordering = ["name", "id"]
        indexes = [
            GinIndex(
                OpClass(Upper("name"), name="gin_trgm_ops"), OpClass(Upper("owner"), name="gin_trgm_ops"), name="vehicle_name_and_owner"
            )
        ]
        constraints = [
            one_of("layout", Layout, "vehicle_layout_known"),
            models.CheckConstraint(condition=~Q(owner="") & ~Q(name=""), name="vehicle_says_whose_what"),
            models.CheckConstraint(condition=Q(mass_kg__isnull=True) | Q(mass_kg__gte=50, mass_kg__lte=200_000), name="vehicle_mass_sane"),
        ]

    def __str__(self) -> str:
        return self.name


class Assembly(models.Model):
    """A part of a vehicle's driveline, with the family that it is known to be of."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
    vehicle = models.ForeignKey(Vehicle, on_delete=models.CASCADE, related_name="assemblies")
    place = models.CharField(max_length=20, choices=Place)
    family = models.ForeignKey(AxleFamily, null=True, blank=True, on_delete=models.PROTECT, related_name="assemblies")
    note = models.CharField(max_length=2000, blank=True)

    class Meta:
        verbose_name_plural = "assemblies"
        constraints = [
            one_of("place", Place, "assembly_place_known"),
            models.UniqueConstraint(fields=["vehicle", "place"], name="assembly_once_per_vehicle"),
        ]

    def __str__(self) -> str:
        return f"{self.vehicle}: {self.get_place_display()}"


class OdometerReading(Record):
    """How far the vehicle had run, [km]; `at` is when it was read."""

    vehicle = models.ForeignKey(Vehicle, on_delete=models.PROTECT, related_name="odometer")
    km = models.FloatField()
    typed = models.CharField(max_length=40)

    class Meta:
        ordering = ["at", "id"]
        constraints = [models.CheckConstraint(condition=Q(km__gte=0, km__lte=5_000_000), name="odometer_sane")]

    def __str__(self) -> str:
        return f"{self.vehicle}: {self.km:.0f} km"
