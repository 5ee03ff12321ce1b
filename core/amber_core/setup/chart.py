"""The set-up as a chart: ring position across, pinion depth up, and where both would pass."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from amber_core.gearset.flank import Field
from amber_core.setup.outlook import Outlook

_COARSE, _FINE = 7, 33
_MOST_HALF_MM, _LEAST_HALF_MM, _BESIDE_MM = 0.45, 0.12, 0.06


@dataclass(frozen=True, slots=True, kw_only=True)
class SetupChart:
    """A square of places about the right one.

    Parameters
    ----------
    ring_mm, pinion_mm : list of float
        The axes, + away from the pinion and + too shallow, [mm].
    margin : list of list of float
        For every pinion place, for every ring place: how deep everything seen lies inside its window, in half windows; 0 at a limit,
        negative outside, 1 in the middle of all, [-].
    trials : list of list of float
        Where each trial is thought to stand, [ring, pinion] [mm].
    ellipse : list of list of float
        Outline of one standard deviation about the last trial, [ring, pinion] [mm].
    """

    ring_mm: list[float]
    pinion_mm: list[float]
    margin: list[list[float]]
    trials: list[list[float]]
    ellipse: list[list[float]]


def setup_chart(outlook: Outlook) -> SetupChart:
    """Chart an estimate.

    Notes
    -----
    The model at a coarse square of places, between them by cubic splines: what is seen changes smoothly.
    """
    from scipy.interpolate import RectBivariateSpline

    places = [place[::-1] for place in outlook.posterior.places]
    reach = max(float(np.abs(np.array([*places, outlook.best_place[::-1]])).max()) + _BESIDE_MM, _LEAST_HALF_MM)
    half = min(reach, _MOST_HALF_MM)
    coarse, fine = np.linspace(-half, half, _COARSE), np.linspace(-half, half, _FINE)
    seen = np.array([[outlook.look(np.array([pinion, ring])).values for ring in coarse] for pinion in coarse])
    middle, width = outlook.windows
    off = [np.abs(RectBivariateSpline(coarse, coarse, seen[:, :, row])(fine, fine) - middle[row]) / width[row] for row in range(5)]
    margin: Field = 1.0 - np.max(np.array(off), axis=0)
    return SetupChart(
        ring_mm=[round(float(one), 5) for one in fine],
        pinion_mm=[round(float(one), 5) for one in fine],
        margin=[[round(float(one), 3) for one in row] for row in margin],
        trials=[[round(float(one), 5) for one in place] for place in places],
        ellipse=_ellipse(places[-1], outlook.posterior.last_covariance[::-1, ::-1]),
    )


def _ellipse(middle: Field, covariance: Field) -> list[list[float]]:
    root = np.linalg.cholesky(covariance + 1e-14 * np.eye(2))
    turn = np.linspace(0.0, 2.0 * np.pi, 49)
    outline = middle + np.column_stack([np.cos(turn), np.sin(turn)]) @ root.T
    return [[round(float(one), 5) for one in point] for point in outline]
