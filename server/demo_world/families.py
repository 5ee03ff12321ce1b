"""Invented families of axles, transfer cases and propshafts. Their figures hang together and are samples: no maker stands behind them."""

from __future__ import annotations

from dataclasses import dataclass, field

from stores.models import (
    AxleFamily,
    BoltLayout,
    DrawerPlace,
    FastenerPlace,
    Quantity,
    RatioOption,
    SheetPart,
    ShimRow,
    SpecFastener,
    SpecFluid,
    SpecLimit,
)

_SOURCE = "Sample sheet of the demo workshop, not a maker's figure."

Window = tuple[float | None, float | None]
Tightened = tuple[int, float, str, dict[str, object]]
"""How many, torque [N m], thread, and what else the sheet says of them."""


@dataclass(frozen=True)
class Sheet:
    fields: dict[str, object]
    limits: dict[Quantity, Window]
    ratios: list[tuple[int, int]] = field(default_factory=list)
    side_shims: list[tuple[float, int]] = field(default_factory=list)
    depth_shims: list[tuple[float, int]] = field(default_factory=list)
    spacer_shims: list[tuple[float, int]] = field(default_factory=list)
    more_shims: dict[DrawerPlace, list[tuple[float, int]]] = field(default_factory=dict)
    fasteners: dict[FastenerPlace, Tightened] = field(default_factory=dict)
    fluids: list[dict[str, object]] = field(default_factory=list)
    thick: tuple[tuple[int, int], ...] = ()
    carrier: tuple[tuple[int, int], ...] = ()


_LOCKER: dict[str, object] = {"oiled": True, "locked_by": "thread locker", "one_time_use": True}
_PLUG: dict[str, object] = {"locked_by": "new copper washer"}


def _steps(first: float, last: float, step: float, count: int) -> list[tuple[float, int]]:
    rows = round((last - first) / step)
    return [(round(first + step * row, 3), count) for row in range(rows + 1)]


