"""Axes in space: from what a workshop reads to unit vectors, and from unit vectors to joint and plane angles.

People measure X rearward, Y left, Z up, which is a left-handed frame. Everything here works in X rearward, Y right, Z up: only there do
cross products give plane angles and clocking of the right sign.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import atan, cos, degrees, radians, tan
from typing import Any, Literal

import numpy as np
import numpy.typing as npt

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import NOTHING, Said, say

Vectors = npt.NDArray[np.float64]
SideKind = Literal["projected", "inclinometer"]
Chain = Literal["rear", "front"]

STRAIGHT_RAD = radians(1e-7)
"""Below this a joint is straight and has no plane of its own."""


@dataclass(frozen=True, slots=True, kw_only=True)
class AxisAngles:
    """Slope of a member, + = its axle end is lower, and plan angle, + = its axle end lies farther left, both [deg]."""

    side_deg: float
    plan_deg: float = 0.0
    side_kind: SideKind = "projected"

    def __post_init__(self) -> None:
        for name in ("side_deg", "plan_deg"):
            checks.within(name, getattr(self, name), -80.0, 80.0, say("Slope must be less than 80 degrees."))


def projected_side_rad(side_deg: float, plan_deg: float, kind: SideKind) -> float:
    """Side-view slope: tan s_projected = tan s_inclinometer / cos p, [rad]."""
    side, plan = radians(side_deg), radians(plan_deg)
    return side if kind == "projected" else atan(tan(side) / cos(plan))


def from_angles(axis: AxisAngles, chain: Chain = "rear") -> Vectors:
    """Unit vector in people's frame: (sx, tan p, -tan s), sx = +1 for a rear chain and -1 for a front one."""
    side = projected_side_rad(axis.side_deg, axis.plan_deg, axis.side_kind)
    along = 1.0 if chain == "rear" else -1.0
    return unit(np.array([along, tan(radians(axis.plan_deg)), -tan(side)]))


def axis_vector(axis: AxisAngles | list[float], field: str, chain: Chain = "rear") -> Vectors:
    """An axis given either way as a unit vector in people's frame.

    Raises
    ------
    InvalidInput
        When a vector has not three numbers, or no length.
    """
    if isinstance(axis, AxisAngles):
        return from_angles(axis, chain)
    return unit(point(axis, field, say("An axis needs a direction: its three numbers cannot all be 0."), least=1e-9))


def point(given: list[float], field: str, sentence: Said = NOTHING, *, least: float = 0.0) -> Vectors:
    """Three numbers as a vector.

    Raises
    ------
    InvalidInput
        When there are not three, or their length is under `least`, or absurd.
    """
    if len(given) != 3:
        raise InvalidInput(field, say("Give three numbers: rearward, left, up."))
    found = np.array(given, dtype=float)
    if np.abs(found).max() > 30000.0:
        raise InvalidInput(field, say("That is over 30 m. Give it in millimetres."))
    if float(np.linalg.norm(found)) < least:
        raise InvalidInput(field, sentence)
    return found


def unit(vectors: Vectors) -> Vectors:
    """Vectors along the last dimension, of length 1."""
    found: Vectors = vectors / np.linalg.norm(vectors, axis=-1, keepdims=True)
    return found


def mirrored(vectors: Vectors) -> Vectors:
    """From people's left-handed frame to the right-handed one inside, or back."""
    found: Vectors = vectors * np.array([1.0, -1.0, 1.0])
    return found


def along(axis: Vectors, neighbour: Vectors) -> Vectors:
    """The axis turned so that it points along the chain, as its neighbouring shaft does."""
    turned: Vectors = np.where(_dot(axis, neighbour)[..., None] < 0.0, -axis, axis)
    return turned


def _dot(a: Vectors, b: Vectors) -> Vectors:
    found: Vectors = np.einsum("...i,...i->...", a, b)
    return found


