"""A point of a ring flank: where it lies, how it stands, and where the pinion touches it.

The ring is swept by a straight blade (non-generated). u runs from toe (0) to heel (1), v from the deepest point the pinion
reaches (0) to the tip (1). Source: general gear theory, the equation of meshing; symbols as in `macro`.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import acos, asin, atan2, cos, hypot, pi, sin, tan

import numpy as np

from amber_core.errors import InvalidInput
from amber_core.gearset.macro import Z_AXIS, Macro, Vector


@dataclass(frozen=True, slots=True, kw_only=True)
class FlankPoint:
    """A conjugate contact: place and unit normal in the fixed frame, shapes (3,) [mm, -]; lever about the ring axis [mm]."""

    place: Vector
    normal: Vector
    lever_mm: float


@dataclass(frozen=True, slots=True)
class _Blade:
    """The cutter as it stands at the pitch point."""

    convex: bool
    normal: Vector
    axis: Vector
    radius_arm: Vector
    radius_mm: float
    centre: Vector
    edge: Vector
    turn_ratio: float


def _unit(vector: Vector) -> Vector:
    return vector / np.linalg.norm(vector)


def _turn(axis: Vector, angle: float, vector: Vector) -> Vector:
    """Rotate a vector about a unit axis (Rodrigues)."""
    c, s = cos(angle), sin(angle)
    turned: Vector = vector * c + np.cross(axis, vector) * s + axis * (axis @ vector) * (1.0 - c)
    return turned


def _blade(macro: Macro, convex: bool) -> _Blade:
    sign = 1.0 if convex else -1.0
    psi, side = macro.ring_spiral_rad, macro.side_pressure_rad(convex)
    across = sin(psi) * macro.generatrix + cos(psi) * macro.transverse
    normal = sign * cos(side) * across + sin(side) * macro.normal
    axis = cos(macro.dedendum_rad) * macro.normal + sin(macro.dedendum_rad) * macro.generatrix
    groups = macro.given.blade_groups
    if groups == 0:
        radius = macro.given.cutter_radius_mm - sign * pi * macro.module_mm / 4.0
        arm, turn_ratio = sign * _unit(normal - (normal @ axis) * axis), 0.0
    else:
        radius, turn_ratio = macro.given.cutter_radius_mm, groups / macro.given.ring_teeth
        arm = _hobbing_arm(macro, across, axis, radius, turn_ratio)
    return _Blade(
        convex=convex,
        normal=normal,
        axis=axis,
        radius_arm=arm,
        radius_mm=radius,
        centre=macro.point - radius * arm,
        edge=_unit(axis - (axis @ normal) * normal),
        turn_ratio=turn_ratio,
    )


def _hobbing_arm(macro: Macro, across: Vector, axis: Vector, radius: float, turn_ratio: float) -> Vector:
    """The arm of a face-hobbing cutter: its blade must move along the tooth at the pitch point."""
    from scipy.optimize import brentq

    first = _unit(across - (across @ axis) * axis)
    second = np.cross(axis, first)
    carried = turn_ratio * np.cross(Z_AXIS, macro.point)

    def miss(angle: float) -> float:
        arm = cos(angle) * first + sin(angle) * second
        return float((np.cross(axis, radius * arm) + carried) @ across)

    start = asin(min(0.95, macro.given.blade_groups * macro.module_mm / (2.0 * radius)))
    low, high = start - 0.6, start + 0.6
    if miss(low) * miss(high) > 0.0:
        raise InvalidInput("blade_groups", "A cutter of this radius with so many blade groups cannot cut this ring: check both.")
    angle = float(brentq(miss, low, high, xtol=1e-14))
    arm: Vector = cos(angle) * first + sin(angle) * second
    return arm


def _axial_section(macro: Macro, u: float, v: float) -> tuple[float, float, float, float]:
    """Distance from the ring axis and height of flank point (u, v), with s along and h across the pitch line, [mm]."""
    s = (u - 0.5) * macro.given.face_mm
    low = -(macro.dedendum_mm + s * tan(macro.dedendum_rad))
    high = macro.addendum_mm + s * tan(macro.addendum_rad)
    h = (1.0 - v) * low + v * high
    d2 = macro.ring_pitch_rad
    return macro.mean_radius_mm + s * sin(d2) + h * cos(d2), float(macro.point[2]) - s * cos(d2) + h * sin(d2), s, h


def _surface(macro: Macro, blade: _Blade, theta: float, q: float) -> tuple[Vector, Vector, Vector]:
    """Point of the swept flank and its two tangents at cutter turn theta [rad] and blade coordinate q [mm]."""
    carry = blade.turn_ratio * theta
    arm = _turn(blade.axis, theta, macro.point + q * blade.edge - blade.centre)
    along_blade = _turn(Z_AXIS, carry, _turn(blade.axis, theta, blade.edge))
    place = blade.centre + arm
    swept = np.cross(blade.axis, arm) + blade.turn_ratio * np.cross(Z_AXIS, place)
    return _turn(Z_AXIS, carry, place), _turn(Z_AXIS, carry, swept), along_blade


def _solve_surface(macro: Macro, blade: _Blade, u: float, v: float) -> tuple[Vector, Vector]:
    """Place [mm] and outward unit normal of flank point (u, v), by Newton."""
    rho, height, s, h = _axial_section(macro, u, v)
    psi = macro.ring_spiral_rad
    trace = cos(psi) * macro.generatrix - sin(psi) * macro.transverse
    start = np.cross(blade.axis, macro.point - blade.centre) + blade.turn_ratio * np.cross(Z_AXIS, macro.point)
    theta, q = s / cos(psi) / float(start @ trace), h / float(blade.edge @ macro.normal)
    for _ in range(40):
        place, swept, along = _surface(macro, blade, theta, q)
        radius = hypot(place[0], place[1])
        miss = np.array([radius - rho, place[2] - height])
        if float(np.abs(miss).max()) < 1e-11:
            normal = _unit(np.cross(swept, along))
            return place, normal if normal @ _turn(
                Z_AXIS, blade.turn_ratio * theta, _turn(blade.axis, theta, blade.normal)
            ) > 0 else -normal
        outward = place[:2] / radius
        jacobian = np.array([[outward @ swept[:2], outward @ along[:2]], [swept[2], along[2]]])
        step = np.linalg.solve(jacobian, miss)
        theta, q = theta - float(step[0]), q - float(step[1])
    raise InvalidInput("", "No tooth of this shape can be cut: check the diameter, the offset and the cutter radius.")


def _roll(macro: Macro, place: Vector, normal: Vector, branch: float) -> float | None:
    """Ring turn phi at which this point meets the pinion, [rad]; None where it never does."""
    moment = np.cross(place, normal)
    ratio = macro.given.ring_teeth / macro.given.pinion_teeth
    argument = (float(moment[2]) / ratio - macro.given.offset_mm * float(normal[2])) / hypot(moment[0], moment[1])
    if abs(argument) > 1.0:
        return None
    phi = -atan2(float(moment[1]), float(moment[0])) + branch * acos(argument)
    return (phi + pi) % (2.0 * pi) - pi


def contact_point(macro: Macro, *, convex: bool, u: float, v: float) -> FlankPoint:
    """Where the pinion touches flank point (u, v), and how the flank stands there.

    Parameters
    ----------
    macro : Macro
        The set.
    convex : bool
        The outward-curved ring flank, else the hollow one.
    u, v : float
        0 toe to 1 heel, 0 root to 1 tip, [-].

    Returns
    -------
    FlankPoint
        In the fixed frame, turned to its own roll angle.

    Raises
    ------
    InvalidInput
        When no such tooth can be cut or the flanks never meet.

    Notes
    -----
    M = X x n; meshing n.v_rel = 0 gives M_x cos phi - M_y sin phi = M_z/i - E n_z. Of the two roots the branch with the smaller
    |phi| at the middle of the flank is used everywhere.
    """
    blade = _blade(macro, convex)
    middle = _solve_surface(macro, blade, 0.5, 0.5)
    rolls = {branch: _roll(macro, *middle, branch) for branch in (1.0, -1.0)}
    meeting = {branch: phi for branch, phi in rolls.items() if phi is not None}
    if not meeting:
        raise InvalidInput("", "The flanks of this set never meet: check the offset and the tooth counts.")
    branch = min(meeting, key=lambda one: abs(meeting[one]))
    place, normal = middle if (u, v) == (0.5, 0.5) else _solve_surface(macro, blade, u, v)
    phi = _roll(macro, place, normal, branch)
    if phi is None:
        raise InvalidInput("", "The flanks of this set do not meet at the heel: check the face width.")
    return FlankPoint(place=_turn(Z_AXIS, phi, place), normal=_turn(Z_AXIS, phi, normal), lever_mm=abs(float(np.cross(place, normal)[2])))
