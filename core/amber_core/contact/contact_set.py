"""A gear set ready for contact analysis: both flanks on their grids, and its backlash for any assembly."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from amber_core.contact.flank_grid import FlankGrid, build_grid
from amber_core.contact.mesh import NOMINAL, Errors, point_closing, rigid_closing
from amber_core.gearset.complete import completed
from amber_core.gearset.description import EaseOff, GearSetDescription
from amber_core.gearset.flank import Field
from amber_core.gearset.macro import Macro, MacroInput, build_macro

USUAL_NU, USUAL_NV = 41, 25
SLOPE_STEP_MM = 1e-3
FARTHEST_MM = 0.6
"""No gear is looked for farther from its right place than this, [mm]."""


@dataclass(frozen=True)
class ContactSet:
    """Both flanks of a set with their relief; drive is the one that pushes in forward travel.

    `nominal_backlash_arc_mm` is the backlash at the right place, as an arc at the outer diameter, [mm].
    """

    macro: Macro
    drive: FlankGrid
    coast: FlankGrid
    ease_drive: EaseOff
    ease_coast: EaseOff
    nominal_backlash_arc_mm: float

    @property
    def outer_mm(self) -> float:
        """Half the ring's outer diameter, [mm]."""
        return self.macro.given.diameter_mm / 2.0

    @property
    def plunger_per_arc(self) -> float:
        """Reading of a plunger square to the drive flank at the heel over the arc at the outer diameter, [-]."""
        return self.drive.heel_lever_mm / self.outer_mm

    def closing(self, errors: Errors) -> tuple[Field, Field]:
        """Rigid closing of drive and coast at each roll position, [rad]."""
        drive = rigid_closing(self.drive, point_closing(self.drive, self.ease_drive, errors))
        return drive, rigid_closing(self.coast, point_closing(self.coast, self.ease_coast, errors))

    def _mean_closing(self, errors: Errors) -> float:
        return sum(float(np.mean(one)) for one in self.closing(errors))

    @cached_property
    def _nominal_closing(self) -> float:
        return self._mean_closing(NOMINAL)

    def backlash_arc_mm(self, errors: Errors) -> float:
        """Backlash as an arc at the outer diameter, [mm]; zero or less cannot be assembled.

        Notes
        -----
        B = B0 + D/2 [mean e_drive + mean e_coast - the same at the right place], rigid.
        """
        return self.nominal_backlash_arc_mm + self.outer_mm * (self._mean_closing(errors) - self._nominal_closing)

    def arc_slopes(self, *, pinion_mm: float, ring_mm: float) -> tuple[float, float]:
        """Change of the arc for a move of the pinion and of the ring from there, by central difference, [mm/mm].

        Errors of offset and shaft angle are left out of it: they cannot be shimmed away, and slopes of one set stay comparable.
        """

        step = SLOPE_STEP_MM
        high, low = (self.backlash_arc_mm(Errors(pinion_mm=pinion_mm + way, ring_mm=ring_mm)) for way in (step, -step))
        return (high - low) / (2.0 * step), self._arc_per_ring(pinion_mm, ring_mm)

    def _arc_per_ring(self, pinion_mm: float, ring_mm: float) -> float:
        step = SLOPE_STEP_MM
        high, low = (self.backlash_arc_mm(Errors(pinion_mm=pinion_mm, ring_mm=ring_mm + way)) for way in (step, -step))
        return (high - low) / (2.0 * step)

    def ring_for_arc_mm(self, arc_mm: float, *, pinion_mm: float) -> float:
        """The ring's place that gives this backlash at this depth, by two steps of Newton and within `FARTHEST_MM`, [mm]."""
        ring = 0.0
        for _ in range(2):
            slope = self._arc_per_ring(pinion_mm, ring)
            ring += (arc_mm - self.backlash_arc_mm(Errors(pinion_mm=pinion_mm, ring_mm=ring))) / slope
            ring = float(np.clip(ring, -FARTHEST_MM, FARTHEST_MM))
        return ring


@lru_cache(maxsize=32)
def _grids(given: MacroInput, nu: int, nv: int) -> tuple[Macro, FlankGrid, FlankGrid]:
    """What does not depend on relief or assembly, kept for the sets last asked about: convex first."""
    macro = build_macro(given)
    return macro, build_grid(macro, convex=True, nu=nu, nv=nv), build_grid(macro, convex=False, nu=nu, nv=nv)


def contact_set(description: GearSetDescription, *, nu: int = USUAL_NU, nv: int = USUAL_NV) -> ContactSet:
    """The set of a description, on a grid of nu x nv nodes.

    Raises
    ------
    InvalidInput
        When no such set can exist.
    """
    macro, convex, concave = _grids(completed(description)[0], nu, nv)
    drive, coast = (concave, convex) if description.drive_flank == "concave" else (convex, concave)
    return ContactSet(
        macro=macro,
        drive=drive,
        coast=coast,
        ease_drive=description.ease_drive or EaseOff(),
        ease_coast=description.ease_coast or EaseOff(),
        nominal_backlash_arc_mm=description.nominal_backlash_arc_mm,
    )
