"""Joint angles from measured joint centres."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from amber_core.driveline import axes
from amber_core.driveline.axes import AxisAngles, Chain, Joints, Vectors
from amber_core.driveline.chain import MOST_JOINTS, JointChain, JointKind, shaft_rpm_ok
from amber_core.driveline.equivalent import Excitation, from_terms
from amber_core.errors import InvalidInput
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredPoints:
    """Joint centres, driver first [mm: rearward, left, up], both end axes, clocking [deg], kinds, shaft speed [rpm], inertias [kg m^2]."""

    points_mm: list[list[float]]
    output_axis: list[float] | AxisAngles
    pinion_axis: list[float] | AxisAngles
    clock_deg: list[float] | None = None
    joints: list[JointKind] | None = None
    front_share: list[float] | None = None
    rpm: float = 0.0
    inertia_kgm2: list[float] | None = None
    chain: Chain = "rear"

    def __post_init__(self) -> None:
        if not 2 <= len(self.points_mm) <= MOST_JOINTS:
            raise InvalidInput("points_mm", say("Give 2 to {most_joints} joint centres.", most_joints=MOST_JOINTS))
        for index, one in enumerate(self.points_mm):
            axes.point(one, f"points_mm[{index}]")
            if index and float(np.linalg.norm(np.subtract(one, self.points_mm[index - 1]))) < 1.0:
                raise InvalidInput(f"points_mm[{index}]", say("Two joints are in the same place. Check the figures."))
        for name in ("output_axis", "pinion_axis"):
            axes.axis_vector(getattr(self, name), name, self.chain)
        shaft_rpm_ok("rpm", self.rpm)

    def axes(self) -> Vectors:
        """Unit vectors (members, 3) along the chain, right-handed frame; end axes turned to point along it."""
        places = np.array(self.points_mm)
        shafts = axes.unit(np.diff(places, axis=0))
        out = axes.along(axes.axis_vector(self.output_axis, "output_axis", self.chain), shafts[0])
        pin = axes.along(axes.axis_vector(self.pinion_axis, "pinion_axis", self.chain), shafts[-1])
        return axes.mirrored(np.vstack([out, shafts, pin]))


class Clocked(Protocol):
    """What is told of a chain beside its geometry."""

    @property
    def clock_deg(self) -> list[float] | None:
        """Clocking of every shaft, [deg]."""

    @property
    def joints(self) -> list[JointKind] | None:
        """Kind of every joint."""

    @property
    def front_share(self) -> list[float] | None:
        """Share of the front half of every double Cardan."""

    @property
    def inertia_kgm2(self) -> list[float] | None:
        """Inertia of every shaft, [kg m^2]."""


def measured_chain(found: Joints, told: Clocked) -> JointChain:
    """The chain of joints whose geometry was measured.

    Raises
    ------
    InvalidInput
        Where lists do not fit the number of joints or shafts.
    """
    chain = JointChain(
        joint_angle_deg=np.degrees(found.beta).tolist(),
        plane_angle_deg=found.eps.tolist(),
        clock_deg=told.clock_deg,
        joints=told.joints,
        front_share=told.front_share,
    )
    if told.inertia_kgm2 is not None and len(told.inertia_kgm2) != chain.shaft_count:
        raise InvalidInput("inertia_kgm2", say("Give an inertia for every propshaft: {shaft_count}.", shaft_count=chain.shaft_count))
    return chain


@dataclass(frozen=True, slots=True, kw_only=True)
class PointAngles(Excitation):
    """Angles [deg], lengths [mm], where the joint planes stand on each shaft [deg, 0 upright, + clockwise along the chain]; excitation."""

    joint_angle_deg: list[float]
    plane_angle_deg: list[float]
    shaft_length_mm: list[float]
    plane_clock_front_deg: list[float]
    plane_clock_rear_deg: list[float]


def point_angles(given: MeasuredPoints) -> PointAngles:
    """Joint angles, planes and excitation of a driveline measured by coordinates.

    Parameters
    ----------
    given : MeasuredPoints
        P_j [mm], end axes, clocking [deg], n [rpm].

    Returns
    -------
    PointAngles
        beta_j, eps_k [deg], |P_(k+1) - P_k| [mm], clock positions of the planes [deg], and the figures of `driveline.equivalent`.

    Raises
    ------
    InvalidInput
        From MeasuredPoints, with the field.

    Notes
    -----
    Shaft axis = unit(P_(k+1) - P_k). For a double Cardan give the point midway between its crosses.

    Examples
    --------
    >>> found = point_angles(MeasuredPoints(points_mm=[[0, 0, 0], [1400, 130, -120]], output_axis=[1, 0, -0.034921],
    ...     pinion_axis=[1, 0, 0.017455], rpm=2800))
    >>> round(found.b_eq_deg, 3), round(found.plane_angle_deg[0], 2)
    (6.426, 19.48)
    """
    directions = given.axes()
    found = axes.joints_of(directions)
    shafts = directions[1:-1]
    chain = measured_chain(found, given)
    shaken = from_terms(chain.terms(), given.rpm, given.inertia_kgm2)
    return PointAngles(
        joint_angle_deg=chain.joint_angle_deg,
        plane_angle_deg=found.eps.tolist(),
        shaft_length_mm=np.linalg.norm(np.diff(np.array(given.points_mm), axis=0), axis=1).tolist(),
        plane_clock_front_deg=axes.plane_clock_deg(found.normal[:-1], shafts).tolist(),
        plane_clock_rear_deg=axes.plane_clock_deg(found.normal[1:], shafts).tolist(),
        **{name: getattr(shaken, name) for name in Excitation.__dataclass_fields__},
    )
