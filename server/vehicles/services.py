"""Vehicles: found or made, changed, their odometer read."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction
from django.http import Http404

from accounts import policy
from amber_core.quantities import parse
from amber_core.words import say
from records.writing import Writing
from shared.refusals import Conflict, Refusal
from stores.models import AxleFamily, Gearbox, SheetPart, TransferCase
from stores.services import family_by_code
from vehicles.models import PLACES, SHEET_FOR, Assembly, OdometerReading, Place, Vehicle

FARTHEST_KM = 5_000_000.0
_FITTED = ((Place.GEARBOX.value, Gearbox.objects), (Place.TRANSFER.value, TransferCase.objects))
"""What the Stores know by a code that stands on the vehicle, in the field named as the place is."""


def find_vehicle(vehicle_id: UUID) -> Vehicle:
    """The vehicle with its assemblies and odometer.

    Raises
    ------
    Http404
        When there is none.
    """
    wanted = ("assemblies__family", "assemblies__works__gear_sets", "odometer")
    found = Vehicle.objects.prefetch_related(*wanted).filter(pk=vehicle_id).first()
    if found is None:
        raise Http404
    return found


def make_vehicle(*, vehicle_id: UUID | None, owner: str, name: str, layout: str, **more: Any) -> Vehicle:
    """A vehicle with the assemblies that its layout has; within the caller's transaction."""
    vehicle = Vehicle(owner=owner, name=name, layout=layout, **more)
    if vehicle_id is not None:
        vehicle.pk = vehicle_id
    vehicle.save(force_insert=True)
    fit_assemblies(vehicle)
    return vehicle


def fit_assemblies(vehicle: Vehicle) -> None:
    """Every place of the layout has its assembly; one that was worked on stays, whatever the layout says."""
    present = set(vehicle.assemblies.values_list("place", flat=True))
    Assembly.objects.bulk_create(Assembly(vehicle=vehicle, place=place) for place in PLACES[vehicle.layout] if place not in present)
    vehicle.assemblies.exclude(place__in=PLACES[vehicle.layout]).filter(works__isnull=True).delete()


def names_fitted(vehicle: Vehicle) -> dict[str, str]:
    """By place, what the Stores call the gearbox and transfer case that are in the vehicle, where they are known."""
    codes = [(place, known, getattr(vehicle, place)) for place, known in _FITTED if getattr(vehicle, place)]
    return {place: name for place, known, code in codes for name in known.filter(code=code).values_list("name", flat=True)}


def teeth_in(assembly: Assembly) -> str | None:
    """The gear set that was last identified in an assembly, as pinion/ring."""
    records = [record for work in assembly.works.all() for record in work.gear_sets.all()]
    last = max(records, key=lambda record: (record.at, record.pk), default=None)
    return None if last is None else f"{last.pinion_teeth}/{last.ring_teeth}"


@transaction.atomic
def create_vehicle(writing: Writing, *, vehicle_id: UUID, owner: str, name: str, layout: str, registration: str, note: str) -> Vehicle:
    """A vehicle of its own, without a job."""
    policy.require(writing.by, "edit_job")
    return make_vehicle(vehicle_id=vehicle_id, owner=owner, name=name, layout=layout, registration=registration, note=note)


@transaction.atomic
def edit_vehicle(writing: Writing, *, vehicle_id: UUID, version: int, changes: dict[str, Any]) -> Vehicle:
    """Change what is written on a vehicle, if nobody else has since it was read.

    Raises
    ------
    Conflict
        When the version has moved on.
    """
    policy.require(writing.by, "edit_job")
    vehicle = Vehicle.objects.select_for_update().filter(pk=vehicle_id).first()
    if vehicle is None:
        raise Http404
    if vehicle.version != version:
        raise Conflict(say("Somebody else changed this vehicle while you were editing it. Choose which version to keep."), code="conflict")
    _check_fitted(changes)
    change(vehicle, changes)
    return vehicle


def _check_fitted(changes: dict[str, Any]) -> None:
    for field, known in _FITTED:
        code = changes.get(field)
        if code and not known.filter(code=code).exists():
            raise Refusal(say("The Stores have nothing with the code “{code}”.", code=code), field=field)


def change(vehicle: Vehicle, changes: dict[str, Any]) -> None:
    """Set fields and count the version up when anything is another; the vehicle's jobs are found by what it is called now."""
    different = {name: value for name, value in changes.items() if getattr(vehicle, name) != value}
    if not different:
        return
    for name, value in different.items():
        setattr(vehicle, name, value)
    vehicle.version += 1
    vehicle.save()
    if "layout" in different:
        fit_assemblies(vehicle)
    for job in vehicle.jobs.all():
        job.vehicle = vehicle
        type(job).objects.filter(pk=job.pk).update(search=job.searched)


def family_for(place: str, code: str) -> AxleFamily:
    """The family of that code, for this place.

    Raises
    ------
    Refusal
        When the Stores have none, or its sheet is for another part.
    """
    family = family_by_code(code)
    if SHEET_FOR.get(place) != family.part:
        text = say("The sheet of {family} is for another part: {part}.", family=family.name, part=SheetPart(family.part).label)
        raise Refusal(text, code="does_not_fit", field="family")
    return family


@transaction.atomic
def set_family(writing: Writing, *, vehicle_id: UUID, place: str, code: str) -> Vehicle:
    """Which family an assembly is of, as it is known now; work that was begun keeps its own sheet."""
    policy.require(writing.by, "edit_job")
    changed = Assembly.objects.filter(vehicle_id=vehicle_id, place=place).update(family=family_for(place, code))
    if not changed:
        raise Refusal(say("This vehicle has no such assembly."), code="not_found", field="place")
    return find_vehicle(vehicle_id)


@transaction.atomic
def read_odometer(writing: Writing, *, vehicle_id: UUID, typed: str, sure: bool = False) -> Vehicle:
    """How far it has run; a bare number is in kilometres.

    Raises
    ------
    Refusal, InvalidInput
        For what no odometer shows.
    """
    policy.require(writing.by, "record")
    if not Vehicle.objects.filter(pk=vehicle_id).exists():
        raise Http404
    log_odometer(writing, vehicle_id, typed, sure=sure)
    return find_vehicle(vehicle_id)


def log_odometer(
    writing: Writing, vehicle_id: UUID, typed: str, *, follows: bool = False, sure: bool = False, field: str = "typed"
) -> None:
    """Append to the odometer's log; `follows` when it is part of another write, `sure` when one that runs backwards was asked about.

    Raises
    ------
    Refusal, InvalidInput
        For what no odometer shows; `odometer_backwards` where the last one was higher.
    """
    read = parse(typed, dimension="distance", unit="km", field=field)
    if not 0.0 <= read.value <= FARTHEST_KM:
        raise Refusal(say("Odometer must be 0 to 5 000 000 km. Check what was typed."), field=field)
    last = OdometerReading.objects.filter(vehicle_id=vehicle_id).order_by("at", "id").last()
    if last is not None and read.value < last.km and not sure:
        text = say(
            "The odometer was {last:.0f} km before, and {now:.0f} km is less. Check the figure. Record it anyway if it was replaced.",
            last=last.km,
            now=read.value,
        )
        raise Refusal(text, code="odometer_backwards", field=field)
    row = writing.also() if follows else writing.row()
    OdometerReading.objects.create(vehicle_id=vehicle_id, km=read.value, typed=read.text[:40], **row)


def place_of(end: str) -> Place:
    """The assembly of an end."""
    return Place.FRONT_AXLE if end == "front" else Place.REAR_AXLE
