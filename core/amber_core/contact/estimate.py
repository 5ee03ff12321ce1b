"""Where pinion and ring really stand, from what the pattern and the backlash show."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import sqrt
from typing import Literal

import numpy as np

from amber_core import checks
from amber_core.contact.contact_set import ContactSet, contact_set
from amber_core.contact.mesh import Errors, flank_gap
from amber_core.contact.observed import Observed
from amber_core.contact.pattern import patch
from amber_core.gearset.description import GearSetDescription
from amber_core.gearset.flank import Field
from amber_core.words import say

PAINT_MM = 6e-3
SQUEEZE_MM = 3e-3
STEP_MM = 4e-3
_SCAN_WITH_BACKLASH = np.linspace(-0.4, 0.4, 17)
_SCAN_WITHOUT = np.linspace(-0.4, 0.4, 9)


@dataclass(frozen=True, slots=True, kw_only=True)
class Prior:
    """How far from right the gears usually stand before anything is known, standard deviations [mm]."""

    pinion_sd_mm: float = 0.3
    ring_sd_mm: float = 0.3

    def __post_init__(self) -> None:
        checks.within("pinion_sd_mm", self.pinion_sd_mm, 0.001, 5.0, say("Prior standard deviation of the pinion must be 0.001 to 5 mm."))
        checks.within("ring_sd_mm", self.ring_sd_mm, 0.001, 5.0, say("Prior standard deviation of the ring gear must be 0.001 to 5 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class EstimateQuestion:
    """A set, what was observed of one assembly, and what was to be expected before."""

    set: GearSetDescription
    observed: Observed
    prior: Prior = field(default_factory=Prior)


@dataclass(frozen=True, slots=True, kw_only=True)
class Estimate:
    """Pinion and ring off their right places [mm], covariance of the two [mm^2], its correlation [-], chi2 of the data alone [-].

    `weakest` is the place that is known least.
    """

    pinion_mm: float
    ring_mm: float
    covariance: list[list[float]]
    pinion_sd_mm: float
    ring_sd_mm: float
    correlation: float
    chi2: float
    weakest: Literal["pinion_mm", "ring_mm"]


def estimate_contact(given: EstimateQuestion) -> Estimate:
    """Estimate where pinion and ring stand.

    Parameters
    ----------
    given : EstimateQuestion
        Set, observations with standard deviations, prior [mm].

    Returns
    -------
    Estimate
        Place [mm] with its covariance [mm^2].

    Raises
    ------
    InvalidInput
        When nothing was observed, or no such set can exist.

    Notes
    -----
    Nonlinear least squares of (model - observed)/sd over (dP, dG) with a prior row, from the best point of a coarse scan; central
    differences of 4 um. Covariance (J^T J)^-1, prior included.

    Examples
    --------
    >>> from amber_core.contact.observed import PatchSeen, Read
    >>> known = GearSetDescription(ring_teeth=41, pinion_teeth=11, ring_outer_diameter_mm=215.0, offset_mm=30.0)
    >>> seen = Observed(drive=PatchSeen(u=0.55, v=0.65), backlash_arc_mm=Read(value=0.15))
    >>> estimate_contact(EstimateQuestion(set=known, observed=seen)).pinion_mm > 0.0  # toward the tip: too shallow
    True
    """
    from scipy.optimize import least_squares

    fit = _Fit(given)
    found = least_squares(fit.residuals, fit.start(), jac=fit.jacobian, method="lm", xtol=1e-10, ftol=1e-10)
    pinion, ring = (float(one) for one in found.x)
    jacobian = fit.jacobian(found.x)
    covariance = np.linalg.inv(jacobian.T @ jacobian)
    pinion_sd, ring_sd = sqrt(covariance[0, 0]), sqrt(covariance[1, 1])
    return Estimate(
        pinion_mm=pinion,
        ring_mm=ring,
        covariance=[[float(one) for one in row] for row in covariance],
        pinion_sd_mm=pinion_sd,
        ring_sd_mm=ring_sd,
        correlation=float(covariance[0, 1] / (pinion_sd * ring_sd)),
        chi2=float(np.sum(fit.residuals(found.x)[:-2] ** 2)),
        weakest="pinion_mm" if pinion_sd >= ring_sd else "ring_mm",
    )


def model_patch(ready: ContactSet, side: Literal["drive", "coast"], errors: Errors) -> tuple[float, float]:
    """Middle (u, v) of the patch that usual paint under a usual brake's drag would leave, [-]."""
    grid, ease = (ready.drive, ready.ease_drive) if side == "drive" else (ready.coast, ready.ease_coast)
    found = patch(grid, flank_gap(grid, ease, errors, SQUEEZE_MM)[0], PAINT_MM)
    return found.u, found.v


class _Fit:
    """Residuals of one assembly: data first, the prior's two rows last."""

    def __init__(self, given: EstimateQuestion) -> None:
        self.ready = contact_set(given.set)
        self.seen = given.observed
        self.prior = np.array([given.prior.pinion_sd_mm, given.prior.ring_sd_mm])
        arc, plunger = self.seen.backlash_arc_mm, self.seen.backlash_mm
        factor = self.ready.plunger_per_arc
        if plunger is not None:
            self.arc: tuple[float, float] | None = (plunger.value / factor, plunger.sd / factor)
        else:
            self.arc = None if arc is None else (arc.value, arc.sd)

    def residuals(self, x: Field) -> Field:
        errors = Errors(pinion_mm=float(x[0]), ring_mm=float(x[1]))
        rows: list[float] = []
        if self.seen.drive is not None:
            u, v = model_patch(self.ready, "drive", errors)
            rows += [(u - self.seen.drive.u) / self.seen.drive.sd_u, (v - self.seen.drive.v) / self.seen.drive.sd_v]
        if self.seen.coast is not None:
            u, v = model_patch(self.ready, "coast", errors)
            rows += [(u - self.seen.coast.u) / self.seen.coast.sd_u, (v - self.seen.coast.v) / self.seen.coast.sd_v]
        if self.arc is not None:
            rows.append((self.ready.backlash_arc_mm(errors) - self.arc[0]) / self.arc[1])
        if self.seen.depth_error_mm is not None:
            rows.append((float(x[0]) - self.seen.depth_error_mm.value) / self.seen.depth_error_mm.sd)
        return np.array([*rows, *(x / self.prior)])

    def jacobian(self, x: Field) -> Field:
        columns = []
        for axis in (0, 1):
            step = np.zeros(2)
            step[axis] = STEP_MM
            columns.append((self.residuals(x + step) - self.residuals(x - step)) / (2.0 * STEP_MM))
        return np.column_stack(columns)

    def start(self) -> Field:
        """The best of a coarse scan: along the line of the measured backlash, or over a square."""
        if self.arc is None:
            points = [np.array([pinion, ring]) for pinion in _SCAN_WITHOUT for ring in _SCAN_WITHOUT]
        else:
            points = [
                np.array([pinion, self.ready.ring_for_arc_mm(self.arc[0], pinion_mm=float(pinion))]) for pinion in _SCAN_WITH_BACKLASH
            ]
        return min(points, key=lambda point: float(np.sum(self.residuals(point) ** 2)))
