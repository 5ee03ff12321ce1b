"""A second, independent way to move a chain of Cardan joints: the constraint solved in space, with no formula of the core.

Each yoke's line is a space vector square to its member. A cross keeps its two arms square: u . v = 0. For a given u the driven arm v is
found in the plane square to the driven axis by bracketed root search, and the speed ratio from the cross's normal.
"""

from __future__ import annotations

from math import cos, pi, sin

import numpy as np
from scipy.optimize import brentq


def frame(axis: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Two unit vectors that make a right-handed triad with an axis; which ones does not matter."""
    spare = np.array([0.3, 0.8, -0.5]) if abs(axis @ np.array([0.3, 0.8, -0.5])) < 0.9 else np.array([1.0, 0.0, 0.0])
    first = np.cross(axis, spare)
    first /= np.linalg.norm(first)
    return first, np.cross(axis, first)


def turned(vector: np.ndarray, axis: np.ndarray, angle: float) -> np.ndarray:
    """Rotated about an axis by the right-hand rule."""
    return vector * cos(angle) + np.cross(axis, vector) * sin(angle) + axis * (axis @ vector) * (1.0 - cos(angle))


def through_cross(arm: np.ndarray, driven: np.ndarray) -> np.ndarray:
    """The other arm of the cross: square to `arm` and to the driven axis."""
    first, second = frame(driven)

    def square(at: float) -> float:
        return float(arm @ (first * cos(at) + second * sin(at)))

    grid = np.linspace(0.0, pi, 9)
    values = [square(at) for at in grid]
    for low, high, a, b in zip(grid, grid[1:], values, values[1:], strict=False):
        if a == 0.0:
            return first * cos(low) + second * sin(low)
        if a * b < 0.0:
            at = brentq(square, low, high, xtol=1e-15, rtol=1e-15)
            return first * cos(at) + second * sin(at)
    raise AssertionError("no arm found")


class SolvedChain:
    """Axes along the chain (right-handed frame) and clocking; yokes move as the crosses force them to."""

    def __init__(self, axes: np.ndarray, clock_deg: list[float], first_fork: np.ndarray) -> None:
        self.axes, self.clock = axes, np.radians(clock_deg)
        self.first = first_fork

    def speeds(self, theta: float) -> list[float]:
        """Speed of every member behind a joint over the driver's, with the driver's yoke turned by theta."""
        arm = turned(self.first, self.axes[0], theta)
        ratio, found = 1.0, []
        for joint, (driver, driven) in enumerate(zip(self.axes, self.axes[1:], strict=False)):
            other = through_cross(arm, driven)
            normal = np.cross(arm, other)
            ratio *= float((driver @ normal) / (driven @ normal))
            found.append(ratio)
            if joint < len(self.clock):
                arm = turned(other, driven, self.clock[joint])
        return found
