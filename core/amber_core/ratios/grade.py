"""Grades that force and grip allow."""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, atan, degrees, pi, sqrt, tan
from typing import Literal

from amber_core import checks
from amber_core.ratios.limits import circumference_ok, ratio_ok
from amber_core.verdicts import Reason
from amber_core.words import say

GRAVITY_M_S2 = 9.80665


@dataclass(frozen=True, slots=True, kw_only=True)
class GradeQuestion:
    """Engine torque [Nm], total ratio [-], efficiency [-], circumference [m], mass with load and trailer [kg], rolling resistance [-].

    `drag_n` [N] is taken off; for starting, `start_accel_m_s2` with `rotating_factor` for the turning masses.
    """

    torque_nm: float
    total_ratio: float
    circumference_m: float
    mass_kg: float
    efficiency: float = 0.88
    rolling: float = 0.015
    drag_n: float = 0.0
    start_accel_m_s2: float = 0.0
    rotating_factor: float = 1.0

    def __post_init__(self) -> None:
        checks.within("torque_nm", self.torque_nm, 0.0, 20000.0, say("Engine torque must be 0 to 20 000 Nm."))
        ratio_ok("total_ratio", self.total_ratio, 1000.0)
        circumference_ok("circumference_m", self.circumference_m)
        checks.within("mass_kg", self.mass_kg, 50.0, 200000.0, say("Mass must be 50 to 200 000 kg."))
        checks.within("efficiency", self.efficiency, 0.2, 1.0, say("Driveline's efficiency must be 0.2 to 1."))
        checks.within("rolling", self.rolling, 0.0, 0.5, say("Rolling resistance must be 0 to 0.5."))
        checks.within("drag_n", self.drag_n, 0.0, 1e6, say("Drag must be 0 to 1 000 000 N."))
        checks.within("start_accel_m_s2", self.start_accel_m_s2, 0.0, 10.0, say("Acceleration must be 0 to 10 m/s2."))
        checks.within("rotating_factor", self.rotating_factor, 1.0, 10.0, say("Factor for turning masses must be 1 to 10."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Grade:
    """Wheel force [N] and the grade it climbs, [deg] and [%]; None where the force exceeds the weight and only grip limits."""

    force_n: float
    angle_deg: float | None
    grade_pct: float | None
    only_grip_limits: bool
    reasons: list[Reason]


def climbable(share: float, rolling: float) -> float | None:
    """Slope on which a force of `share` of the weight holds against rolling resistance, [rad]; None when it would lift the vehicle."""
    limit = sqrt(1.0 + rolling**2)
    return None if share >= limit else asin(max(-1.0, share / limit)) - atan(rolling)


def grade(given: GradeQuestion) -> Grade:
    """The grade that an engine's torque can climb.

    Parameters
    ----------
    given : GradeQuestion
        T [Nm], i [-], eta [-], C [m], m [kg], f [-], drag [N], a [m/s2], k [-].

    Returns
    -------
    Grade
        F [N], slope [deg], [%].

    Raises
    ------
    InvalidInput
        From GradeQuestion, with the field.

    Notes
    -----
    F = T i eta 2 pi / C; sin q + f cos q = (F - drag - m k a) / (m g) = r, so q = asin(r / sqrt(1 + f^2)) - atan f; grade 100 tan q.

    Examples
    --------
    >>> question = GradeQuestion(torque_nm=300, total_ratio=26, efficiency=0.85, circumference_m=2.43, mass_kg=2400, rolling=0.02)
    >>> round(grade(question).grade_pct)
    102
    """
    force = given.torque_nm * given.total_ratio * given.efficiency * 2.0 * pi / given.circumference_m
    left = force - given.drag_n - given.mass_kg * given.rotating_factor * given.start_accel_m_s2
    slope = climbable(left / (given.mass_kg * GRAVITY_M_S2), given.rolling)
    if slope is None:
        text = say("The force is more than the weight, so only grip limits the grade.")
        return Grade(force_n=force, angle_deg=None, grade_pct=None, only_grip_limits=True, reasons=[Reason(code="grip", text=text)])
    reasons = (
        [Reason(code="downhill", text=say("It does not hold even level ground: the force is less than the resistance."))]
        if slope < 0.0
        else []
    )
    return Grade(force_n=force, angle_deg=degrees(slope), grade_pct=100.0 * tan(slope), only_grip_limits=False, reasons=reasons)


@dataclass(frozen=True, slots=True, kw_only=True)
class GripQuestion:
    """Friction and rolling resistance [-], what is driven; wheelbase, centre of gravity's height and distance to the undriven axle [m]."""

    mu: float
    drive: Literal["rwd", "fwd", "awd", "4wd", "all"]
    rolling: float = 0.015
    wheelbase_m: float = 2.7
    cg_height_m: float = 0.6
    cg_to_undriven_axle_m: float = 1.3

    def __post_init__(self) -> None:
        checks.within("mu", self.mu, 0.0, 2.0, say("Friction must be 0 to 2."))
        checks.within("rolling", self.rolling, 0.0, 0.5, say("Rolling resistance must be 0 to 0.5."))
        checks.within("wheelbase_m", self.wheelbase_m, 0.5, 15.0, say("Wheelbase must be 0.5 to 15 m."))
        checks.within("cg_height_m", self.cg_height_m, 0.0, 5.0, say("Centre of gravity height must be 0 to 5 m."))
        checks.within(
            "cg_to_undriven_axle_m",
            self.cg_to_undriven_axle_m,
            0.0,
            self.wheelbase_m,
            say("The centre of gravity must be between the axles."),
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Grip:
    """The grade that grip allows, [deg] and [%]; None where it would tip over first."""

    angle_deg: float | None
    grade_pct: float | None
    reasons: list[Reason]


def grip(given: GripQuestion) -> Grip:
    """The grade that the driven wheels' grip allows.

    Parameters
    ----------
    given : GripQuestion
        mu, f [-], L, h, a or b [m].

    Returns
    -------
    Grip
        Slope [deg], [%].

    Raises
    ------
    InvalidInput
        From GripQuestion, with the field.

    Notes
    -----
    All driven: tan q = mu - f. Rear driven: tan q = (mu a / L - f) / (1 - mu h / L), a behind the front axle. Front driven:
    tan q = (mu b / L - f) / (1 + mu h / L), b ahead of the rear axle.

    Examples
    --------
    >>> round(grip(GripQuestion(mu=0.7, rolling=0.02, drive="awd")).grade_pct, 6)
    68.0
    """
    part = given.mu * given.cg_to_undriven_axle_m / given.wheelbase_m - given.rolling
    lever = given.mu * given.cg_height_m / given.wheelbase_m
    if given.drive == "rwd" and lever >= 1.0:
        text = say("All the weight would be on the driven axle: the front lifts before the wheels slip.")
        return Grip(angle_deg=None, grade_pct=None, reasons=[Reason(code="tips", text=text, field="cg_height_m")])
    slope = {"rwd": part / (1.0 - lever) if lever < 1.0 else 0.0, "fwd": part / (1.0 + lever)}.get(given.drive, given.mu - given.rolling)
    return Grip(angle_deg=degrees(atan(slope)), grade_pct=100.0 * slope, reasons=[])
