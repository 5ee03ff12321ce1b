"""Four invented axle families. Figures hang together physically and are samples: no maker stands behind them."""

from __future__ import annotations

from dataclasses import dataclass

from stores.models import AxleFamily, DrawerPlace, Quantity, RatioOption, ShimRow, SpecLimit

_SOURCE = "Sample sheet of the demo workshop, not a maker's figure."

Window = tuple[float | None, float | None]


@dataclass(frozen=True)
class Sheet:
    fields: dict[str, object]
    limits: dict[Quantity, Window]
    ratios: list[tuple[int, int]]
    side_shims: list[tuple[float, int]]
    depth_shims: list[tuple[float, int]]
    spacer_shims: list[tuple[float, int]]
    thick: tuple[tuple[int, int], ...] = ()
    carrier: tuple[tuple[int, int], ...] = ()


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
            Quantity.RING_BOLTS: (10, 10),
            Quantity.CAP_BOLTS: (4, 4),
            Quantity.OIL: (1.5, 1.8),
        },
        ratios=[(11, 41), (10, 41), (9, 41), (8, 37)],
        thick=((9, 41),),
        carrier=((8, 37),),
        side_shims=[*_steps(4.0, 5.2, 0.1, 2), *_steps(0.05, 0.30, 0.05, 4)],
        depth_shims=[*_steps(0.50, 1.50, 0.10, 2), *_steps(0.25, 0.40, 0.03, 2), (0.05, 6)],
        spacer_shims=[],
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
            Quantity.RING_BOLTS: (12, 12),
            Quantity.CAP_BOLTS: (4, 4),
            Quantity.OIL: (3.2, 3.6),
        },
        ratios=[(9, 37), (8, 37), (8, 41), (7, 39)],
        side_shims=[],
        depth_shims=[*_steps(0.20, 0.60, 0.05, 3), (0.10, 6), (0.13, 4)],
        spacer_shims=[*_steps(0.10, 0.50, 0.10, 4), *_steps(0.02, 0.08, 0.02, 4)],
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
            Quantity.RING_BOLTS: (10, 10),
            Quantity.CAP_BOLTS: (12, 12),
            Quantity.OIL: (1.0, 1.2),
        },
        ratios=[(11, 40), (10, 37), (12, 41)],
        side_shims=[*_steps(0.10, 0.60, 0.05, 3), (1.0, 4)],
        depth_shims=_steps(0.30, 0.90, 0.03, 1),
        spacer_shims=[],
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
            Quantity.RING_BOLTS: (10, 10),
            Quantity.CAP_BOLTS: (4, 4),
            Quantity.OIL: (1.7, 2.0),
        },
        ratios=[(11, 41), (10, 41), (9, 40)],
        side_shims=[],
        depth_shims=_steps(0.40, 1.20, 0.04, 1),
        spacer_shims=[*_steps(0.10, 0.50, 0.10, 4), *_steps(0.02, 0.08, 0.02, 4)],
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
            )
            ShimRow.objects.bulk_create(
                ShimRow(family=family, place=place, thickness_mm=str(mm), count=count) for place, shims in drawers for mm, count in shims
            )
        found[family.code] = family
    return found
