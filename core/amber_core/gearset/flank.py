"""The flanks of a ring: where their points lie, how they stand, and where the pinion touches them.

The ring is swept by a straight blade (non-generated). u runs from toe (0) to heel (1), v from the deepest point the pinion
reaches (0) to the tip (1). Source: general gear theory, the equation of meshing; symbols as in `macro`.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, cos, pi, sin, tan

import numpy as np
from numpy.typing import NDArray

from amber_core.errors import InvalidInput
from amber_core.gearset.macro import Z_AXIS, Macro, Vector
from amber_core.words import say

Field = NDArray[np.float64]
"""A number at each point of a flank; any shape, the same for all that belong together."""


@dataclass(frozen=True, slots=True, kw_only=True)
class FlankField:
    """Conjugate contacts at the points (u, v) of one flank.

    Parameters
    ----------
    u, v : Field
        Toe (0) to heel (1), root (0) to tip (1), shape (...), [-].
    place, normal : ndarray
        In the fixed frame, each turned to its own roll angle, shape (..., 3), [mm] and [-].
    lever_mm : Field
        |m|, the normal's lever about the ring axis, [mm].
    roll_rad : Field
        Ring turn phi at which the point meets the pinion, [rad]; nan where it never does.
    """

    u: Field
    v: Field
    place: Field
    normal: Field
    lever_mm: Field
    roll_rad: Field


@dataclass(frozen=True, slots=True)
class _Blade:
    """The cutter as it stands at the pitch point."""

    normal: Vector
    axis: Vector
    centre: Vector
    edge: Vector
    turn_ratio: float


def _unit(vectors: Field) -> Field:
    unit: Field = vectors / np.linalg.norm(vectors, axis=-1, keepdims=True)
    return unit


def _turn(axis: Vector, angle: Field | float, vectors: Field) -> Field:
    """Rotate vectors of shape (..., 3) about a unit axis by angles of shape (...) (Rodrigues)."""
    c, s = np.cos(angle)[..., None], np.sin(angle)[..., None]
    turned: Field = vectors * c + np.cross(axis, vectors) * s + axis * (vectors @ axis)[..., None] * (1.0 - c)
    return turned


def local_depth_mm(macro: Macro, u: Field) -> Field:
    """Working depth of the tooth at u, [mm]."""
    s = (u - 0.5) * macro.given.face_mm
    depth: Field = macro.depth_mm + s * (tan(macro.dedendum_rad) + tan(macro.addendum_rad))
    return depth


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
    edge = _unit(axis - (axis @ normal) * normal)
    return _Blade(normal=normal, axis=axis, centre=macro.point - radius * arm, edge=edge, turn_ratio=turn_ratio)


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
        raise InvalidInput("blade_groups", say("A cutter of this radius with so many blade groups cannot cut this ring gear. Check both."))
    angle = float(brentq(miss, low, high, xtol=1e-14))
    arm: Vector = cos(angle) * first + sin(angle) * second
    return arm


def _axial_section(macro: Macro, u: Field, v: Field) -> tuple[Field, Field, Field, Field]:
    """Distance from the ring axis and height of flank points, with s along and h across the pitch line, [mm]."""
    s = (u - 0.5) * macro.given.face_mm
    low = -(macro.dedendum_mm + s * tan(macro.dedendum_rad))
    high = macro.addendum_mm + s * tan(macro.addendum_rad)
    h = (1.0 - v) * low + v * high
    d2 = macro.ring_pitch_rad
    return macro.mean_radius_mm + s * sin(d2) + h * cos(d2), float(macro.point[2]) - s * cos(d2) + h * sin(d2), s, h


def _surface(macro: Macro, blade: _Blade, theta: Field, q: Field) -> tuple[Field, Field, Field]:
    """Points of the swept flank and their two tangents at cutter turns theta [rad] and blade coordinates q [mm]."""
    carry = blade.turn_ratio * theta
    arm = _turn(blade.axis, theta, macro.point + q[..., None] * blade.edge - blade.centre)
    place = blade.centre + arm
    swept = np.cross(blade.axis, arm) + blade.turn_ratio * np.cross(Z_AXIS, place)
    along = _turn(blade.axis, theta, np.broadcast_to(blade.edge, place.shape))
    return _turn(Z_AXIS, carry, place), _turn(Z_AXIS, carry, swept), _turn(Z_AXIS, carry, along)


def _solve_surface(macro: Macro, blade: _Blade, u: Field, v: Field) -> tuple[Field, Field]:
    """Places [mm] and outward unit normals of flank points, by Newton."""
    rho, height, s, h = _axial_section(macro, u, v)
    psi = macro.ring_spiral_rad
    trace = cos(psi) * macro.generatrix - sin(psi) * macro.transverse
    start = np.cross(blade.axis, macro.point - blade.centre) + blade.turn_ratio * np.cross(Z_AXIS, macro.point)
    theta, q = s / cos(psi) / float(start @ trace), h / float(blade.edge @ macro.normal)
    for _ in range(40):
        place, swept, along = _surface(macro, blade, theta, q)
        radius = np.hypot(place[..., 0], place[..., 1])
        miss_radius, miss_height = radius - rho, place[..., 2] - height
        if max(float(np.abs(miss_radius).max()), float(np.abs(miss_height).max())) < 1e-11:
            normal = _unit(np.cross(swept, along))
            outward = _turn(Z_AXIS, blade.turn_ratio * theta, _turn(blade.axis, theta, np.broadcast_to(blade.normal, place.shape)))
            return place, normal * np.sign((normal * outward).sum(axis=-1))[..., None]
        # the two unknowns of each point by Cramer's rule
        a = (place[..., 0] * swept[..., 0] + place[..., 1] * swept[..., 1]) / radius
        b = (place[..., 0] * along[..., 0] + place[..., 1] * along[..., 1]) / radius
        c, d = swept[..., 2], along[..., 2]
        determinant = a * d - b * c
        if not np.all(np.isfinite(determinant)) or np.any(determinant == 0.0):
            break
        theta = theta - (miss_radius * d - miss_height * b) / determinant
        q = q - (a * miss_height - c * miss_radius) / determinant
    raise InvalidInput("", say("No tooth of this shape can be cut. Check the diameter, the offset and the cutter radius."))


def _rolls(macro: Macro, place: Field, normal: Field) -> tuple[Field, Field]:
    """Both ring turns at which points could meet the pinion, wrapped to (-pi, pi], [rad]; nan where they never do."""
    moment = np.cross(place, normal)
    ratio = macro.given.ring_teeth / macro.given.pinion_teeth
    argument = (moment[..., 2] / ratio - macro.given.offset_mm * normal[..., 2]) / np.hypot(moment[..., 0], moment[..., 1])
    argument = np.where(np.abs(argument) <= 1.0, argument, np.nan)
    base, swing = -np.arctan2(moment[..., 1], moment[..., 0]), np.arccos(argument)
    return tuple((base + sign * swing + pi) % (2.0 * pi) - pi for sign in (1.0, -1.0))  # type: ignore[return-value]


def conjugate_field(macro: Macro, *, convex: bool, u: Field, v: Field) -> FlankField:
    """Where the pinion touches flank points (u, v), and how the flank stands there.

    Parameters
    ----------
    macro : Macro
        The set.
    convex : bool
        The outward-curved ring flank, else the hollow one.
    u, v : Field
        0 toe to 1 heel, 0 root to 1 tip, one shape, [-].

    Returns
    -------
    FlankField
        In the fixed frame.

    Raises
    ------
    InvalidInput
        When no such tooth can be cut, or the flanks do not meet at their middle.

    Notes
    -----
    M = X x n; meshing n.v_rel = 0 gives M_x cos phi - M_y sin phi = M_z/i - E n_z. Of the two roots the branch with the smaller
    |phi| at the middle of the flank is used everywhere.
    """
    blade = _blade(macro, convex)
    middle = _solve_surface(macro, blade, np.array([0.5]), np.array([0.5]))
    choices = [float(one[0]) for one in _rolls(macro, *middle)]
    if all(np.isnan(choices)):
        raise InvalidInput("", say("The flanks of this gear set never meet. Check the offset and the tooth counts."))
    branch = int(np.nanargmin(np.abs(choices)))
    place, normal = _solve_surface(macro, blade, u, v)
    roll = _rolls(macro, place, normal)[branch]
    lever = np.abs(np.cross(place, normal)[..., 2])
    turn = np.nan_to_num(roll)
    return FlankField(u=u, v=v, place=_turn(Z_AXIS, turn, place), normal=_turn(Z_AXIS, turn, normal), lever_mm=lever, roll_rad=roll)
