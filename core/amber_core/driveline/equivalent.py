"""Second-order figures of a chain: equivalent angle, torsional and inertia excitation."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from amber_core import checks
from amber_core.driveline.chain import Complex, JointChain, equivalent_deg, rad_per_s, shaft_rpm_ok
from amber_core.errors import InvalidInput
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class ExcitationQuestion(JointChain):
    """A chain, the shaft speed [rpm], and the inertia of every shaft [kg m^2] when its torque is wanted."""

    rpm: float = 0.0
    inertia_kgm2: list[float] | None = None

    def __post_init__(self) -> None:
        JointChain.__post_init__(self)
        shaft_rpm_ok("rpm", self.rpm)
        if self.inertia_kgm2 is not None:
            if len(self.inertia_kgm2) != self.shaft_count:
                raise InvalidInput(
                    "inertia_kgm2",
                    say(
                        "Give an inertia for every propshaft: {shaft_count}, not {count}.",
                        shaft_count=self.shaft_count,
                        count=len(self.inertia_kgm2),
                    ),
                )
            for index, one in enumerate(self.inertia_kgm2):
                checks.within(f"inertia_kgm2[{index}]", one, 0.0, 10.0, say("Propshaft inertia must be 0 to 10 kg m²."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Excitation:
    """Equivalent angle [deg]; torsional acceleration of the driven end, inertia accelerations of every shaft on drive and on coast
    [rad/s^2]; inertia torque on the driver and on the pinion [Nm], null without inertias."""

    b_eq_deg: float
    torsional_rad_s2: float
    inertia_drive_rad_s2: list[float]
    inertia_coast_rad_s2: list[float]
    torque_drive_nm: float | None
    torque_coast_nm: float | None


def excitation(given: ExcitationQuestion) -> Excitation:
    """How strongly a chain shakes what it joins, to second order in its angles.

    Parameters
    ----------
    given : ExcitationQuestion
        b, eps, clock [deg], n [rpm], J [kg m^2].

    Returns
    -------
    Excitation
        b_eq = sqrt |sum D|; a_T = w^2 b_eq^2; a_D,k = w^2 |D_1 + .. + D_k|; a_C,k = w^2 |D_(k+1) + ..|; torques with J_k.

    Raises
    ------
    InvalidInput
        From ExcitationQuestion, with the field.

    Notes
    -----
    D_j = b_j^2 e^(2 i ps_j), ps_(j+1) = ps_j + 90 (0 behind a double Cardan or CV) + clock_j - eps_j. Within 1 % of the exact peak up
    to 13 degrees. Source: the usual equivalent-angle method of driveshaft design, with planes and clocking as a phase.

    Examples
    --------
    >>> round(excitation(ExcitationQuestion(joint_angle_deg=[2, 5, 4], rpm=3000)).b_eq_deg, 4)
    2.2361
    """
    return from_terms(given.terms(), given.rpm, given.inertia_kgm2)


def from_terms(terms: Complex, rpm: float, inertia_kgm2: list[float] | None = None) -> Excitation:
    """The figures of a chain whose terms [rad^2] are known."""
    square = rad_per_s(rpm) ** 2
    driven = np.cumsum(terms)[:-1]
    coasting = terms.sum() - driven
    torques: list[float | None] = [None, None]
    if inertia_kgm2 is not None:
        torques = [float(square * abs(np.dot(inertia_kgm2, part))) for part in (driven, coasting)]
    return Excitation(
        b_eq_deg=equivalent_deg(complex(terms.sum())),
        torsional_rad_s2=float(square * abs(terms.sum())),
        inertia_drive_rad_s2=(square * np.abs(driven)).tolist(),
        inertia_coast_rad_s2=(square * np.abs(coasting)).tolist(),
        torque_drive_nm=torques[0],
        torque_coast_nm=torques[1],
    )