SHEETS = [
    Sheet(
        fields={
            "code": "corrie-ls19",
            "name": "Corrie LS19",
            "maker": "Corrie",
            "build": "Light semi-float rear axle; carrier in the tube housing, side shims outboard of the cups",
            "carrier_method": "side_shims",
            "shim_place": "under_head",
            "preload_method": "crush_sleeve",
            "wheel_end": "Axle shafts held by clips in the differential",
            "shafts": "clip",
            "has_spreader": True,
            "has_speed_ring": True,
            "ring_outer_diameter_mm": 190.0,
            "offset_mm": 28.0,
            "tooth_form": "tapered",
        },
        limits={
            Quantity.BACKLASH: (0.13, 0.20),
            Quantity.VARIATION: (None, 0.07),
            Quantity.PINION_TORQUE: (1.6, 2.6),
            Quantity.PINION_TORQUE_USED: (0.8, 1.4),
            Quantity.TOTAL_TORQUE: (2.0, 3.4),
            Quantity.NUT_TORQUE: (210.0, None),
            Quantity.DEPTH: (58.40, 58.40),
            Quantity.CASE_SPREAD: (None, 0.40),
            Quantity.OIL: (1.5, 1.8),
            Quantity.FLANGE_RUNOUT: (None, 0.05),
            Quantity.CLUTCH_STACK: (16.70, 16.90),
            Quantity.CLUTCH_WEAR: (15.90, None),
            Quantity.BREAKAWAY: (55.0, 110.0),
            Quantity.SIDE_GEAR_PLAY: (0.05, 0.17),
            Quantity.LOCKER_GAP: (3.70, 4.30),
            Quantity.PIN_CLEARANCE: (0.02, 0.12),
            Quantity.STUB_HEIGHT: (5.70, 6.40),
            Quantity.SHAFT_ENGAGEMENT: (24.0, None),
            Quantity.SEAL_SURFACE: (None, 47.75),
        },
        ratios=[(11, 41), (10, 41), (9, 41), (8, 37)],
        thick=((9, 41),),
        carrier=((8, 37),),
        side_shims=[*_steps(4.0, 5.2, 0.1, 2), *_steps(0.05, 0.30, 0.05, 4)],
        depth_shims=[*_steps(0.50, 1.50, 0.10, 2), *_steps(0.25, 0.40, 0.03, 2), (0.05, 6)],
        spacer_shims=[],
        more_shims={
            DrawerPlace.CLUTCH: [(0.25, 2), (0.30, 2), (0.38, 1), (0.51, 2), (0.64, 1)],
            DrawerPlace.WASHER: [(1.0, 2), (1.1, 2), (1.2, 2), (1.3, 1)],
        },
        fasteners={
            FastenerPlace.RING_BOLTS: (10, 88.0, "M10 x 1.25", _LOCKER),
            FastenerPlace.CAP_BOLTS: (4, 78.0, "M12 x 1.75", {"oiled": True}),
            FastenerPlace.COVER_BOLTS: (10, 32.0, "M8 x 1.25", {}),
            FastenerPlace.PIN_BOLT: (1, 28.0, "M8 x 1.25", _LOCKER),
            FastenerPlace.PROPSHAFT_BOLTS: (4, 65.0, "M10 x 1.0", {"one_time_use": True}),
            FastenerPlace.FILL_PLUG: (1, 35.0, "M22 x 1.5", _PLUG),
            FastenerPlace.WHEEL_NUTS: (5, 120.0, "M14 x 1.5", {}),
        },
        fluids=[
            {"oil": "75W-90 hypoid oil", "litres": 1.65},
            {
                "oil": "75W-140 for the clutch-pack differential",
                "litres": 1.65,
                "modifier_ml": 80.0,
                "modifier": "friction modifier",
                "level_below_plug_mm": 6.0,
            },
        ],
    ),
    Sheet(
        fields={
            "code": "halden-hf25",
            "name": "Halden HF25",
            "maker": "Halden",
            "build": "Heavy full-float rear axle; removable carrier, pinion in its own cartridge",
            "carrier_method": "adjusters",
            "shim_place": "under_cartridge_flange",
            "preload_method": "spacer",
            "wheel_end": "Full-float hub, flanged shafts",
            "shafts": "full_float",
            "has_spreader": False,
            "has_speed_ring": True,
            "ring_outer_diameter_mm": 250.0,
            "offset_mm": 38.0,
            "tooth_form": "uniform",
            "notch_mm": 0.06,
        },
        limits={
            Quantity.BACKLASH: (0.20, 0.30),
            Quantity.VARIATION: (None, 0.08),
            Quantity.PINION_TORQUE: (2.2, 3.6),
            Quantity.PINION_TORQUE_USED: (1.1, 2.0),
            Quantity.TOTAL_TORQUE: (2.8, 4.8),
            Quantity.DEPTH: (74.90, 74.90),
            Quantity.OIL: (3.2, 3.6),
        },
        ratios=[(9, 37), (8, 37), (8, 41), (7, 39)],
        side_shims=[],
        depth_shims=[*_steps(0.20, 0.60, 0.05, 3), (0.10, 6), (0.13, 4)],
        spacer_shims=[*_steps(0.10, 0.50, 0.10, 4), *_steps(0.02, 0.08, 0.02, 4)],
        fasteners={
            FastenerPlace.RING_BOLTS: (12, 130.0, "M12 x 1.25", {**_LOCKER, "left_hand": True}),
            FastenerPlace.CAP_BOLTS: (4, 165.0, "M16 x 1.5", {"oiled": True}),
            FastenerPlace.UNIT_NUTS: (12, 62.0, "M10 x 1.5", {}),
            FastenerPlace.PINION_NUT: (1, 340.0, "M30 x 1.5", {"oiled": True, "one_time_use": True, "locked_by": "staked"}),
            FastenerPlace.DRIVE_FLANGE_NUTS: (8, 95.0, "M12 x 1.5", {"locked_by": "taper cones"}),
            FastenerPlace.PROPSHAFT_BOLTS: (4, 110.0, "M12 x 1.25", {"one_time_use": True}),
            FastenerPlace.FILL_PLUG: (1, 45.0, "M24 x 1.5", _PLUG),
            FastenerPlace.DRAIN_PLUG: (1, 45.0, "M24 x 1.5", _PLUG),
            FastenerPlace.WHEEL_NUTS: (6, 210.0, "M18 x 1.5", {}),
        },
        fluids=[{"oil": "80W-140 hypoid oil", "litres": 3.4, "level_below_plug_mm": 10.0}],
    ),
    Sheet(
        fields={
            "code": "ostrel-ir20",
            "name": "Ostrel IR20",
            "maker": "Ostrel",
            "build": "Independent rear; final drive with side covers, shims under the cover flanges",
            "carrier_method": "cover_shims",
            "shim_place": "behind_cup",
            "preload_method": "crush_sleeve",
            "wheel_end": "Half shafts held by circlips in the side gears",
            "shafts": "half_shafts",
            "has_spreader": False,
            "has_speed_ring": False,
            "ring_outer_diameter_mm": 200.0,
            "offset_mm": 25.0,
            "tooth_form": "tapered",
        },
        limits={
            Quantity.BACKLASH: (0.10, 0.18),
            Quantity.VARIATION: (None, 0.06),
            Quantity.PINION_TORQUE: (1.2, 2.0),
            Quantity.PINION_TORQUE_USED: (0.6, 1.0),
            Quantity.NUT_TORQUE: (180.0, None),
            Quantity.OIL: (1.0, 1.2),
        },
        ratios=[(11, 40), (10, 37), (12, 41)],
        side_shims=[*_steps(0.10, 0.60, 0.05, 3), (1.0, 4)],
        depth_shims=_steps(0.30, 0.90, 0.03, 1),
        spacer_shims=[],
        fasteners={
            FastenerPlace.RING_BOLTS: (10, 60.0, "M10 x 1.0", {**_LOCKER, "angle_deg": 45.0}),
            FastenerPlace.COVER_BOLTS: (12, 23.0, "M8 x 1.25", {}),
            FastenerPlace.CAP_BOLTS: (12, 23.0, "M8 x 1.25", {}),
            FastenerPlace.HUB_NUTS: (1, 270.0, "M24 x 1.5", {"one_time_use": True, "locked_by": "staked"}),
            FastenerPlace.PROPSHAFT_BOLTS: (4, 60.0, "M10 x 1.0", {"one_time_use": True}),
            FastenerPlace.FILL_PLUG: (1, 30.0, "M18 x 1.5", _PLUG),
            FastenerPlace.DRAIN_PLUG: (1, 30.0, "M18 x 1.5", _PLUG),
            FastenerPlace.WHEEL_NUTS: (5, 110.0, "M12 x 1.5", {}),
        },
        fluids=[{"oil": "75W-85 hypoid oil", "litres": 1.1}],
    ),
    Sheet(
        fields={
            "code": "brannoch-bf21",
            "name": "Brannoch BF21",
            "maker": "Brannoch",
            "build": "Beam front axle, spiral bevel; threaded adjusters in the housing",
            "carrier_method": "adjusters",
            "shim_place": "behind_cup",
            "preload_method": "spacer",
            "wheel_end": "Locking hubs on full-float spindles",
            "shafts": "full_float",
            "has_spreader": False,
            "has_speed_ring": False,
            "ring_outer_diameter_mm": 215.0,
            "offset_mm": 0.0,
            "tooth_form": "tapered",
            "notch_mm": 0.05,
        },
        limits={
            Quantity.BACKLASH: (0.15, 0.25),
            Quantity.VARIATION: (None, 0.08),
            Quantity.PINION_TORQUE: (1.5, 2.5),
            Quantity.PINION_TORQUE_USED: (0.7, 1.3),
            Quantity.OIL: (1.7, 2.0),
        },
        ratios=[(11, 41), (10, 41), (9, 40)],
        side_shims=[],
        depth_shims=_steps(0.40, 1.20, 0.04, 1),
        spacer_shims=[*_steps(0.10, 0.50, 0.10, 4), *_steps(0.02, 0.08, 0.02, 4)],
        fasteners={
            FastenerPlace.RING_BOLTS: (10, 95.0, "M11 x 1.25", _LOCKER),
            FastenerPlace.CAP_BOLTS: (4, 95.0, "M12 x 1.5", {"oiled": True}),
            FastenerPlace.UNIT_NUTS: (10, 48.0, "M10 x 1.5", {}),
            FastenerPlace.PINION_NUT: (1, 290.0, "M27 x 1.5", {"oiled": True, "one_time_use": True, "locked_by": "staked"}),
            FastenerPlace.PROPSHAFT_BOLTS: (4, 65.0, "M10 x 1.0", {"one_time_use": True}),
            FastenerPlace.FILL_PLUG: (1, 35.0, "M22 x 1.5", _PLUG),
            FastenerPlace.WHEEL_NUTS: (5, 140.0, "M14 x 1.5", {}),
        },
        fluids=[{"oil": "75W-90 hypoid oil", "litres": 1.85}],
    ),
    Sheet(
        fields={
            "code": "ostrel-fd14",
            "name": "Ostrel FD14",
            "maker": "Ostrel",
            "build": "Small final drive of a quad; shim washers, inner bearing retainer nut",
            "carrier_method": "cover_shims",
            "shim_place": "behind_cup",
            "preload_method": "spacer",
            "wheel_end": "Half shafts held by circlips",
            "shafts": "half_shafts",
            "has_spreader": False,
            "has_speed_ring": False,
            "ring_outer_diameter_mm": 140.0,
            "offset_mm": 0.0,
            "tooth_form": "tapered",
        },
        limits={
            Quantity.BACKLASH: (0.08, 0.16),
            Quantity.VARIATION: (None, 0.06),
            Quantity.PINION_TORQUE: (0.4, 0.9),
            Quantity.PINION_TORQUE_USED: (0.2, 0.5),
            Quantity.OIL: (0.28, 0.34),
        },
        ratios=[(11, 35), (10, 37)],
        side_shims=[*_steps(0.10, 0.50, 0.05, 3), (1.0, 2)],
        depth_shims=_steps(0.20, 0.80, 0.05, 2),
        spacer_shims=_steps(0.02, 0.20, 0.02, 3),
        fasteners={
            FastenerPlace.RING_BOLTS: (8, 32.0, "M8 x 1.0", _LOCKER),
            FastenerPlace.COVER_BOLTS: (8, 12.0, "M6 x 1.0", {}),
            FastenerPlace.PINION_NUT: (1, 98.0, "M16 x 1.5", {"one_time_use": True, "locked_by": "staked"}),
            FastenerPlace.FILL_PLUG: (1, 22.0, "M14 x 1.5", _PLUG),
            FastenerPlace.WHEEL_NUTS: (4, 55.0, "M10 x 1.25", {}),
        },
        fluids=[{"oil": "75W-90 hypoid oil", "litres": 0.31}],
    ),
    Sheet(
        fields={
            "code": "brannoch-t2",
            "name": "Brannoch T2",
            "maker": "Brannoch",
            "part": SheetPart.TRANSFER_CASE,
            "build": "Chain transfer case in aluminium; rear output on two taper bearings, shims under the housing",
        },
        limits={
            Quantity.OUTPUT_END_PLAY: (0.0, 0.05),
            Quantity.OUTPUT_TORQUE: (0.4, 1.0),
            Quantity.ROLLERS: (23, 23),
            Quantity.SEAL_SURFACE: (None, 44.45),
            Quantity.OIL: (1.8, 2.1),
        },
        more_shims={DrawerPlace.OUTPUT: [(0.10, 4), (0.15, 3), (0.20, 3), (0.25, 2), (0.34, 2), (0.50, 2)]},
        fasteners={
            FastenerPlace.OUTPUT_NUT: (1, 150.0, "M22 x 1.5", {"one_time_use": True, "locked_by": "staked"}),
            FastenerPlace.PROPSHAFT_BOLTS: (4, 65.0, "M10 x 1.0", {"one_time_use": True}),
            FastenerPlace.FILL_PLUG: (1, 30.0, "M20 x 1.5", _PLUG),
            FastenerPlace.DRAIN_PLUG: (1, 30.0, "M20 x 1.5", _PLUG),
        },
        fluids=[{"oil": "Transfer-case fluid", "litres": 1.95}],
    ),
    Sheet(
        fields={
            "code": "halden-tg",
            "name": "Halden TG",
            "maker": "Halden",
            "part": SheetPart.TRANSFER_CASE,
            "build": "Gear-driven transfer case in iron; outputs on taper bearings, shims under the rear cover",
        },
        limits={Quantity.OUTPUT_END_PLAY: (0.05, 0.15), Quantity.OIL: (3.0, 3.4)},
        fasteners={
            FastenerPlace.OUTPUT_NUT: (1, 240.0, "M27 x 1.5", {"oiled": True, "one_time_use": True, "locked_by": "split pin"}),
            FastenerPlace.PROPSHAFT_BOLTS: (4, 110.0, "M12 x 1.25", {"one_time_use": True}),
            FastenerPlace.FILL_PLUG: (1, 45.0, "M24 x 1.5", _PLUG),
            FastenerPlace.DRAIN_PLUG: (1, 45.0, "M24 x 1.5", _PLUG),
        },
        fluids=[{"oil": "80W-90 gear oil", "litres": 3.2, "level_below_plug_mm": 8.0}],
    ),
    Sheet(
        fields={
            "code": "brannoch-p76",
            "name": "Brannoch P76",
            "maker": "Brannoch",
            "part": SheetPart.PROPSHAFT,
            "build": "One-piece propshaft, 76 mm tube, slip joint at the transfer case",
        },
        limits={Quantity.TUBE_RUNOUT: (None, 0.50)},
        fasteners={FastenerPlace.PROPSHAFT_BOLTS: (4, 65.0, "M10 x 1.0", {"one_time_use": True})},
    ),
    Sheet(
        fields={
            "code": "halden-p102",
            "name": "Halden P102",
            "maker": "Halden",
            "part": SheetPart.PROPSHAFT,
            "build": "Two-piece propshaft, 102 mm tubes, centre bearing in rubber",
        },
        limits={Quantity.TUBE_RUNOUT: (None, 0.40)},
        fasteners={
            FastenerPlace.PROPSHAFT_BOLTS: (4, 110.0, "M12 x 1.25", {"one_time_use": True}),
            FastenerPlace.CENTRE_BEARING_BOLTS: (2, 50.0, "M12 x 1.5", {}),
        },
    ),
]


