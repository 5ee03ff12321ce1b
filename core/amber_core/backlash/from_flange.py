"""Backlash felt at the pinion flange, for an axle whose ring cannot be reached."""

from __future__ import annotations

from dataclasses import dataclass
from math import radians

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class FlangeLash:
    """Swing of the pinion flange with the RING held: flange_lash_deg [deg], or lash_at_radius_mm at radius_mm [mm].

    outer_radius_mm [mm] is half the ring's outer diameter; plunger_per_arc [-] the gear set's own factor.
    """

    ring_teeth: int
    pinion_teeth: int
    outer_radius_mm: float
    flange_lash_deg: float | None = None
    lash_at_radius_mm: float | None = None
    radius_mm: float | None = None
    plunger_per_arc: float | None = None

    def __post_init__(self) -> None:
        if self.flange_lash_deg is None and self.lash_at_radius_mm is None:
            raise InvalidInput("flange_lash_deg", say("Enter the swing of the flange in degrees, or in millimetres at a radius."))
        checks.within("flange_lash_deg", self.flange_lash_deg, 0.0, 90.0, say("Play at the flange must be 0 to 90 degrees."))
        checks.within("lash_at_radius_mm", self.lash_at_radius_mm, 0.0, 200.0, say("Play at the flange must be 0 to 200 mm."))
        if self.flange_lash_deg is None and self.radius_mm is None:
            raise InvalidInput("radius_mm", say("Enter the radius at which the play was read at the flange."))
        for field, what in (
            ("radius_mm", say("Radius at the flange")),
            ("outer_radius_mm", say("Ring gear outer radius")),
            ("plunger_per_arc", say("Plunger factor")),
            ("ring_teeth", say("Ring gear teeth")),
            ("pinion_teeth", say("Pinion teeth")),
        ):
            checks.above_zero(field, getattr(self, field), what)

    @property
    def swing_rad(self) -> float:
        """The whole swing of the flange, [rad]."""
        if self.flange_lash_deg is not None:
            return radians(self.flange_lash_deg)
        assert self.lash_at_radius_mm is not None and self.radius_mm is not None
        return self.lash_at_radius_mm / self.radius_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class RingBacklash:
    """Backlash as an arc at the outer diameter, and as a square plunger would read it (None without the factor), [mm]."""

    backlash_arc_mm: float
    backlash_mm: float | None


def backlash_from_flange(given: FlangeLash) -> RingBacklash:
    """Backlash at the outer end of the ring's teeth, from the lash felt at the pinion flange.

    Parameters
    ----------
    given : FlangeLash
        phi, whole swing with the ring held, [deg]; teeth z1, z2, [-]; r, outer radius, [mm].

    Returns
    -------
    RingBacklash
        b along the circle of radius r, [mm]; and the plunger's reading of it, [mm].

    Raises
    ------
    InvalidInput
        From FlangeLash, with the field.

    Notes
    -----
    b = phi z1/z2 r, phi in rad: the ring turns z1/z2 of the pinion. Play in the flange's splines counts as backlash; with a
    wheel held instead of the ring, side-gear and shaft play would too.

    Examples
    --------
    >>> lash = FlangeLash(flange_lash_deg=0.4, pinion_teeth=11, ring_teeth=41, outer_radius_mm=110.0)
    >>> round(backlash_from_flange(lash).backlash_arc_mm, 3)
    0.206
    """
    arc = given.swing_rad * given.pinion_teeth / given.ring_teeth * given.outer_radius_mm
    return RingBacklash(backlash_arc_mm=arc, backlash_mm=None if given.plunger_per_arc is None else arc * given.plunger_per_arc)
