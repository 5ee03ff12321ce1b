"""A typical torque for a plain bolt, where the sheet is silent."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.words import say

Grade = Literal["5.8", "8.8", "10.9", "12.9", "G5", "G8"]
Metal = Literal["steel", "iron", "aluminium"]

_PROOF_MPA: dict[str, float] = {"5.8": 380.0, "8.8": 580.0, "10.9": 830.0, "12.9": 970.0, "G5": 585.0, "G8": 825.0}
_PROOF_8_8_LARGE_MPA, _LARGE_MM = 600.0, 16.0
_SHEAR_MPA: dict[str, float] = {"steel": 300.0, "iron": 180.0, "aluminium": 120.0}
_ENGAGED: dict[str, float] = {"steel": 1.0, "iron": 1.0, "aluminium": 1.5}
_K_DRY, _K_LUBRICATED = 0.20, 0.15


@dataclass(frozen=True, slots=True, kw_only=True)
class TorqueEstimateQuestion:
    """Bolt [mm], its strength class, dry or oiled, and what it is screwed into; thread locker counts as oiled."""

    diameter_mm: float
    pitch_mm: float
    grade: Grade
    lubricated: bool | None = None
    into: Metal = "steel"
    engagement_mm: float | None = None

    def __post_init__(self) -> None:
        checks.above_zero("diameter_mm", self.diameter_mm, say("Bolt diameter"))
        checks.within("diameter_mm", self.diameter_mm, 1.0, 200.0, say("Bolt diameter must be 1 to 200 mm."))
        checks.above_zero("pitch_mm", self.pitch_mm, say("Thread pitch"))
        checks.within("pitch_mm", self.pitch_mm, 0.1, self.diameter_mm / 2.0, say("Thread pitch must be 0.1 mm to half the diameter."))
        if self.lubricated is None:
            raise InvalidInput(
                "lubricated",
                say("Is the thread dry or oiled? A dry figure on an oiled thread stretches the bolt. Thread locker counts as oiled."),
            )
        if self.engagement_mm is not None:
            checks.above_zero("engagement_mm", self.engagement_mm, say("Thread engagement"))
            checks.within("engagement_mm", self.engagement_mm, 0.1, 1000.0, say("Thread engagement must be 0.1 to 1000 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class TorqueEstimate:
    """Stress area [mm2], bolt tension [N], torque [N m], and whether bolt or tapped thread limits it. Typical: a sheet comes first."""

    stress_area_mm2: float
    preload_n: float
    torque_nm: float
    limited_by: Literal["bolt", "thread"]
    status: Literal["typical"] = "typical"


def estimate_torque(given: TorqueEstimateQuestion) -> TorqueEstimate:
    """A typical torque from the bolt's proof stress and the thread that it holds in.

    Parameters
    ----------
    given : TorqueEstimateQuestion
        Bolt and thread [mm].

    Returns
    -------
    TorqueEstimate
        Stress area [mm2], tension [N], torque [N m].

    Raises
    ------
    InvalidInput
        From TorqueEstimateQuestion, with the field.

    Notes
    -----
    As = pi/4 (d - 0.9382 p)^2 (ISO 898-1). Tension is the smaller of 0.75 As proof and 0.6 of what shears the tapped thread,
    0.7 pi d engagement shear strength. Torque = K d tension, K 0.20 dry and 0.15 lubricated.

    Examples
    --------
    >>> question = TorqueEstimateQuestion(diameter_mm=10.0, pitch_mm=1.5, grade="8.8", lubricated=False)
    >>> round(estimate_torque(question).torque_nm, 1)
    50.5
    """
    d = given.diameter_mm
    area = pi / 4.0 * (d - 0.9382 * given.pitch_mm) ** 2
    proof = _PROOF_8_8_LARGE_MPA if given.grade == "8.8" and d > _LARGE_MM else _PROOF_MPA[given.grade]
    bolt = 0.75 * area * proof
    engaged = given.engagement_mm if given.engagement_mm is not None else _ENGAGED[given.into] * d
    thread = 0.6 * 0.7 * pi * d * engaged * _SHEAR_MPA[given.into]
    tension = min(bolt, thread)
    factor = _K_LUBRICATED if given.lubricated else _K_DRY
    return TorqueEstimate(
        stress_area_mm2=area,
        preload_n=tension,
        torque_nm=factor * d / 1000.0 * tension,
        limited_by="bolt" if bolt <= thread else "thread",
    )
