"""Bending speed with end fittings and on soft supports."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, sqrt

import numpy as np
import numpy.typing as npt

from amber_core import checks
from amber_core.driveline.chain import shaft_rpm_ok
from amber_core.errors import InvalidInput
from amber_core.shafts.tube import Tube, length_ok
from amber_core.verdicts import Limit, Reason, VerdictWord, judge
from amber_core.words import say

ELEMENTS = 40
_STIFFER = 50.0
SHARE_ON_SUPPORTS = 0.75 / 0.9
"""Of the bending speed on the real supports that a shaft may run up to, [-]."""
Matrix = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class FittedShaft(Tube):
    """A tube, whole length from joint centre to joint centre, length of each end fitting [mm], the mass of each [kg], and the stiffness
    of what holds either end [N/m]; without one that end is held rigidly."""

    length_mm: float
    end_length_mm: float
    end_mass_kg: float
    support_front_n_per_m: float | None = None
    support_rear_n_per_m: float | None = None

    def __post_init__(self) -> None:
        Tube.__post_init__(self)
        length_ok(self.length_mm)
        checks.within("end_length_mm", self.end_length_mm, 1.0, 1000.0, say("End fitting length must be 1 to 1 000 mm."))
        checks.within("end_mass_kg", self.end_mass_kg, 0.0, 100.0, say("End fitting weight must be 0 to 100 kg."))
        if 2.0 * self.end_length_mm >= self.length_mm:
            raise InvalidInput("end_length_mm", say("The two end fittings are longer than the propshaft."))
        supports_ok(self)

    @property
    def mass_kg(self) -> float:
        """Tube between the fittings and both of them: rho A (L - 2 e) + 2 m, [kg]."""
        return self.mass_kg_per_m * (self.length_mm - 2.0 * self.end_length_mm) / 1000.0 + 2.0 * self.end_mass_kg


def supports_ok(given: FittedShaft | SupportedShaft) -> None:
    """Refuse a stiffness that no mount has.

    Raises
    ------
    InvalidInput
        On the end's field.
    """
    for name in ("support_front_n_per_m", "support_rear_n_per_m"):
        checks.within(name, getattr(given, name), 1e3, 1e12, say("Support stiffness must be 1 000 to 1e12 N/m."))


@dataclass(frozen=True, slots=True, kw_only=True)
class BendingSpeed:
    """First bending speed, [rpm]."""

    critical_rpm: float


def with_ends(given: FittedShaft) -> BendingSpeed:
    """First bending speed of a tube with heavy, stiff ends.

    Parameters
    ----------
    given : FittedShaft
        do, t, L, e [mm], m of each end [kg], k of what holds either end [N/m].

    Returns
    -------
    BendingSpeed
        n_c, [rpm].

    Raises
    ------
    InvalidInput
        From FittedShaft, with the field.

    Notes
    -----
    Beam of Hermite elements, pinned at the joints, or resting there on springs; ends 50 times as stiff as the tube with their mass spread
    over their length. Solved as M v = lambda K v for the largest lambda = 1 / w^2, which keeps its digits beside the stiff ends.

    Examples
    --------
    >>> fitted = FittedShaft(outer_mm=76.2, wall_mm=2.1, length_mm=1500, end_length_mm=90, end_mass_kg=2.0)
    >>> round(with_ends(fitted).critical_rpm)
    5608

    On two supports of 5 MN/m it is 5102 rpm.
    """
    from scipy.linalg import eigh

    end, whole = given.end_length_mm / 1000.0, given.length_mm / 1000.0
    tube = whole - 2.0 * end
    at_end = max(2, round(ELEMENTS * end / whole))
    parts = [(end, at_end, _STIFFER, given.end_mass_kg / end), (tube, ELEMENTS - 2 * at_end, 1.0, given.mass_kg_per_m)]
    parts.append(parts[0])
    count = sum(number for _, number, _, _ in parts)
    stiff, heavy = np.zeros((2 * count + 2, 2 * count + 2)), np.zeros((2 * count + 2, 2 * count + 2))
    at = 0
    for length, number, stiffer, mass in parts:
        k, m = _element(length / number, given.bending_n_m2 * stiffer, mass)
        for _ in range(number):
            stiff[at : at + 4, at : at + 4] += k
            heavy[at : at + 4, at : at + 4] += m
            at += 2
    held = []
    for place, spring in ((0, given.support_front_n_per_m), (2 * count, given.support_rear_n_per_m)):
        if spring is None:
            held.append(place)
        else:
            stiff[place, place] += spring
    free = [index for index in range(2 * count + 2) if index not in held]
    cut = np.ix_(free, free)
    last = len(free) - 1
    largest = float(eigh(heavy[cut], stiff[cut], eigvals_only=True, subset_by_index=[last, last])[0])
    return BendingSpeed(critical_rpm=30.0 / pi / sqrt(largest))


def _element(length: float, bending: float, mass: float) -> tuple[Matrix, Matrix]:
    """Stiffness and consistent mass of a Hermite beam element; L [m], EI [N m^2], mass [kg/m]."""
    a = length
    stiff = np.array(
        [[12, 6 * a, -12, 6 * a], [6 * a, 4 * a**2, -6 * a, 2 * a**2], [-12, -6 * a, 12, -6 * a], [6 * a, 2 * a**2, -6 * a, 4 * a**2]]
    )
    heavy = np.array(
        [
            [156, 22 * a, 54, -13 * a],
            [22 * a, 4 * a**2, 13 * a, -3 * a**2],
            [54, 13 * a, 156, -22 * a],
            [-13 * a, -3 * a**2, -22 * a, 4 * a**2],
        ]
    )
    return stiff * bending / a**3, heavy * mass * a / 420.0


@dataclass(frozen=True, slots=True, kw_only=True)
class SupportedShaft:
    """Mass of the shaft [kg], its bending speed on stiff supports [rpm], stiffness of what holds its ends [N/m], the greatest shaft speed
    it must stand [rpm]."""

    mass_kg: float
    shaft_critical_rpm: float
    support_front_n_per_m: float
    support_rear_n_per_m: float
    rpm: float | None = None

    def __post_init__(self) -> None:
        checks.within("mass_kg", self.mass_kg, 0.05, 300.0, say("Shaft weight must be 0.05 to 300 kg."))
        checks.within("shaft_critical_rpm", self.shaft_critical_rpm, 10.0, 1e6, say("Bending speed must be 10 to 1 000 000 rpm."))
        supports_ok(self)
        shaft_rpm_ok("rpm", self.rpm)


@dataclass(frozen=True, slots=True, kw_only=True)
class SupportedSpeed:
    """First bending speed and the speed allowed [rpm]; whether the shaft stands `rpm`."""

    critical_rpm: float
    allowed_rpm: float
    verdict: VerdictWord
    reasons: list[Reason]


def on_supports(given: SupportedShaft) -> SupportedSpeed:
    """Lower bound of the bending speed of a shaft whose ends give way.

    Parameters
    ----------
    given : SupportedShaft
        m [kg], n_c [rpm], k [N/m].

    Returns
    -------
    SupportedSpeed
        1/n^2 = 1/n_c^2 + 1/n_s^2; w_s^2 = (2/m) [(kf + kr) - sqrt((kf + kr)^2 - 3 kf kr)], [rpm].

    Raises
    ------
    InvalidInput
        From SupportedShaft, with the field.

    Notes
    -----
    Dunkerley's sum of a stiff bar on two springs and a beam on stiff ones. The usual three quarters are a share of the speed on stiff
    supports, which soft ones lower by some 10 %; of the speed on the real ones it is 0.75 / 0.9 (a rule of thumb).

    Examples
    --------
    >>> soft = SupportedShaft(mass_kg=9.5, shaft_critical_rpm=5608, support_front_n_per_m=5e6, support_rear_n_per_m=5e6)
    >>> round(on_supports(soft).critical_rpm)
    4867
    """
    front, rear = given.support_front_n_per_m, given.support_rear_n_per_m
    both = front + rear
    square = 2.0 / given.mass_kg * (3.0 * front * rear) / (both + sqrt(both**2 - 3.0 * front * rear))
    rigid = 30.0 / pi * sqrt(square)
    critical = 1.0 / sqrt(given.shaft_critical_rpm**-2 + rigid**-2)
    allowed = SHARE_ON_SUPPORTS * critical
    limits = []
    if given.rpm is not None:
        what = say("On supports this soft the maximum propshaft speed")
        limits.append(Limit(value=given.rpm, bound=allowed, side="max", field="rpm", what=what, unit="rpm", digits=0))
    verdict, reasons = judge(limits, 0.02 * allowed)
    return SupportedSpeed(critical_rpm=critical, allowed_rpm=allowed, verdict=verdict, reasons=reasons)
