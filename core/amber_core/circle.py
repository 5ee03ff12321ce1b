"""Readings round a circle: which positions were measured, and the part that comes round once per turn."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin

import numpy as np

from amber_core.errors import InvalidInput
from amber_core.words import say

SAME_POSITION_DEG = 5.0
"""Two readings closer than this stand at one position, [deg]."""
LARGEST_GAP_DEG = 150.0
"""Neighbouring positions farther apart than this leave a side of the ring unseen, [deg]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class CircleReading:
    """A dial reading at a clock position: angle_deg [deg], value_mm [mm]."""

    angle_deg: float
    value_mm: float

    def __post_init__(self) -> None:
        if not -3600.0 <= self.angle_deg <= 3600.0:
            raise InvalidInput("angle_deg", say("Position round the part must be 0 to 360 degrees."))
        if not -100.0 <= self.value_mm <= 100.0:
            raise InvalidInput("value_mm", say("Dial reading must be −100 to 100 mm. Give it in millimetres."))


@dataclass(frozen=True, slots=True, kw_only=True)
class OncePerTurn:
    """The part a cos(angle - high): amplitude_mm a [mm], high_at_deg [deg], share of the variance [-]."""

    amplitude_mm: float
    high_at_deg: float
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """m + a cos(angle - high) through some readings: once per turn, and what is left over at given angles."""

    mean_mm: float
    cos_mm: float
    sin_mm: float

    def at(self, angle_deg: float) -> float:
        """The fitted value at an angle [deg], in [mm]."""
        return self.mean_mm + self.cos_mm * cos(radians(angle_deg)) + self.sin_mm * sin(radians(angle_deg))


def distinct_positions(angles_deg: list[float]) -> list[float]:
    """Angles mod 360 that stand at least `SAME_POSITION_DEG` apart, ascending, [deg]."""
    kept: list[float] = []
    for angle in sorted(angle % 360.0 for angle in angles_deg):
        if not kept or angle - kept[-1] >= SAME_POSITION_DEG - 1e-9:
            kept.append(angle)
    if len(kept) > 1 and kept[0] + 360.0 - kept[-1] < SAME_POSITION_DEG - 1e-9:
        kept.pop()
    return kept


def widest_gap_deg(positions_deg: list[float]) -> float:
    """The widest arc between neighbouring positions, [deg]; 360 for one position."""
    if len(positions_deg) < 2:
        return 360.0
    following = [*positions_deg[1:], positions_deg[0] + 360.0]
    return max(after - before for before, after in zip(positions_deg, following, strict=True))


def seen_all_round(positions_deg: list[float], at_least: int) -> bool:
    """Enough positions, and no side of the ring left out."""
    return len(positions_deg) >= at_least and widest_gap_deg(positions_deg) <= LARGEST_GAP_DEG + 1e-9


def fit_once_per_turn(angles_deg: list[float], values_mm: list[float]) -> Fit:
    """Least squares of m + c cos(angle) + s sin(angle)."""
    turn = np.radians(np.asarray(angles_deg, dtype=float))
    design = np.column_stack([np.ones_like(turn), np.cos(turn), np.sin(turn)])
    solution = np.linalg.lstsq(design, np.asarray(values_mm, dtype=float), rcond=None)[0]
    return Fit(mean_mm=float(solution[0]), cos_mm=float(solution[1]), sin_mm=float(solution[2]))


def once_per_turn(angles_deg: list[float], values_mm: list[float]) -> OncePerTurn:
    """The once-per-turn part of readings round a circle.

    Notes
    -----
    Least squares of m + a cos(angle - high). `share` is its part of the variance; 0 when all readings are alike.
    """
    fit = fit_once_per_turn(angles_deg, values_mm)
    mean = sum(values_mm) / len(values_mm)
    spread = sum((value - mean) ** 2 for value in values_mm)
    left = sum((value - fit.at(angle)) ** 2 for angle, value in zip(angles_deg, values_mm, strict=True))
    alike = spread <= 1e-18 * max(1.0, mean * mean) * len(values_mm)
    return OncePerTurn(
        amplitude_mm=hypot(fit.cos_mm, fit.sin_mm),
        high_at_deg=degrees(atan2(fit.sin_mm, fit.cos_mm)) % 360.0,
        share=0.0 if alike else min(1.0, max(0.0, 1.0 - left / spread)),
    )
