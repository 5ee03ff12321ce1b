"""Stores over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from amber_core.words import Said
from shared.schemas import Edit

CarrierMethodName = Literal["side_shims", "cover_shims", "adjusters"]
QuantityName = Literal[
    "backlash",
    "backlash_variation",
    "pinion_torque",
    "pinion_torque_used",
    "total_torque",
    "nut_torque",
    "pinion_depth",
    "case_spread",
    "ring_bolts",
    "cap_bolts",
    "oil",
]


DrawerName = Literal["side", "depth", "spacer"]


class LimitOut(Schema):
    quantity: QuantityName
    label: Said
    least: float | None
    greatest: float | None
    unit: str
    source_note: str
    is_sample: bool


CatalogueName = Literal["gearboxes", "transfer-cases", "ratios"]


class RatioOut(Schema):
    pinion_teeth: int
    ring_teeth: int
    ratio: float
    needs_carrier: bool
    needs_thick_ring: bool


class GearboxOut(Schema):
    code: str
    name: str
    maker: str
    gears: list[float]
    is_sample: bool


class TransferCaseOut(Schema):
    code: str
    name: str
    maker: str
    high: float
    low: float | None
    is_sample: bool


class RowWrongOut(Schema):
    """A row that cannot be taken: its line in the file, the column, and why."""

    line: int
    column: str
    text: Said


class CatalogueTakenOut(Schema):
    """With any wrong row nothing was taken."""

    added: int
    changed: int
    wrong: list[RowWrongOut]


class ShimRowOut(Schema):
    """`version` counts what came and went; a count is sent with the version it was read at."""

    place: DrawerName
    thickness_mm: float
    count: int
    version: int


class ShimMoveOut(Schema):
    """Why a drawer holds what it holds: `change` came or went, `count` lay there afterwards."""

    why: Literal["counted", "taken", "returned"]
    change: int
    count: int
    by_name: str
    at: datetime


class FamilyOut(Schema):
    code: str
    name: str
    maker: str
    build: str
    carrier_method: CarrierMethodName
    carrier_label: Said
    shim_place_label: Said
    preload_label: Said
    wheel_end: str
    ring_outer_diameter_mm: float
    offset_mm: float
    tooth_form_label: Said
    notch_mm: float | None
    is_sample: bool
    revision: int
    limits: list[LimitOut]
    ratios: list[RatioOut]
    shims: list[ShimRowOut]


class CatalogueIn(Edit):
    """What goes beside a list."""


class ShimCountIn(Edit):
    """How many lie there; `version` is that of the row as it was read, 0 for a thickness that has no row."""

    place: DrawerName
    thickness_mm: Annotated[float, Field(ge=0.001, le=50.0, allow_inf_nan=False)]
    count: Annotated[int, Field(ge=0, le=10000)]
    version: Annotated[int, Field(ge=0)]
