"""Everything about one driveline at one state: angles, planes, excitation, limits, and the course of one turn."""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np

from amber_core.driveline import axes
from amber_core.driveline.angles import MemberAngles
from amber_core.driveline.axes import AxisAngles, Chain, SideKind
from amber_core.driveline.chain import JointKind, rad_per_s, shaft_rpm_ok
from amber_core.driveline.clocking import Clocking, clocking_of, teeth_ok
from amber_core.driveline.equivalent import Excitation, from_terms
from amber_core.driveline.kinematics import course
from amber_core.driveline.limits import Allowed, HeldLimit, hold_chain
from amber_core.driveline.points import MeasuredPoints, measured_chain
from amber_core.errors import InvalidInput
from amber_core.words import say

TURN = 361


@dataclass(frozen=True, slots=True, kw_only=True)
class AnalyseQuestion:
    """Members as slopes and plan angles [deg], or joint centres [mm] and end axes; kinds, clocking [deg], spline teeth of the shafts (one
    number for all, or one each), shaft speed [rpm], inertias [kg m^2], limits."""

    members: list[list[float]] | None = None
    side_kind: SideKind = "projected"
    points_mm: list[list[float]] | None = None
    output_axis: list[float] | AxisAngles | None = None
    pinion_axis: list[float] | AxisAngles | None = None
    chain: Chain = "rear"
    joints: list[JointKind] | None = None
    front_share: list[float] | None = None
    clock_deg: list[float] | None = None
    teeth: list[int | None] | int | None = None
    rpm: float = 0.0
    inertia_kgm2: list[float] | None = None
    allowed: Allowed = field(default_factory=Allowed)

    def __post_init__(self) -> None:
        shaft_rpm_ok("rpm", self.rpm)
        if (self.members is None) == (self.points_mm is None):
            raise InvalidInput("members", say("Give either the members' angles or the joint centres."))
        for index, one in enumerate(self.teeth if isinstance(self.teeth, list) else [self.teeth]):
            teeth_ok(f"teeth[{index}]" if isinstance(self.teeth, list) else "teeth", one)

    def axes(self) -> axes.Vectors:
        """Unit vectors (members, 3) along the chain, right-handed frame.

        Raises
        ------
        InvalidInput
            With the field.
        """
        if self.members is not None:
            return MemberAngles(members=self.members, side_kind=self.side_kind, chain=self.chain).axes()
        assert self.points_mm is not None
        for name in ("output_axis", "pinion_axis"):
            if getattr(self, name) is None:
                raise InvalidInput(name, say("Joint centres need both end axes."))
        assert self.output_axis is not None and self.pinion_axis is not None
        return MeasuredPoints(points_mm=self.points_mm, output_axis=self.output_axis, pinion_axis=self.pinion_axis, chain=self.chain).axes()


@dataclass(frozen=True, slots=True, kw_only=True)
class Turn:
    """One turn of the driver [deg], the speed of every member over the driver's [-] (member 0 is the driver itself), and where the front
    yoke of every shaft stands, 0 = upright, + clockwise looking along the chain [deg]."""

    theta_deg: list[float]
    speed_ratio: list[list[float]]
    fork_clock_deg: list[list[float]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Analysed(Excitation):
    """Angles [deg], the flat approximation where angles were given [deg], lengths where points were [mm], clock positions of the joint
    planes [deg], plane angles that are mere noise, excitation, limits, best clocking of every shaft, one turn, greatest unevenness of
    the last member [%]."""

    joint_angle_deg: list[float]
    plane_angle_deg: list[float]
    plane_is_noise: list[bool]
    hypot_deg: list[float] | None
    shaft_length_mm: list[float] | None
    plane_clock_front_deg: list[float]
    plane_clock_rear_deg: list[float]
    limits: list[HeldLimit]
    clocking: list[Clocking]
    turn: Turn
    uneven_pct: float
    peak_acc_rad_s2: float


def analyse(given: AnalyseQuestion) -> Analysed:
    """The whole of one driveline for the desk.

    Parameters
    ----------
    given : AnalyseQuestion
        Angles [deg] or points [mm], n [rpm].

    Returns
    -------
    Analysed
        Outputs of `driveline.angles` or `.points` and of `.equivalent`, limits, and the exact course of one turn at 361 angles.

    Raises
    ------
    InvalidInput
        From AnalyseQuestion, with the field.

    Notes
    -----
    Below 1 degree a joint's plane is noise: 0.1 degree of reading error turns it by more than 6 degrees.

    Examples
    --------
    >>> found = analyse(AnalyseQuestion(members=[[3, 0], [7, 0], [3, 0]], rpm=3000))
    >>> round(found.b_eq_deg, 6), round(found.inertia_drive_rad_s2[0])
    (0.0, 481)
    """
    directions = given.axes()
    found = axes.joints_of(directions)
    chain = measured_chain(found, given)
    angles = chain.joint_angle_deg
    teeth = given.teeth if isinstance(given.teeth, list) else [given.teeth] * chain.shaft_count
    if len(teeth) != chain.shaft_count:
        raise InvalidInput(
            "teeth",
            say("Give the spline teeth of every shaft ({shaft_count}), null where it cannot be clocked.", shaft_count=chain.shaft_count),
        )
    terms = chain.terms()
    shaken = from_terms(terms, given.rpm, given.inertia_kgm2)
    theta = np.linspace(0.0, 360.0, TURN)
    moved = course(chain, np.radians(theta))
    shafts = directions[1:-1]
    clock_front = axes.plane_clock_deg(found.normal[:-1], shafts)
    hypot = None
    if given.members is not None:
        hypot = np.hypot(*np.diff(np.array(given.members), axis=0).T).tolist()
    return Analysed(
        joint_angle_deg=angles,
        plane_angle_deg=found.eps.tolist(),
        plane_is_noise=[min(a, b) < 1.0 for a, b in pairwise(angles)],
        hypot_deg=hypot,
        shaft_length_mm=_lengths(given.points_mm),
        plane_clock_front_deg=clock_front.tolist(),
        plane_clock_rear_deg=axes.plane_clock_deg(found.normal[1:], shafts).tolist(),
        limits=hold_chain(angles, chain.kinds, shaken, given.rpm, given.allowed),
        clocking=[clocking_of(terms, clock, number, many) for number, (clock, many) in enumerate(zip(chain.clocks, teeth, strict=True), 1)],
        turn=Turn(
            theta_deg=theta.tolist(),
            speed_ratio=[[1.0] * TURN, *moved.speed.tolist()],
            fork_clock_deg=(np.degrees(moved.fork[:-1]) + clock_front[:, None]).tolist(),
        ),
        uneven_pct=float(100.0 * (moved.speed[-1].max() - 1.0)),
        peak_acc_rad_s2=float(rad_per_s(given.rpm) ** 2 * np.abs(moved.bend[-1]).max()),
        **{name: getattr(shaken, name) for name in Excitation.__dataclass_fields__},
    )


def _lengths(points_mm: list[list[float]] | None) -> list[float] | None:
    if points_mm is None:
        return None
    found: list[float] = np.linalg.norm(np.diff(np.array(points_mm), axis=0), axis=1).tolist()
    return found
