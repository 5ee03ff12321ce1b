"""Pitch-plane geometry of a spiral bevel or hypoid set: where the pitch point lies and how the teeth stand there.

Symbols: D ring diameter, E offset, psi spiral angles, alpha pressure angle, r_c cutter radius, b face; d1, d2 pitch angles
of pinion and ring; P pitch point, l pitch generatrix of the ring, N pitch normal, t = N x l. Frame: origin where the axes
cross, z along the ring axis from its back to its teeth, x along the pinion's shank; the pinion axis is y = -E, z = 0.
Source: general theory of hypoid pitch planes; the condition is that the line through P along N meets both axes.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import asin, atan, atan2, cos, hypot, inf, pi, radians, sin, tan

import numpy as np
from numpy.typing import NDArray

from amber_core.errors import InvalidInput
from amber_core.words import say

Vector = NDArray[np.float64]

HYPOID_FROM_MM = 0.01
"""A smaller offset cannot be measured, and the set is a spiral bevel, [mm]."""

X_AXIS: Vector = np.array([1.0, 0.0, 0.0])
Z_AXIS: Vector = np.array([0.0, 0.0, 1.0])


@dataclass(frozen=True, slots=True, kw_only=True)
class MacroInput:
    """A complete description: counts [-], lengths [mm], angles [rad]; ring_pitch_rad None when it is to be found."""

    pinion_teeth: int
    ring_teeth: int
    diameter_mm: float
    offset_mm: float
    pinion_spiral_rad: float
    pressure_rad: float
    cutter_radius_mm: float
    face_mm: float
    uniform: bool
    blade_groups: int
    ring_pitch_rad: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Macro:
    """The set at its pitch point; lengths [mm], angles [rad], vectors of shape (3,)."""

    given: MacroInput
    ring_pitch_rad: float
    pinion_pitch_rad: float
    ring_spiral_rad: float
    limit_rad: float
    mean_radius_mm: float
    cone_distance_mm: float
    module_mm: float
    depth_mm: float
    addendum_mm: float
    dedendum_mm: float
    dedendum_rad: float
    addendum_rad: float
    pinion_radius_mm: float
    point: Vector
    generatrix: Vector
    normal: Vector
    transverse: Vector

    def side_pressure_rad(self, convex: bool) -> float:
        """Pressure angle of one ring flank, [rad]: the limit angle tilts both the same way."""
        return self.given.pressure_rad + (self.limit_rad if convex else -self.limit_rad)


@dataclass(frozen=True, slots=True)
class _Pitch:
    point: Vector
    generatrix: Vector
    normal: Vector
    transverse: Vector
    pinion_spiral: float
    ring_spiral: float
    pinion_pitch: float
    pinion_radius: float
    mean_radius: float


def _pitch(given: MacroInput, ring_pitch: float, offset_angle: float) -> _Pitch:
    """Pitch point and frames for a ring pitch angle d2 and an offset angle eta, [rad]."""
    mean_radius = given.diameter_mm / 2.0 - given.face_mm / 2.0 * sin(ring_pitch)
    ce, se, cd, sd = cos(offset_angle), sin(offset_angle), cos(ring_pitch), sin(ring_pitch)
    turn = given.offset_mm / (mean_radius * se) - 1.0
    point = np.array([mean_radius * ce, -mean_radius * se, -mean_radius * turn * sd / cd])
    generatrix = np.array([sd * ce, -sd * se, -cd])
    normal = np.array([cd * ce, -cd * se, sd])
    transverse = np.cross(normal, generatrix)
    ratio = given.ring_teeth / given.pinion_teeth
    sliding = np.cross(Z_AXIS, point) - ratio * np.cross(X_AXIS, point - np.array([0.0, -given.offset_mm, 0.0]))
    trace = sliding / np.linalg.norm(sliding)
    if trace @ generatrix < 0.0:
        trace = -trace
    pinion_line = X_AXIS - (X_AXIS @ normal) * normal
    pinion_line = pinion_line / np.linalg.norm(pinion_line)
    return _Pitch(
        point=point,
        generatrix=generatrix,
        normal=normal,
        transverse=transverse,
        pinion_spiral=atan2(-float(trace @ np.cross(normal, pinion_line)), float(trace @ pinion_line)),
        ring_spiral=atan2(-float(trace @ transverse), float(trace @ generatrix)),
        pinion_pitch=asin(float(normal[0])),
        pinion_radius=hypot(float(point[1]) + given.offset_mm, float(point[2])),
        mean_radius=mean_radius,
    )


def _limit(pitch: _Pitch, ring_pitch: float) -> tuple[float, float]:
    """Limit pressure angle [rad] and limit curvature [1/mm] at the pitch point."""
    p1, p2, d1, d2 = pitch.pinion_spiral, pitch.ring_spiral, pitch.pinion_pitch, ring_pitch
    a1, a2 = pitch.pinion_radius / sin(d1), pitch.mean_radius / sin(d2)
    tangent = -(tan(d1) * tan(d2) / cos(p1 - p2)) * (a1 * sin(p1) - a2 * sin(p2)) / (a1 * tan(d1) + a2 * tan(d2))
    angle = atan(tangent)
    below = -tangent * (tan(p1) / (a1 * tan(d1)) + tan(p2) / (a2 * tan(d2))) + 1.0 / (a1 * cos(p1)) - 1.0 / (a2 * cos(p2))
    above = (tan(p1) - tan(p2)) / cos(angle)
    return angle, below / above if above else inf


def _solve_offset_angle(given: MacroInput, ring_pitch: float) -> _Pitch:
    from scipy.optimize import brentq

    mean_radius = given.diameter_mm / 2.0 - given.face_mm / 2.0 * sin(ring_pitch)
    if given.offset_mm >= mean_radius:
        raise InvalidInput("offset_mm", say("The offset is larger than the mean radius of the ring gear. Check both."))
    greatest = asin(given.offset_mm / mean_radius)

    def miss(offset_angle: float) -> float:
        return _pitch(given, ring_pitch, offset_angle).pinion_spiral - given.pinion_spiral_rad

    low, high = 0.02 * greatest, 0.99999 * greatest
    if miss(low) * miss(high) > 0.0:
        raise InvalidInput("pinion_spiral_deg", say("No gear set with this offset has such a spiral angle. Check both."))
    return _pitch(given, ring_pitch, float(brentq(miss, low, high, xtol=1e-14, rtol=1e-14)))


def _solve_ring_pitch(given: MacroInput) -> float:
    """The ring pitch angle at which the limit curvature is the cutter's, [rad]."""
    from scipy.optimize import brentq

    def miss(ring_pitch: float) -> float:
        return _limit(_solve_offset_angle(given, ring_pitch), ring_pitch)[1] - 1.0 / given.cutter_radius_mm

    low, high = radians(62.0), radians(84.0)
    try:
        if miss(low) * miss(high) < 0.0:
            return float(brentq(miss, low, high, xtol=1e-13, rtol=1e-13))
    except InvalidInput:
        pass  # a bracket end that no spiral reaches: the proportion below stands in
    ratio = given.ring_teeth / given.pinion_teeth
    return atan(ratio / (1.0 + 0.2 * min(1.0, 8.0 * given.offset_mm / given.diameter_mm)))


