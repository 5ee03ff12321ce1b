"""Vehicles over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field, StringConstraints

from amber_core.words import Said
from shared.schemas import Edit, Paragraph, Plain, Typed, Written

LayoutName = Literal["rear_drive", "front_drive", "four_wheel_drive", "all_wheel_drive", "tractor", "quad", "rail"]
AxleName = Literal["front", "rear"]
PlaceName = Literal["vehicle", "engine", "gearbox", "transfer_case", "front_shaft", "rear_shaft", "front_axle", "rear_axle"]
Named = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
Code = Annotated[str, StringConstraints(strip_whitespace=True, max_length=60, pattern=r"^[a-z0-9-]*$")]
"""Of a gearbox or transfer case in the Stores; empty where it is not known."""
Registration = Annotated[str, StringConstraints(strip_whitespace=True, max_length=40)]


class VehicleIn(Written):
    """A vehicle without a job; `id` is made by the client."""

    id: UUID
    owner: Named
    name: Named
    layout: LayoutName
    registration: Registration = ""
    note: Paragraph = ""


class VehicleEdit(Edit):
    """Only what is given changes."""

    version: int
    owner: Named | None = None
    name: Named | None = None
    layout: LayoutName | None = None
    registration: Registration | None = None
    mass_kg: Annotated[float, Field(ge=50, le=200_000, allow_inf_nan=False)] | None = None
    note: Paragraph | None = None
    gearbox: Code | None = None
    transfer_case: Code | None = None


class OdometerIn(Written):
    """As it is read; a bare number is in kilometres. `sure` records one that is less than the last."""

    typed: Typed
    sure: bool = False


class AssemblyIn(Edit):
    """Which family an assembly is of."""

    family: Named


class AssemblyOut(Plain):
    """A part of the driveline: its family (of a gearbox or transfer case its name) where known, and the teeth last identified in it."""

    place: PlaceName
    label: Said
    family: str | None
    family_name: str | None
    teeth: str | None
    note: str


class OdometerOut(Plain):
    km: float
    by_name: str
    at: datetime


class VehicleRowOut(Plain):
    id: UUID
    name: str
    shop: str
    """The workshop's name where every workshop is looked at; else empty."""
    owner: str
    registration: str
    layout: LayoutName
    layout_label: Said
    jobs: int
    last_km: float | None


class VehiclesOut(Plain):
    """A page of vehicles; `more` when another follows."""

    vehicles: list[VehicleRowOut]
    page: int
    more: bool


class VehicleOut(Plain):
    id: UUID
    version: int
    name: str
    owner: str
    registration: str
    layout: LayoutName
    layout_label: Said
    mass_kg: float | None
    gearbox: str
    transfer_case: str
    note: str
    assemblies: list[AssemblyOut]
    odometer: list[OdometerOut]
