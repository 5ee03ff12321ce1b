"""From what a technician knows of a gear set to a full one, and how its backlash answers to moves of ring and pinion."""

from __future__ import annotations

from dataclasses import dataclass
from math import degrees
from typing import Literal

from amber_core.contact.contact_set import contact_set
from amber_core.gearset.complete import completed
from amber_core.gearset.description import EaseOff, GearSetDescription, ToothForm


@dataclass(frozen=True, slots=True, kw_only=True)
class GearSetGeometry:
    """The completed set. Lengths [mm], angles [deg], slopes [mm/mm]; `estimated` names what was filled in.

    `backlash_per_ring_move` and `backlash_per_pinion_move` are of the plunger square to the drive flank at the heel; the
    `_arc_` ones are of the arc at the outer diameter. The two must not be mixed: `plunger_per_arc` converts one to the other.
    """

    ring_teeth: int
    pinion_teeth: int
    ring_outer_diameter_mm: float
    offset_mm: float
    pinion_spiral_deg: float
    pressure_angle_deg: float
    cutter_radius_mm: float
    face_width_mm: float
    tooth_form: ToothForm
    blade_groups: int
    drive_flank: Literal["convex", "concave"]
    ease_drive: EaseOff
    ease_coast: EaseOff
    nominal_backlash_arc_mm: float
    estimated: list[str]
    ring_pitch_deg: float
    pinion_pitch_deg: float
    ring_spiral_deg: float
    limit_angle_deg: float
    pressure_convex_deg: float
    pressure_concave_deg: float
    mean_radius_mm: float
    mean_cone_distance_mm: float
    normal_module_mm: float
    working_depth_mm: float
    ring_addendum_mm: float
    ring_dedendum_mm: float
    dedendum_angle_deg: float
    addendum_angle_deg: float
    backlash_per_ring_move: float
    backlash_per_pinion_move: float
    backlash_arc_per_ring_move: float
    backlash_arc_per_pinion_move: float
    plunger_per_arc: float


def complete_geometry(given: GearSetDescription) -> GearSetGeometry:
    """Complete a gear set and say how its backlash answers to axial moves.

    Parameters
    ----------
    given : GearSetDescription
        Counts [-], D, E, r_c, b [mm], angles [deg]; what is not known is None.

    Returns
    -------
    GearSetGeometry
        With `estimated` naming what was filled in.

    Raises
    ------
    InvalidInput
        When a field is off its range, or no such set can exist.

    Notes
    -----
    Slopes are those of a contact analysis at the right place, by central difference; they change with depth, so a large move
    wants `contact.simulate`. plunger_per_arc = |m| at the heel over D/2, on the drive flank.

    Examples
    --------
    >>> found = complete_geometry(GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0))
    >>> round(found.plunger_per_arc, 2), found.estimated[0]
    (0.72, 'offset_mm')
    """
    ready = contact_set(given)
    macro, full = ready.macro, ready.macro.given
    plunger = ready.plunger_per_arc
    pinion_arc, ring_arc = ready.arc_slopes(pinion_mm=0.0, ring_mm=0.0)
    return GearSetGeometry(
        ring_teeth=full.ring_teeth,
        pinion_teeth=full.pinion_teeth,
        ring_outer_diameter_mm=full.diameter_mm,
        offset_mm=full.offset_mm,
        pinion_spiral_deg=degrees(full.pinion_spiral_rad),
        pressure_angle_deg=degrees(full.pressure_rad),
        cutter_radius_mm=full.cutter_radius_mm,
        face_width_mm=full.face_mm,
        tooth_form="uniform" if full.uniform else "tapered",
        blade_groups=full.blade_groups,
        drive_flank="convex" if ready.drive.convex else "concave",
        ease_drive=ready.ease_drive,
        ease_coast=ready.ease_coast,
        nominal_backlash_arc_mm=given.nominal_backlash_arc_mm,
        estimated=completed(given)[1],
        ring_pitch_deg=degrees(macro.ring_pitch_rad),
        pinion_pitch_deg=degrees(macro.pinion_pitch_rad),
        ring_spiral_deg=degrees(macro.ring_spiral_rad),
        limit_angle_deg=degrees(macro.limit_rad),
        pressure_convex_deg=degrees(macro.side_pressure_rad(True)),
        pressure_concave_deg=degrees(macro.side_pressure_rad(False)),
        mean_radius_mm=macro.mean_radius_mm,
        mean_cone_distance_mm=macro.cone_distance_mm,
        normal_module_mm=macro.module_mm,
        working_depth_mm=macro.depth_mm,
        ring_addendum_mm=macro.addendum_mm,
        ring_dedendum_mm=macro.dedendum_mm,
        dedendum_angle_deg=degrees(macro.dedendum_rad),
        addendum_angle_deg=degrees(macro.addendum_rad),
        backlash_per_ring_move=ring_arc * plunger,
        backlash_per_pinion_move=pinion_arc * plunger,
        backlash_arc_per_ring_move=ring_arc,
        backlash_arc_per_pinion_move=pinion_arc,
        plunger_per_arc=plunger,
    )