def _bevel(given: MacroInput, ring_pitch: float) -> _Pitch:
    mean_radius = given.diameter_mm / 2.0 - given.face_mm / 2.0 * sin(ring_pitch)
    generatrix = np.array([sin(ring_pitch), 0.0, -cos(ring_pitch)])
    return _Pitch(
        point=generatrix * mean_radius / sin(ring_pitch),
        generatrix=generatrix,
        normal=np.array([cos(ring_pitch), 0.0, sin(ring_pitch)]),
        transverse=np.array([0.0, 1.0, 0.0]),
        pinion_spiral=given.pinion_spiral_rad,
        ring_spiral=given.pinion_spiral_rad,
        pinion_pitch=pi / 2.0 - ring_pitch,
        pinion_radius=mean_radius / tan(ring_pitch),
        mean_radius=mean_radius,
    )


@lru_cache(maxsize=64)
def build_macro(given: MacroInput) -> Macro:
    """Pitch point, angles and tooth proportions of a complete description.

    Parameters
    ----------
    given : MacroInput
        Counts [-], lengths [mm], angles [rad].

    Returns
    -------
    Macro
        The set at its pitch point.

    Raises
    ------
    InvalidInput
        When no set with this offset and spiral exists.

    Notes
    -----
    Mean normal module m_n = 2 R cos psi2 / z2; working depth 2 m_n; ring addendum a share c of it, 0.21 + 0.29/i^2 for a
    bevel, 0.17 for a hypoid and 0.15 with 8 pinion teeth or fewer. Sum of dedendum angles by duplex taper.
    """
    ratio = given.ring_teeth / given.pinion_teeth
    hypoid = given.offset_mm >= HYPOID_FROM_MM
    if hypoid:
        ring_pitch = given.ring_pitch_rad if given.ring_pitch_rad is not None else _solve_ring_pitch(given)
        pitch = _solve_offset_angle(given, ring_pitch)
        limit = _limit(pitch, ring_pitch)[0]
    else:
        ring_pitch = given.ring_pitch_rad if given.ring_pitch_rad is not None else atan(ratio)
        pitch, limit = _bevel(given, ring_pitch), 0.0
    module = 2.0 * pitch.mean_radius * cos(pitch.ring_spiral) / given.ring_teeth
    depth = 2.0 * module
    share = 0.21 + 0.29 / ratio**2 if not hypoid else (0.17 if given.pinion_teeth > 8 else 0.15)
    cone = pitch.mean_radius / sin(ring_pitch)
    taper = 0.0
    if not given.uniform:
        taper = pi * sin(ring_pitch) / (given.ring_teeth * cos(pitch.ring_spiral) * tan(given.pressure_rad))
        taper *= 1.0 - cone * sin(pitch.ring_spiral) / given.cutter_radius_mm
    return Macro(
        given=given,
        ring_pitch_rad=ring_pitch,
        pinion_pitch_rad=pitch.pinion_pitch,
        ring_spiral_rad=pitch.ring_spiral,
        limit_rad=limit,
        mean_radius_mm=pitch.mean_radius,
        cone_distance_mm=cone,
        module_mm=module,
        depth_mm=depth,
        addendum_mm=share * depth,
        dedendum_mm=(1.0 - share) * depth,
        dedendum_rad=taper * (1.0 - share),
        addendum_rad=taper * share,
        pinion_radius_mm=pitch.pinion_radius,
        point=pitch.point,
        generatrix=pitch.generatrix,
        normal=pitch.normal,
        transverse=pitch.transverse,
    )
