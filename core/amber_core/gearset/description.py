"""The description of a ring and pinion as a technician can give it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

ToothForm = Literal["tapered", "uniform"]


@dataclass(frozen=True, slots=True, kw_only=True)
class EaseOff:
    """How a flank is relieved: crowning along and across [um], twist [-], and where it stands proudest [-]."""

    length_um: float = 45.0
    profile_um: float = 15.0
    bias: float = 0.45
    u0: float = 0.5
    v0: float = 0.5

    def __post_init__(self) -> None:
        checks.within("length_um", self.length_um, 1.0, 500.0, say("Lengthwise crowning must be 1 to 500 µm."))
        checks.within("profile_um", self.profile_um, 1.0, 200.0, say("Profile crowning must be 1 to 200 µm."))
        checks.within("bias", self.bias, -0.99, 0.99, say("Bias must be −0.99 to 0.99."))
        checks.within("u0", self.u0, 0.0, 1.0, say("Patch centre must be between toe (0) and heel (1)."))
        checks.within("v0", self.v0, 0.0, 1.0, say("Patch centre must be between root (0) and tip (1)."))


@dataclass(frozen=True, slots=True, kw_only=True)
class GearSetDescription:
    """Tooth counts, ring diameter and whatever else is known; the rest is estimated.

    Parameters
    ----------
    ring_teeth, pinion_teeth : int
        z2 and z1, [-].
    ring_outer_diameter_mm : float
        D, outer pitch diameter of the ring, [mm].
    offset_mm : float, optional
        E, how far the pinion axis passes the ring axis, [mm]; 0 for a spiral bevel.
    pinion_spiral_deg, pressure_angle_deg : float, optional
        Mean spiral of the pinion and effective pressure angle, [deg].
    cutter_radius_mm, face_width_mm : float, optional
        r_c and b, [mm].
    tooth_form : {"tapered", "uniform"}, optional
        Duplex taper cut face by face, or uniform depth cut continuously.
    blade_groups : int, optional
        0 for face-milled; groups of the cutter for face-hobbed, [-].
    drive_flank : {"convex", "concave"}
        The ring flank that pushes in forward travel.
    ring_pitch_deg : float, optional
        Pitch angle of the ring, [deg].
    ease_drive, ease_coast : EaseOff, optional
        Relief of the flanks; it does not enter the slopes at the pitch line.
    nominal_backlash_arc_mm : float
        Backlash at the right position, arc at the outer diameter, [mm].
    """

    ring_teeth: int
    pinion_teeth: int
    ring_outer_diameter_mm: float
    offset_mm: float | None = None
    pinion_spiral_deg: float | None = None
    pressure_angle_deg: float | None = None
    cutter_radius_mm: float | None = None
    face_width_mm: float | None = None
    tooth_form: ToothForm | None = None
    blade_groups: int | None = None
    drive_flank: Literal["convex", "concave"] | None = None
    ring_pitch_deg: float | None = None
    ease_drive: EaseOff | None = None
    ease_coast: EaseOff | None = None
    nominal_backlash_arc_mm: float = 0.15

    def __post_init__(self) -> None:
        checks.within("pinion_teeth", self.pinion_teeth, 4, 40, say("Pinion teeth must be 4 to 40."))
        checks.within("ring_teeth", self.ring_teeth, 12, 120, say("Ring gear teeth must be 12 to 120."))
        if self.ring_teeth <= self.pinion_teeth:
            raise InvalidInput("ring_teeth", say("The ring gear must have more teeth than the pinion. The two counts look swapped."))
        diameter = self.ring_outer_diameter_mm
        checks.within(
            "ring_outer_diameter_mm", diameter, 50.0, 1000.0, say("Ring gear diameter must be 50 to 1 000 mm. Give it in millimetres.")
        )
        checks.within("offset_mm", self.offset_mm, 0.0, 0.4 * diameter, say("Pinion offset must be 0 to 0.4 of the ring gear diameter."))
        checks.within("pinion_spiral_deg", self.pinion_spiral_deg, 5.0, 65.0, say("Pinion spiral angle must be 5 to 65 degrees."))
        checks.within("pressure_angle_deg", self.pressure_angle_deg, 10.0, 30.0, say("Pressure angle must be 10 to 30 degrees."))
        checks.within("cutter_radius_mm", self.cutter_radius_mm, 15.0, 500.0, say("Cutter radius must be 15 to 500 mm."))
        checks.within(
            "face_width_mm", self.face_width_mm, 3.0, 0.35 * diameter, say("Face width must be 3 mm to a third of the ring gear diameter.")
        )
        checks.within("blade_groups", self.blade_groups, 0, 60, say("Blade groups must be 0 (face-milled) to 60."))
        checks.within("ring_pitch_deg", self.ring_pitch_deg, 45.0, 88.0, say("Ring gear pitch angle must be 45 to 88 degrees."))
        checks.within("nominal_backlash_arc_mm", self.nominal_backlash_arc_mm, 0.0, 2.0, say("Backlash must be 0 to 2 mm."))