def load() -> dict[str, AxleFamily]:
    """Make the families that are missing, with sheets and shims."""
    found = {}
    for sheet in SHEETS:
        family, new = AxleFamily.objects.get_or_create(code=sheet.fields["code"], defaults=sheet.fields)
        if new:
            SpecLimit.objects.bulk_create(
                SpecLimit(family=family, quantity=quantity, least=least, greatest=greatest, source_note=_SOURCE)
                for quantity, (least, greatest) in sheet.limits.items()
            )
            SpecFastener.objects.bulk_create(
                SpecFastener(
                    family=family,
                    place=place,
                    count=count,
                    layout=BoltLayout.ROW if place == FastenerPlace.CENTRE_BEARING_BOLTS else BoltLayout.CIRCLE,
                    torque_nm=torque,
                    thread=thread,
                    source_note=_SOURCE,
                    **more,
                )
                for place, (count, torque, thread, more) in sheet.fasteners.items()
            )
            SpecFluid.objects.bulk_create(SpecFluid(family=family, source_note=_SOURCE, **one) for one in sheet.fluids)
            RatioOption.objects.bulk_create(
                RatioOption(
                    family=family,
                    pinion_teeth=p,
                    ring_teeth=r,
                    needs_thick_ring=(p, r) in sheet.thick,
                    needs_carrier=(p, r) in sheet.carrier,
                )
                for p, r in sheet.ratios
            )
            drawers = (
                (DrawerPlace.SIDE, sheet.side_shims),
                (DrawerPlace.DEPTH, sheet.depth_shims),
                (DrawerPlace.SPACER, sheet.spacer_shims),
                *sheet.more_shims.items(),
            )
            ShimRow.objects.bulk_create(
                ShimRow(family=family, place=place, thickness_mm=str(mm), count=count) for place, shims in drawers for mm, count in shims
            )
        found[family.code] = family
    return found