def _cross(a: Vectors, b: Vectors) -> Vectors:
    """Written out: numpy's own spends more on small arrays than on the products."""
    ax, ay, az = a[..., 0], a[..., 1], a[..., 2]
    bx, by, bz = b[..., 0], b[..., 1], b[..., 2]
    return np.stack([ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx], axis=-1)


def wrap90(angle: Any) -> Any:
    """Fork lines and joint planes repeat every half turn: into (-90, 90], [deg]."""
    found = np.mod(np.asarray(angle) + 90.0, 180.0) - 90.0
    return np.where(found <= -90.0 + 1e-12, 90.0, found)


@dataclass(frozen=True, slots=True)
class Joints:
    """Angles of all joints of chains, driver to axle.

    Parameters
    ----------
    beta : array (..., joints)
        Joint angles, [rad].
    eps : array (..., shafts)
        Plane of the rear joint against that of the front one, about each shaft, in (-90, 90], [deg].
    normal : array (..., joints, 3)
        Unit normals of the joint planes, right-handed frame.
    """

    beta: Vectors
    eps: Vectors
    normal: Vectors


def joints_of(axes: Vectors) -> Joints:
    """Joint and plane angles of a chain of axes.

    Parameters
    ----------
    axes : array (..., members, 3)
        Unit vectors along the chain, right-handed frame.

    Returns
    -------
    Joints
        beta = atan2(|a x b|, a . b); eps = atan2(d . (n_k x n_(k+1)), n_k . n_(k+1)).

    Notes
    -----
    A straight joint takes its neighbour's plane; it has no angle, so the plane changes no result. Source: the torsion of three
    successive directions, as in any text on spatial mechanisms.
    """
    before, behind = axes[..., :-1, :], axes[..., 1:, :]
    across = _cross(before, behind)
    size = np.linalg.norm(across, axis=-1)
    beta = np.arctan2(size, _dot(before, behind))
    straight = size < STRAIGHT_RAD
    normal = across / np.where(straight, 1.0, size)[..., None]
    if straight.any():
        normal = _borrowed(normal, straight, axes)
    shafts = axes[..., 1:-1, :]
    front, rear = normal[..., :-1, :], normal[..., 1:, :]
    eps = np.degrees(np.arctan2(_dot(shafts, _cross(front, rear)), _dot(front, rear)))
    return Joints(beta, wrap90(eps), normal)


def _borrowed(normal: Vectors, straight: npt.NDArray[np.bool_], axes: Vectors) -> Vectors:
    """Planes of straight joints: the one before, else the next that has one, else any."""
    found = normal.copy()
    known = ~straight
    count = normal.shape[-2]
    for order, step in ((range(1, count), -1), (range(count - 2, -1, -1), 1)):
        for joint in order:
            take = ~known[..., joint] & known[..., joint + step]
            found[..., joint, :] = np.where(take[..., None], found[..., joint + step, :], found[..., joint, :])
            known[..., joint] |= take
    lateral = _cross(axes[..., :-1, :], np.broadcast_to(np.array([0.0, 0.0, 1.0]), axes[..., :-1, :].shape))
    spare = lateral / np.maximum(np.linalg.norm(lateral, axis=-1, keepdims=True), 1e-12)
    return np.where(known[..., None], found, spare)


def plane_clock_deg(normal: Vectors, shaft: Vectors) -> Vectors:
    """Where a joint's plane stands on a shaft: 0 = upright, + clockwise looking along the chain, in (-90, 90], [deg]."""
    edge = _cross(shaft, normal)
    up = np.broadcast_to(np.array([0.0, 0.0, 1.0]), shaft.shape)
    reference = up - shaft * _dot(up, shaft)[..., None]
    found: Vectors = wrap90(np.degrees(np.arctan2(_dot(shaft, _cross(reference, edge)), _dot(reference, edge))))
    return found


def side_deg(axis: Vectors) -> float:
    """Side-view slope of an axis in people's frame, + = the axle end is lower, [deg]."""
    return degrees(atan(-axis[2] / abs(axis[0]))) if axis[0] else 90.0
