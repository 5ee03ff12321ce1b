"""Vehicles: found, looked at, changed; their odometer."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.db.models import Count, Q
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from records.writing import answered, write
from shared.schemas import ErrorOut
from shared.scope import EVERY, shop_now
from vehicles import services
from vehicles.models import Place, Vehicle
from vehicles.schemas import AssemblyIn, OdometerIn, PlaceName, VehicleEdit, VehicleIn, VehicleOut, VehiclesOut

router = Router(tags=["vehicles"])

PAGE = 40
_REFUSALS = {403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut}


@router.get("/vehicles", response=VehiclesOut, operation_id="vehicles")
def vehicles(
    request: HttpRequest,
    search: Annotated[str, Query(max_length=100)] = "",
    page: Annotated[int, Query(ge=1, le=2000)] = 1,
) -> dict[str, Any]:
    """Vehicles by name; search looks at name, owner and number plate."""
    found = Vehicle.objects.annotate(job_count=Count("jobs")).prefetch_related("odometer").order_by("name", "owner", "id")
    if shop_now() is EVERY:
        found = found.select_related("shop")
    if words := search.strip():
        found = found.filter(Q(name__icontains=words) | Q(owner__icontains=words) | Q(registration__icontains=words))
    rows = list(found[(page - 1) * PAGE : page * PAGE + 1])
    return {"vehicles": [_row(one) for one in rows[:PAGE]], "page": page, "more": len(rows) > PAGE}


def _row(vehicle: Any) -> dict[str, Any]:
    read = list(vehicle.odometer.all())
    plain = {name: getattr(vehicle, name) for name in ("id", "name", "owner", "registration", "layout")}
    last = read[-1].km if read else None
    shop = vehicle.shop.name if shop_now() is EVERY else ""
    return {**plain, "shop": shop, "layout_label": vehicle.get_layout_display(), "jobs": vehicle.job_count, "last_km": last}


def vehicle_out(vehicle: Vehicle) -> dict[str, Any]:
    """What is known of a vehicle; wants `find_vehicle`."""
    order = list(Place)
    fitted = services.names_fitted(vehicle)
    plain = ("id", "version", "name", "owner", "registration", "layout", "mass_kg", "gearbox", "transfer_case", "note")
    return {
        **{name: getattr(vehicle, name) for name in plain},
        "layout_label": vehicle.get_layout_display(),
        "assemblies": [
            {
                "place": one.place,
                "label": one.get_place_display(),
                "family": one.family.code if one.family else None,
                "family_name": one.family.name if one.family else fitted.get(one.place),
                "teeth": services.teeth_in(one),
                "note": one.note,
            }
            for one in sorted(vehicle.assemblies.all(), key=lambda row: order.index(Place(row.place)))
            if one.place != Place.VEHICLE
        ],
        "odometer": list(vehicle.odometer.all()),
    }


@router.get("/vehicles/{uuid:vehicle_id}", response={200: VehicleOut, 404: ErrorOut}, operation_id="vehicle")
def vehicle(request: HttpRequest, vehicle_id: UUID) -> HttpResponse:
    """One vehicle."""
    return answered(VehicleOut, vehicle_out(services.find_vehicle(vehicle_id)))


@router.post("/vehicles", response={201: VehicleOut, **_REFUSALS}, operation_id="vehicle_create")
def vehicle_create(request: HttpRequest, data: VehicleIn) -> HttpResponse:
    """A new vehicle."""
    given = data.fields("id")
    return write(
        request,
        data,
        command="vehicle_create",
        target=data.id,
        do=lambda writing: services.create_vehicle(writing, vehicle_id=data.id, **given),
        show=lambda: vehicle_out(services.find_vehicle(data.id)),
        out=VehicleOut,
    )


@router.patch("/vehicles/{uuid:vehicle_id}", response={200: VehicleOut, **_REFUSALS}, operation_id="vehicle_edit")
def vehicle_edit(request: HttpRequest, vehicle_id: UUID, data: VehicleEdit) -> HttpResponse:
    """Change what is written on a vehicle; 409 when somebody was faster."""
    changes = {field: value for field, value in data.fields("version").items() if value is not None}
    return write(
        request,
        data,
        command="vehicle_edit",
        target=vehicle_id,
        do=lambda writing: services.edit_vehicle(writing, vehicle_id=vehicle_id, version=data.version, changes=changes),
        show=lambda: vehicle_out(services.find_vehicle(vehicle_id)),
        out=VehicleOut,
        status=200,
    )


@router.put("/vehicles/{uuid:vehicle_id}/assemblies/{place}", response={200: VehicleOut, **_REFUSALS}, operation_id="assembly_set")
def assembly_set(request: HttpRequest, vehicle_id: UUID, place: PlaceName, data: AssemblyIn) -> HttpResponse:
    """Which family an assembly is of."""
    return write(
        request,
        data,
        command="assembly_set",
        target=f"{vehicle_id} {place}",
        do=lambda writing: services.set_family(writing, vehicle_id=vehicle_id, place=place, code=data.family),
        show=lambda: vehicle_out(services.find_vehicle(vehicle_id)),
        out=VehicleOut,
        status=200,
    )


@router.post("/vehicles/{uuid:vehicle_id}/odometer", response={201: VehicleOut, **_REFUSALS}, operation_id="odometer_read")
def odometer_read(request: HttpRequest, vehicle_id: UUID, data: OdometerIn) -> HttpResponse:
    """How far it has run."""
    return write(
        request,
        data,
        command="odometer_read",
        target=vehicle_id,
        do=lambda writing: services.read_odometer(writing, vehicle_id=vehicle_id, typed=data.typed, sure=data.sure),
        show=lambda: vehicle_out(services.find_vehicle(vehicle_id)),
        out=VehicleOut,
    )
