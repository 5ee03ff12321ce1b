"""The description of a ring and pinion as a technician can give it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput

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
        checks.within("length_um", self.length_um, 1.0, 500.0, "Lengthwise crowning lies between 1 and 500 um.")
        checks.within("profile_um", self.profile_um, 1.0, 200.0, "Profile crowning lies between 1 and 200 um.")
        checks.within("bias", self.bias, -0.99, 0.99, "Bias lies between -0.99 and 0.99.")
        checks.within("u0", self.u0, 0.0, 1.0, "The patch centre lies between toe (0) and heel (1).")
        checks.within("v0", self.v0, 0.0, 1.0, "The patch centre lies between root (0) and tip (1).")


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
        checks.within("pinion_teeth", self.pinion_teeth, 4, 40, "A pinion of an axle has between 4 and 40 teeth.")
        checks.within("ring_teeth", self.ring_teeth, 12, 120, "A ring of an axle has between 12 and 120 teeth.")
        if self.ring_teeth <= self.pinion_teeth:
            raise InvalidInput("ring_teeth", "The ring has more teeth than the pinion: the two counts look swapped.")
        diameter = self.ring_outer_diameter_mm
        checks.within("ring_outer_diameter_mm", diameter, 50.0, 1000.0, "A ring is between 50 and 1000 mm across; give millimetres.")
        checks.within("offset_mm", self.offset_mm, 0.0, 0.4 * diameter, "The offset lies between 0 and four tenths of the ring diameter.")
        checks.within("pinion_spiral_deg", self.pinion_spiral_deg, 5.0, 65.0, "The pinion's spiral lies between 5 and 65 degrees.")
        checks.within("pressure_angle_deg", self.pressure_angle_deg, 10.0, 30.0, "The pressure angle lies between 10 and 30 degrees.")
        checks.within("cutter_radius_mm", self.cutter_radius_mm, 15.0, 500.0, "The cutter radius lies between 15 and 500 mm.")
        checks.within("face_width_mm", self.face_width_mm, 3.0, 0.35 * diameter, "The face is between 3 mm and a third of the ring across.")
        checks.within("blade_groups", self.blade_groups, 0, 60, "A cutter has between 0 (face-milled) and 60 blade groups.")
        checks.within("ring_pitch_deg", self.ring_pitch_deg, 45.0, 88.0, "The ring's pitch angle lies between 45 and 88 degrees.")
        checks.within("nominal_backlash_arc_mm", self.nominal_backlash_arc_mm, 0.0, 2.0, "Backlash lies between 0 and 2 mm.")
