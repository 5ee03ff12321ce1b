"""Stores over the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, StringConstraints

from amber_core.words import Said
from shared.schemas import Edit, Line, Plain

PartName = Literal["axle", "transfer_case", "propshaft"]
CarrierMethodName = Literal["side_shims", "cover_shims", "adjusters"]
ShimPlaceName = Literal["under_head", "behind_cup", "under_cartridge_flange"]
PreloadMethodName = Literal["crush_sleeve", "spacer", "outer_shims"]
ToothFormName = Literal["tapered", "uniform"]
WindowSealName = Literal["included", "excluded"]
ShaftsName = Literal["", "clip", "retainer", "full_float", "half_shafts"]
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
    "flange_runout",
    "side_gear_play",
    "clutch_stack",
    "breakaway",
    "locker_gap",
    "cross_pin",
    "wheel_end_play",
    "axle_flange_runout",
    "shaft_engagement",
    "output_end_play",
    "tube_runout",
    "cover_bolts",
    "propshaft_bolts",
    "pin_bolt",
    "retainer_nuts",
    "drive_flange_nuts",
    "hub_nuts",
    "unit_nuts",
    "clutch_wear",
    "output_torque",
    "stub_height",
    "pin_clearance",
    "rollers",
    "seal_surface",
    "air_drop",
]


FastenerPlaceName = Literal[
    "ring_bolts",
    "cap_bolts",
    "cover_bolts",
    "unit_nuts",
    "pinion_nut",
    "pin_bolt",
    "retainer_nuts",
    "drive_flange_nuts",
    "hub_nuts",
    "output_nut",
    "propshaft_bolts",
    "centre_bearing_bolts",
    "fill_plug",
    "drain_plug",
    "wheel_nuts",
]
LayoutOfBoltsName = Literal["circle", "row"]
DrawerName = Literal["side", "depth", "spacer", "clutch", "output", "washer"]


class LimitOut(Plain):
    quantity: QuantityName
    label: Said
    least: float | None
    greatest: float | None
    unit: str
    source_note: str
    is_sample: bool


class FastenerOut(Plain):
    """Bolts or nuts of one place as the sheet wants them tightened; no torque where it only says how many there are."""

    place: FastenerPlaceName
    label: Said
    count: int
    layout: LayoutOfBoltsName
    torque_nm: float | None
    angle_deg: float | None
    thread: str
    oiled: bool
    one_time_use: bool
    left_hand: bool
    locked_by: str
    source_note: str
    is_sample: bool


class FluidOut(Plain):
    """One kind of oil that the sheet allows; `litres` is the whole fill, with the modifier in it."""

    oil: str
    litres: float
    level_below_plug_mm: float
    modifier_ml: float | None
    modifier: str
    source_note: str
    is_sample: bool
    text: Said


CsvName = Literal["gearboxes", "transfer-cases", "ratios", "limits", "fasteners", "fluids"]
CatalogueName = Literal["gearboxes", "transfer-cases", "ratios", "limits", "fasteners", "fluids", "sheets"]


class RatioOut(Plain):
    pinion_teeth: int
    ring_teeth: int
    ratio: float
    needs_carrier: bool
    needs_thick_ring: bool


class GearboxOut(Plain):
    code: str
    name: str
    maker: str
    gears: list[float]
    is_sample: bool


class TransferCaseOut(Plain):
    code: str
    name: str
    maker: str
    high: float
    low: float | None
    is_sample: bool


class RowWrongOut(Plain):
    """A row that cannot be taken: its line in the file, the column, and why."""

    line: int
    column: str
    text: Said


class CatalogueTakenOut(Plain):
    """With any wrong row nothing was taken."""

    added: int
    changed: int
    wrong: list[RowWrongOut]


class ShimRowOut(Plain):
    """`version` counts what came and went; a count is sent with the version it was read at."""

    place: DrawerName
    thickness_mm: float
    count: int
    version: int


class ShimMoveOut(Plain):
    """Why a drawer holds what it holds: `change` came or went, `count` lay there afterwards."""

    why: Literal["counted", "taken", "returned"]
    change: int
    count: int
    by_name: str
    at: datetime


class FamilyOut(Plain):
    """A family with its sheet and this workshop's drawers; `lent_by` is the workshop that shares it, empty for one's own."""

    code: str
    shared: bool
    lent_by: str
    part: PartName
    part_label: Said
    name: str
    maker: str
    build: str
    carrier_method: CarrierMethodName
    carrier_label: Said
    shim_place: ShimPlaceName
    shim_place_label: Said
    preload_method: PreloadMethodName
    preload_label: Said
    wheel_end: str
    shafts: ShaftsName
    has_spreader: bool
    has_speed_ring: bool
    tooth_form: ToothFormName
    torque_window_seal: WindowSealName
    bearing_offset_mm: float | None
    backlash_places: int
    ring_outer_diameter_mm: float
    offset_mm: float
    tooth_form_label: Said
    notch_mm: float | None
    is_sample: bool
    revision: int
    limits: list[LimitOut]
    ratios: list[RatioOut]
    fasteners: list[FastenerOut]
    fluids: list[FluidOut]
    shims: list[ShimRowOut]


Figure = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Named = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]


class LimitIn(Schema):
    """One line of a sheet; at least one bound, and where it comes from."""

    quantity: QuantityName
    least: Figure | None = None
    greatest: Figure | None = None
    source_note: Line = ""


class RatioIn(Schema):
    pinion_teeth: Annotated[int, Field(ge=3, le=40)]
    ring_teeth: Annotated[int, Field(ge=4, le=120)]
    needs_carrier: bool = False
    needs_thick_ring: bool = False


class FastenerIn(Schema):
    """Bolts or nuts of one place, torque in N m, angle after it in degrees."""

    place: FastenerPlaceName
    count: Annotated[int, Field(ge=1, le=200)]
    layout: LayoutOfBoltsName = "circle"
    torque_nm: Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)] | None = None
    angle_deg: Annotated[float, Field(gt=0, le=720, allow_inf_nan=False)] | None = None
    thread: Annotated[str, StringConstraints(strip_whitespace=True, max_length=40)] = ""
    oiled: bool = False
    one_time_use: bool = False
    left_hand: bool = False
    locked_by: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = ""
    source_note: Line = ""


class FluidIn(Schema):
    """One kind of oil: the whole fill, its level below the plug, and friction modifier as part of the fill."""

    oil: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    litres: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)]
    level_below_plug_mm: Annotated[float, Field(ge=0, le=500, allow_inf_nan=False)] = 0.0
    modifier_ml: Annotated[float, Field(gt=0, le=200_000, allow_inf_nan=False)] | None = None
    modifier: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = ""
    source_note: Line = ""


class SheetIn(Schema):
    """A whole sheet; of a part without gears what it says of them counts for nothing."""

    part: PartName = "axle"
    name: Named
    maker: Named
    build: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]
    carrier_method: CarrierMethodName = "side_shims"
    shim_place: ShimPlaceName = "under_head"
    preload_method: PreloadMethodName = "crush_sleeve"
    wheel_end: Annotated[str, StringConstraints(strip_whitespace=True, max_length=120)] = ""
    shafts: ShaftsName = ""
    has_spreader: bool = False
    has_speed_ring: bool = False
    ring_outer_diameter_mm: Annotated[float, Field(ge=50, le=1000, allow_inf_nan=False)] = 200.0
    offset_mm: Annotated[float, Field(ge=0, le=400, allow_inf_nan=False)] = 0.0
    tooth_form: ToothFormName = "tapered"
    notch_mm: Annotated[float, Field(gt=0, le=5, allow_inf_nan=False)] | None = None
    torque_window_seal: WindowSealName = "excluded"
    bearing_offset_mm: Annotated[float, Field(ge=-2, le=2, allow_inf_nan=False)] | None = None
    backlash_places: Annotated[int, Field(ge=4, le=16)] = 8
    is_sample: bool = False
    limits: Annotated[list[LimitIn], Field(max_length=60)] = []
    ratios: Annotated[list[RatioIn], Field(max_length=100)] = []
    fasteners: Annotated[list[FastenerIn], Field(max_length=40)] = []
    fluids: Annotated[list[FluidIn], Field(max_length=20)] = []


class FamilyIn(SheetIn, Edit):
    """A whole sheet as it shall be from now on; `revision` is the one that was read, 0 for a new family."""

    revision: Annotated[int, Field(ge=0, le=1_000_000)]
    reason: Line = ""


class SheetInFile(SheetIn):
    """A sheet of a list, known by its code."""

    code: Annotated[str, StringConstraints(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=60)]


class QuantityOut(Plain):
    """What a sheet can limit, and its unit."""

    quantity: QuantityName
    label: Said
    unit: str


class FastenerPlaceOut(Plain):
    """A place that a sheet can say bolts or nuts of."""

    place: FastenerPlaceName
    label: Said


class CatalogueIn(Edit):
    """What goes beside a list."""


class SharingIn(Edit):
    """Whether the other workshops of the installation work by a sheet."""

    shared: bool


class ShimCountIn(Edit):
    """How many lie there; `version` is that of the row as it was read, 0 for a thickness that has no row."""

    place: DrawerName
    thickness_mm: Annotated[float, Field(ge=0.001, le=50.0, allow_inf_nan=False)]
    count: Annotated[int, Field(ge=0, le=10000)]
    version: Annotated[int, Field(ge=0)]
