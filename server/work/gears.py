"""A pair of tooth counts on an axle of a sheet, as the core's model of the gears wants it."""

from __future__ import annotations

from amber_core.bench.judge import geometry_of
from amber_core.gearset.description import GearSetDescription
from stores.sheets import Sheet


def described(sheet: Sheet, pinion_teeth: int, ring_teeth: int, drive_flank: str = "convex") -> GearSetDescription:
    """A gear set on an axle of this sheet.

    Raises
    ------
    InvalidInput
        When no gears have such teeth.
    """
    return GearSetDescription(
        ring_teeth=ring_teeth,
        pinion_teeth=pinion_teeth,
        ring_outer_diameter_mm=sheet.ring_outer_diameter_mm,
        offset_mm=sheet.offset_mm,
        tooth_form=sheet.tooth_form,
        drive_flank=drive_flank,  # type: ignore[arg-type]
    )


def refuse_no_gears(sheet: Sheet, pinion_teeth: int, ring_teeth: int) -> None:
    """Refuse a pair of teeth that makes no gear set on this axle: no bench could show it.

    Raises
    ------
    InvalidInput
        Saying why.
    """
    geometry_of(described(sheet, pinion_teeth, ring_teeth))
