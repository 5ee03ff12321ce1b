"""Joint angles from what an inclinometer or a drawing says."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from math import atan, cos, degrees, hypot, radians, tan

import numpy as np

from amber_core.driveline import axes
from amber_core.driveline.axes import AxisAngles, Chain, SideKind, Vectors
from amber_core.errors import InvalidInput
from amber_core.words import say

MOST_SHAFTS = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class MemberAngles:
    """Slope and plan angle [deg] of every member, driver first and pinion last; what the slopes are; which way the chain runs."""

    members: list[list[float]]
    side_kind: SideKind = "projected"
    chain: Chain = "rear"

    def __post_init__(self) -> None:
        if not 2 <= len(self.members) <= MOST_SHAFTS + 2:
            raise InvalidInput("members", say("Give two to eight members: gearbox output, propshafts, pinion."))
        for index, one in enumerate(self.members):
            if len(one) != 2:
                raise InvalidInput(f"members[{index}]", say("Give two angles for each member: slope and plan angle."))
            try:
                AxisAngles(side_deg=one[0], plan_deg=one[1])
            except InvalidInput as wrong:
                raise wrong.under(f"members[{index}]") from None

    def axes(self) -> Vectors:
        """Unit vectors (members, 3) along the chain, right-handed frame."""
        given = [AxisAngles(side_deg=side, plan_deg=plan, side_kind=self.side_kind) for side, plan in self.members]
        return axes.mirrored(np.array([axes.from_angles(one, self.chain) for one in given]))


@dataclass(frozen=True, slots=True, kw_only=True)
class JointAngles:
    """True angle of each joint [deg], plane angle of each shaft [deg, repeating every 180], and the flat approximation [deg]."""

    joint_angle_deg: list[float]
    plane_angle_deg: list[float]
    hypot_deg: list[float]


def joint_angles(given: MemberAngles) -> JointAngles:
    """Joint and plane angles of a chain whose members' slopes and plan angles were read.

    Parameters
    ----------
    given : MemberAngles
        s, p of each member, [deg].

    Returns
    -------
    JointAngles
        beta_j of joints 1..n+1, eps_k of shafts 1..n, and sqrt(ds^2 + dp^2) of the angles as given, [deg].

    Raises
    ------
    InvalidInput
        From MemberAngles, with the field.

    Notes
    -----
    d = (sx, tan p, -tan s); beta = atan2(|a x b|, a . b). The flat root always errs high, and is shown to be compared with, never used.

    Examples
    --------
    >>> [round(one, 3) for one in joint_angles(MemberAngles(members=[[4, 0], [9.5, 4.2], [3, 0]])).joint_angle_deg]
    [6.882, 7.703]
    """
    found = axes.joints_of(given.axes())
    return JointAngles(
        joint_angle_deg=np.degrees(found.beta).tolist(),
        plane_angle_deg=found.eps.tolist(),
        hypot_deg=[hypot(b[0] - a[0], b[1] - a[1]) for a, b in pairwise(given.members)],
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class ConvertedAxis:
    """The same axis as a side-view slope, as an inclinometer reads it, and as a unit vector (rearward, left, up)."""

    side_projected_deg: float
    plan_deg: float
    inclinometer_deg: float
    axis: list[float]


def convert_axis(given: AxisAngles) -> ConvertedAxis:
    """An axis as a side view shows it and as an inclinometer laid on it reads it.

    Parameters
    ----------
    given : AxisAngles
        s, p, [deg], and which of the two s is.

    Returns
    -------
    ConvertedAxis
        Both slopes, p [deg], and the unit vector of a rear chain [-].

    Raises
    ------
    InvalidInput
        From AxisAngles, with the field.

    Notes
    -----
    tan s_projected = tan s_inclinometer / cos p.

    Examples
    --------
    >>> round(convert_axis(AxisAngles(side_deg=12, plan_deg=9, side_kind="inclinometer")).side_projected_deg, 4)
    12.1452
    """
    projected = axes.projected_side_rad(given.side_deg, given.plan_deg, given.side_kind)
    return ConvertedAxis(
        side_projected_deg=degrees(projected),
        plan_deg=given.plan_deg,
        inclinometer_deg=degrees(atan(tan(projected) * cos(radians(given.plan_deg)))),
        axis=axes.from_angles(given).tolist(),
    )
