"""Filling in what a technician does not know of a gear set."""

from __future__ import annotations

from math import radians

from amber_core.gearset.description import GearSetDescription, ToothForm
from amber_core.gearset.macro import HYPOID_FROM_MM, MacroInput


def completed(given: GearSetDescription) -> tuple[MacroInput, list[str]]:
    """A complete description, and the names of the fields that had to be estimated."""
    offset = 0.0 if given.offset_mm is None else given.offset_mm
    form: ToothForm = given.tooth_form or ("uniform" if given.blade_groups else "tapered")
    usual = {
        "offset_mm": 0.0,
        "pinion_spiral_deg": 50.0 if offset >= HYPOID_FROM_MM else 35.0,
        "pressure_angle_deg": 20.0,
        "cutter_radius_mm": 95.25,
        "face_width_mm": 0.155 * given.ring_outer_diameter_mm,
        "blade_groups": 13 if form == "uniform" else 0,
    }
    taken = {name: value if getattr(given, name) is None else getattr(given, name) for name, value in usual.items()}
    estimated = [name for name in usual if getattr(given, name) is None]
    others = ("tooth_form", "drive_flank", "ring_pitch_deg", "ease_drive", "ease_coast")
    estimated += [name for name in others if getattr(given, name) is None]
    full = MacroInput(
        pinion_teeth=given.pinion_teeth,
        ring_teeth=given.ring_teeth,
        diameter_mm=given.ring_outer_diameter_mm,
        offset_mm=float(taken["offset_mm"]),
        pinion_spiral_rad=radians(taken["pinion_spiral_deg"]),
        pressure_rad=radians(taken["pressure_angle_deg"]),
        cutter_radius_mm=float(taken["cutter_radius_mm"]),
        face_mm=float(taken["face_width_mm"]),
        uniform=form == "uniform",
        blade_groups=int(taken["blade_groups"]),
        ring_pitch_rad=None if given.ring_pitch_deg is None else radians(given.ring_pitch_deg),
    )
    return full, estimated
