"""Exact motion of a chain of joints: turn, speed and acceleration of every member."""

from __future__ import annotations

from dataclasses import dataclass
from math import radians

import numpy as np
import numpy.typing as npt

from amber_core import checks
from amber_core.driveline.chain import JointChain, rad_per_s, shaft_rpm_ok
from amber_core.words import say

Field = npt.NDArray[np.float64]
TURN_STEPS = 7200


@dataclass(frozen=True, slots=True, kw_only=True)
class MotionQuestion(JointChain):
    """A chain, the angle of the driver's yoke from the first joint's plane [deg], and the driver's steady speed [rpm]."""

    theta_deg: float
    rpm: float = 0.0

    def __post_init__(self) -> None:
        # a slotted dataclass is made anew by its decorator, so the parent is named
        JointChain.__post_init__(self)
        checks.within("theta_deg", self.theta_deg, -3600.0, 3600.0, say("Angle must be within ten turns."))
        shaft_rpm_ok("rpm", self.rpm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Motion:
    """Of every member behind a joint: turn ahead of the driver [deg], speed over the driver's [-], angular acceleration [rad/s^2]."""

    deviation_deg: list[float]
    speed_ratio: list[float]
    acceleration_rad_s2: list[float]


@dataclass(frozen=True, slots=True)
class Course:
    """The same over many driver angles: arrays (joints, angles); ahead [rad], speed V [-], A = dV/dtheta along the chain [-], and
    where the driven yoke of every joint stands from its plane [rad]."""

    ahead: Field
    speed: Field
    bend: Field
    fork: Field


def course(chain: JointChain, theta: Field) -> Course:
    """Motion of every member at driver yoke angles `theta` [rad] from the first joint's plane.

    Notes
    -----
    psi = th + atan2((1 - c) sin th cos th, c cos^2 th + sin^2 th); R = c / (1 - S cos^2 th); R' = -c S sin 2 th / (1 - S cos^2 th)^2;
    th_(j+1) = psi_j + 90 + clock_j - eps_j; V_j = R_j V_(j-1); A_j = R'_j V_(j-1)^2 + R_j A_(j-1). A centred double Cardan or a CV joint
    passes psi = th and adds 0 instead of 90. Source: spatial kinematics of the cross in any machine-dynamics text.
    """
    at, speed, bend = theta, np.ones_like(theta), np.zeros_like(theta)
    ahead = np.zeros_like(theta)
    rows: list[tuple[Field, Field, Field, Field]] = []
    joints = zip(chain.joint_angle_deg, chain.kinds, chain.shares, strict=True)
    for number, (angle, kind, share) in enumerate(joints):
        whole = radians(angle)
        halves = {"cardan": [whole], "cv": [], "double_cardan": [] if share == 0.5 else [share * whole, (1.0 - share) * whole]}[kind]
        for beta in halves:
            psi, ratio, slope = _cardan(beta, at)
            ahead = ahead + (psi - at)
            speed, bend = ratio * speed, slope * speed**2 + ratio * bend
            at = psi + np.pi / 2.0
        rows.append((ahead, speed, bend, at))
        if number < chain.shaft_count:
            at = at + radians(chain.clocks[number] - chain.planes[number])
    turned, fast, bent, forks = (np.array(part) for part in zip(*rows, strict=True))
    return Course(turned, fast, bent, forks)


def _cardan(beta: float, at: Field) -> tuple[Field, Field, Field]:
    """psi [rad], R and R' of one cross whose driving yoke stands at `at` [rad] from the joint's plane."""
    c = np.cos(beta)
    s, sine, cosine = np.sin(beta) ** 2, np.sin(at), np.cos(at)
    psi = at + np.arctan2((1.0 - c) * sine * cosine, c * cosine**2 + sine**2)
    under = 1.0 - s * cosine**2
    return psi, c / under, -2.0 * c * s * sine * cosine / under**2


def motion(given: MotionQuestion) -> Motion:
    """Where every member stands and how it moves at one angle of the driver.

    Parameters
    ----------
    given : MotionQuestion
        b, eps, clock [deg], theta [deg], n [rpm].

    Returns
    -------
    Motion
        Lists over the members behind joints 1..n+1.

    Raises
    ------
    InvalidInput
        From MotionQuestion, with the field.

    Notes
    -----
    Exact for rigid, frictionless joints; see `course`.

    Examples
    --------
    >>> round(motion(MotionQuestion(joint_angle_deg=[20], theta_deg=30)).speed_ratio[0], 6)
    1.030064
    """
    found = course(given, np.array([radians(given.theta_deg)]))
    return Motion(
        deviation_deg=np.degrees(found.ahead[:, 0]).tolist(),
        speed_ratio=found.speed[:, 0].tolist(),
        acceleration_rad_s2=(rad_per_s(given.rpm) ** 2 * found.bend[:, 0]).tolist(),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class TurnQuestion(JointChain):
    """A chain, and the driver's steady speed [rpm]."""

    rpm: float = 0.0

    def __post_init__(self) -> None:
        JointChain.__post_init__(self)
        shaft_rpm_ok("rpm", self.rpm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Extremes:
    """Of the last member over one turn: fastest and slowest [-], swing of its lead, peak to peak [deg], peak acceleration [rad/s^2]."""

    max_ratio: float
    min_ratio: float
    deviation_pp_deg: float
    peak_acc_rad_s2: float


def extremes(given: TurnQuestion) -> Extremes:
    """How unevenly the last member turns while the driver turns evenly.

    Parameters
    ----------
    given : TurnQuestion
        b, eps, clock [deg], n [rpm].

    Returns
    -------
    Extremes
        Over half a turn, after which everything repeats.

    Raises
    ------
    InvalidInput
        From TurnQuestion, with the field.

    Notes
    -----
    The exact course at 7200 angles.

    Examples
    --------
    >>> round(extremes(TurnQuestion(joint_angle_deg=[12, 12])).max_ratio, 9)
    1.0
    """
    found = course(given, np.linspace(0.0, np.pi, TURN_STEPS, endpoint=False))
    ahead, speed, bend = found.ahead[-1], found.speed[-1], found.bend[-1]
    return Extremes(
        max_ratio=float(speed.max()),
        min_ratio=float(speed.min()),
        deviation_pp_deg=float(np.degrees(ahead.max() - ahead.min())),
        peak_acc_rad_s2=float(rad_per_s(given.rpm) ** 2 * np.abs(bend).max()),
    )
