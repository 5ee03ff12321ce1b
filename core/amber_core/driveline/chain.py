"""A chain of joints: their kinds, angles, planes and clocking, and the second-order terms they add up to."""

from __future__ import annotations

from dataclasses import dataclass
from math import degrees, pi, sqrt
from typing import Literal

import numpy as np
import numpy.typing as npt

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

JointKind = Literal["cardan", "double_cardan", "cv"]
Complex = npt.NDArray[np.complex128]
MOST_JOINTS = 7


@dataclass(frozen=True, slots=True, kw_only=True)
class JointChain:
    """Joints from driver to axle.

    Parameters
    ----------
    joint_angle_deg : list of float
        Angle of every joint, [deg].
    plane_angle_deg : list of float
        One for each shaft, rear plane against front plane, [deg]; all 0 when left out.
    clock_deg : list of float
        One for each shaft, rear yoke against front yoke, [deg]; all 0 when left out.
    joints : list
        Kind of every joint; all Cardan when left out.
    front_share : list of float
        Of a double Cardan: share of its angle that its front half takes, 0.5 when centred, [-].
    """

    joint_angle_deg: list[float]
    plane_angle_deg: list[float] | None = None
    clock_deg: list[float] | None = None
    joints: list[JointKind] | None = None
    front_share: list[float] | None = None

    def __post_init__(self) -> None:
        count = len(self.joint_angle_deg)
        if not 1 <= count <= MOST_JOINTS:
            raise InvalidInput("joint_angle_deg", say("Give one to {most_joints} joints.", most_joints=MOST_JOINTS))
        for index, angle in enumerate(self.joint_angle_deg):
            checks.within(f"joint_angle_deg[{index}]", angle, 0.0, 80.0, say("Joint angle must be 0 to 80 degrees."))
        for name, wanted, what in (
            ("plane_angle_deg", count - 1, say("a plane angle for every propshaft")),
            ("clock_deg", count - 1, say("a clocking for every propshaft")),
            ("joints", count, say("a kind for every joint")),
        ):
            value = getattr(self, name)
            if value is not None and len(value) != wanted:
                raise InvalidInput(name, say("Give {what}: {wanted}, not {count}.", what=what, wanted=wanted, count=len(value)))
        if self.front_share is not None:
            shares_ok(self.front_share, count)

    @property
    def shaft_count(self) -> int:
        """How many shafts lie between driver and driven."""
        return len(self.joint_angle_deg) - 1

    @property
    def kinds(self) -> list[JointKind]:
        """Kind of every joint."""
        return self.joints if self.joints is not None else ["cardan"] * len(self.joint_angle_deg)

    @property
    def shares(self) -> list[float]:
        """Share of the front half, 0.5 where it is not said."""
        return self.front_share if self.front_share is not None else [0.5] * len(self.joint_angle_deg)

    @property
    def planes(self) -> list[float]:
        """Plane angle of every shaft, [deg]."""
        return self.plane_angle_deg if self.plane_angle_deg is not None else [0.0] * self.shaft_count

    @property
    def clocks(self) -> list[float]:
        """Clocking of every shaft, [deg]."""
        return self.clock_deg if self.clock_deg is not None else [0.0] * self.shaft_count

    def terms(self) -> Complex:
        """The second-order term of every joint, [rad^2]."""
        beta = np.radians(np.array(self.joint_angle_deg))
        return terms(beta, np.array(self.planes), np.array(self.clocks), weights(self.kinds, self.shares), jumps(self.kinds))


def shares_ok(front_share: list[float], joints: int) -> None:
    """Refuse shares that are not one between 0 and 1 for every joint.

    Raises
    ------
    InvalidInput
        On `front_share`.
    """
    if len(front_share) != joints:
        raise InvalidInput(
            "front_share", say("Give a share for every joint: {joints}, not {count}.", joints=joints, count=len(front_share))
        )
    for index, share in enumerate(front_share):
        checks.within(f"front_share[{index}]", share, 0.0, 1.0, say("Share must be 0 to 1."))


def weights(kinds: list[JointKind], shares: list[float]) -> npt.NDArray[np.float64]:
    """How much of b^2 a joint adds: a Cardan all, a CV or a centred double Cardan none, an off-centre one 2f - 1."""
    return np.array(
        [
            1.0 if kind == "cardan" else 2.0 * share - 1.0 if kind == "double_cardan" else 0.0
            for kind, share in zip(kinds, shares, strict=True)
        ]
    )


def jumps(kinds: list[JointKind]) -> npt.NDArray[np.float64]:
    """What a joint adds to the phase: the yokes of one cross stand 90 degrees apart, those of a double Cardan or CV in line, [deg]."""
    return np.array([90.0 if kind == "cardan" else 0.0 for kind in kinds])


def terms(
    beta: npt.NDArray[np.float64],
    eps: npt.NDArray[np.float64],
    clock: npt.NDArray[np.float64],
    weight: npt.NDArray[np.float64],
    jump: npt.NDArray[np.float64],
) -> Complex:
    """D_j = weight b_j^2 e^(2 i ps_j) with ps_(j+1) = ps_j + jump_j + clock_j - eps_j; leading dimensions broadcast, [rad^2]."""
    step = jump[:-1] + clock - eps
    phase = np.zeros(np.broadcast_shapes(beta.shape, (*step.shape[:-1], beta.shape[-1])))
    phase[..., 1:] = np.cumsum(step, axis=-1)
    turned: Complex = np.exp(2j * np.radians(phase))
    return weight * beta**2 * turned


def equivalent_deg(total: complex) -> float:
    """b_eq = sqrt |sum D|, [deg]."""
    return degrees(sqrt(abs(total)))


def rad_per_s(rpm: float) -> float:
    """Angular speed, [rad/s]."""
    return rpm * pi / 30.0


def shaft_rpm_ok(field: str, rpm: float | None) -> None:
    """Refuse what no propshaft turns at; None passes.

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, rpm, 0.0, 20000.0, say("Shaft speed must be 0 to 20 000 rpm."))
    if rpm:
        checks.above_zero(field, rpm, say("Propshaft speed"))
