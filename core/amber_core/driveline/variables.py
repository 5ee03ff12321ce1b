"""What may be changed on a driveline: its bounds, its workshop steps, and the score of what it gives."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor
from typing import Literal

import numpy as np

from amber_core.driveline.vehicle import Field, Settings, Vehicle

_STEPS = {"wedge_deg": 0.5, "shim_mm": 1.0, "mount_mm": 1.0}


@dataclass(frozen=True, slots=True, kw_only=True)
class Variable:
    """Name, bounds [deg or mm]; of a clocking the spline's teeth, and the clocking they are counted from [deg]."""

    name: str
    low: float
    high: float
    teeth: int | None = None
    base: float = 0.0

    @property
    def shaft(self) -> int | None:
        """Which shaft a clocking is of, counted from the driver."""
        return int(self.name.removeprefix("clock_shaft_")) if self.name.startswith("clock_shaft_") else None

    @property
    def step(self) -> float:
        """What a workshop can make: half a degree of wedge, a millimetre of shim, a tooth (a degree where the teeth are not known).

        An odd spline has a place every half tooth, reached by going nearly half a turn round.
        """
        if self.shaft is None:
            return _STEPS[self.name]
        if self.teeth is None:
            return 1.0
        return 360.0 / self.teeth / (1.0 if self.teeth % 2 == 0 else 2.0)

    def ladder(self) -> Field:
        """All workshop steps within the bounds, the one that changes nothing included when it lies there."""
        least = ceil((self.low - self.base) / self.step - 1e-9)
        most = floor((self.high - self.base) / self.step + 1e-9)
        return np.asarray(self.base + self.step * np.arange(least, most + 1), dtype=np.float64)

    def rounded(self, value: float) -> float:
        """The nearest workshop step within the bounds; the value itself where there is none."""
        ladder = self.ladder()
        return float(ladder[np.abs(ladder - value).argmin()]) if len(ladder) else value


def before(vehicle: Vehicle, variables: list[Variable]) -> Field:
    """The values that change nothing."""
    return np.array([0.0 if one.shaft is None else vehicle.clocks[one.shaft - 1] for one in variables])


def settings_for(vehicle: Vehicle, variables: list[Variable], values: Field) -> Settings:
    """Settings of rows of values (settings, variables)."""
    count = len(values)
    parts = {name: np.zeros(count) for name in _STEPS}
    clocks = np.tile(np.array(vehicle.clocks), (count, 1))
    for column, one in enumerate(variables):
        if one.shaft is None:
            parts[one.name] = values[:, column]
        else:
            clocks[:, one.shaft - 1] = values[:, column]
    return Settings(parts["wedge_deg"], parts["shim_mm"], parts["mount_mm"], clocks)


def score(residual: Field, weight: Field, objective: Literal["rms", "max"]) -> Field:
    """Of b_eq^2 (settings, places) [rad^2], [deg]: (sum w b^4 / sum w)^(1/4), or the largest b with w > 0."""
    if objective == "max":
        found: Field = np.degrees(np.sqrt(residual[:, weight > 0.0].max(axis=1)))
        return found
    mean: Field = np.degrees((residual**2 @ weight / weight.sum()) ** 0.25)
    return mean
