"""An engine's torque and a vehicle's resistance, as far as a technician knows them."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan, cos, sin

import numpy as np

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.gearset.flank import Field
from amber_core.ratios.grade import GRAVITY_M_S2
from amber_core.ratios.limits import rpm_ok
from amber_core.words import say

AIR_KG_M3 = 1.2


@dataclass(frozen=True, slots=True, kw_only=True)
class TorquePoint:
    """Torque at full throttle [Nm] at an engine speed [rpm]."""

    rpm: float
    torque_nm: float

    def __post_init__(self) -> None:
        rpm_ok("rpm", self.rpm)
        checks.within("torque_nm", self.torque_nm, 0.0, 20000.0, say("Engine torque must be 0 to 20 000 Nm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Engine:
    """Idle and greatest speed [rpm], and at least two points of the torque curve, rising in speed; straight between, level beyond."""

    idle_rpm: float
    redline_rpm: float
    torque: list[TorquePoint]

    def __post_init__(self) -> None:
        checks.within("idle_rpm", self.idle_rpm, 100.0, 3000.0, say("Idle speed must be 100 to 3 000 rpm."))
        rpm_ok("redline_rpm", self.redline_rpm)
        if self.redline_rpm <= self.idle_rpm:
            raise InvalidInput("redline_rpm", say("Maximum engine speed must be above idle."))
        if not 2 <= len(self.torque) <= 200:
            raise InvalidInput("torque", say("Give 2 to 200 points of the torque curve."))
        for index in range(1, len(self.torque)):
            if self.torque[index].rpm <= self.torque[index - 1].rpm:
                raise InvalidInput(f"torque[{index}].rpm", say("The points of the torque curve must rise in engine speed."))

    def torque_at(self, rpm: Field) -> Field:
        """Full-throttle torque [Nm] at engine speeds [rpm]; nan outside idle to redline."""
        found = np.interp(rpm, [one.rpm for one in self.torque], [one.torque_nm for one in self.torque])
        return np.where((rpm >= self.idle_rpm) & (rpm <= self.redline_rpm), found, np.nan)

    @property
    def peak(self) -> TorquePoint:
        """The greatest torque that was given, at its lowest speed."""
        return max(self.torque, key=lambda one: (one.torque_nm, -one.rpm))


@dataclass(frozen=True, slots=True, kw_only=True)
class Load:
    """Mass with load and trailer [kg], rolling resistance [-], drag coefficient times frontal area [m2], driveline efficiency [-]."""

    mass_kg: float
    rolling: float = 0.015
    drag_area_m2: float = 1.2
    efficiency: float = 0.88

    def __post_init__(self) -> None:
        checks.within("mass_kg", self.mass_kg, 50.0, 200000.0, say("Mass must be 50 to 200 000 kg."))
        checks.within("rolling", self.rolling, 0.0, 0.5, say("Rolling resistance must be 0 to 0.5."))
        checks.within("drag_area_m2", self.drag_area_m2, 0.0, 30.0, say("Drag coefficient times area must be 0 to 30 m2."))
        checks.within("efficiency", self.efficiency, 0.2, 1.0, say("Driveline's efficiency must be 0.2 to 1."))

    @property
    def weight_n(self) -> float:
        """Weight, [N]."""
        return self.mass_kg * GRAVITY_M_S2

    def air_n(self, speed_kmh: Field) -> Field:
        """Drag of the air, rho / 2 CdA v^2, [N]."""
        drag: Field = AIR_KG_M3 / 2.0 * self.drag_area_m2 * (speed_kmh / 3.6) ** 2
        return drag

    def resistance_n(self, speed_kmh: Field, grade_pct: float = 0.0) -> Field:
        """What holds the vehicle back on a grade [%] at road speeds [km/h], [N]."""
        slope = atan(grade_pct / 100.0)
        return self.weight_n * (sin(slope) + self.rolling * cos(slope)) + self.air_n(speed_kmh)

    def grade_pct(self, force_n: Field, speed_kmh: Field) -> Field:
        """Grade that a wheel force [N] holds at a speed [km/h], [%]; inf where the force exceeds the weight, nan for no force."""
        share = (force_n - self.air_n(speed_kmh)) / self.weight_n / np.sqrt(1.0 + self.rolling**2)
        with np.errstate(invalid="ignore"):
            slope = np.arcsin(np.clip(share, -1.0, 1.0)) - np.arctan(self.rolling)
            return np.where(share >= 1.0, np.inf, 100.0 * np.tan(slope))
