"""Front axle against rear axle of a four-wheel-drive vehicle."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core.ratios.limits import circumference_ok, ratio_ok
from amber_core.verdicts import Reason, VerdictWord
from amber_core.words import say

FINE_PCT, LOOSE_GROUND_PCT = 0.5, 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class AxlePair:
    """Rolling circumference [m] and ratio [-] of the front and the rear axle."""

    front_circumference_m: float
    front_ratio: float
    rear_circumference_m: float
    rear_ratio: float

    def __post_init__(self) -> None:
        for end in ("front", "rear"):
            circumference_ok(f"{end}_circumference_m", getattr(self, f"{end}_circumference_m"))
            ratio_ok(f"{end}_ratio", getattr(self, f"{end}_ratio"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Mismatch:
    """How far the axles disagree when locked together.

    Parameters
    ----------
    mismatch_pct : float
        + when the front wants to run ahead, [%].
    scrub_m_per_km, windup_prop_turns_per_km : float
        What the tyres scrub off [m/km]; rear less front propshaft turns [1/km].
    leads : {"front", "rear", "neither"}
        Which axle wants to run ahead.
    front_ratio_for_zero : float
        Front ratio that would match, [-].
    verdict : str
        "in" up to 0.5 %, "edge" up to 1 % (loose ground only), "out" beyond: rules of thumb.
    """

    mismatch_pct: float
    scrub_m_per_km: float
    windup_prop_turns_per_km: float
    leads: Literal["front", "rear", "neither"]
    front_ratio_for_zero: float
    verdict: VerdictWord
    reasons: list[Reason]


def match_axles(given: AxlePair) -> Mismatch:
    """Whether front and rear fit each other.

    Parameters
    ----------
    given : AxlePair
        C [m] and i [-], front and rear.

    Returns
    -------
    Mismatch
        Mismatch [%], scrub [m/km], wind-up [propshaft turns/km].

    Raises
    ------
    InvalidInput
        From AxlePair, with the field.

    Notes
    -----
    (C_f / i_f) / (C_r / i_r) - 1; wind-up 1000 i_r / C_r - 1000 i_f / C_f; front ratio for zero i_r C_f / C_r.

    Examples
    --------
    >>> pair = AxlePair(front_circumference_m=2.4, front_ratio=4.1, rear_circumference_m=2.38, rear_ratio=4.11)
    >>> round(match_axles(pair).mismatch_pct, 3), match_axles(pair).leads
    (1.086, 'front')
    """
    front, rear = given.front_circumference_m / given.front_ratio, given.rear_circumference_m / given.rear_ratio
    share = 100.0 * (front / rear - 1.0)
    size = abs(share)
    leads: Literal["front", "rear", "neither"] = "neither" if size < 1e-9 else ("front" if share > 0.0 else "rear")
    verdict: VerdictWord = "in" if size <= FINE_PCT else ("edge" if size <= LOOSE_GROUND_PCT else "out")
    words = {
        "in": say("{size:.2f} % apart: fine (rule of thumb: up to 0.5 %). Never lock front and rear together on a hard road.", size=size),
        "edge": say(
            "{size:.2f} % apart: for loose ground only (rule of thumb: up to 1 %). Never lock front and rear together on a hard road.",
            size=size,
        ),
        "out": say(
            "{size:.2f} % apart: too far apart to lock front and rear together. The driveline winds up and something breaks.", size=size
        ),
    }
    return Mismatch(
        mismatch_pct=share,
        scrub_m_per_km=10.0 * share,
        windup_prop_turns_per_km=1000.0 / rear - 1000.0 / front,
        leads=leads,
        front_ratio_for_zero=given.rear_ratio * given.front_circumference_m / given.rear_circumference_m,
        verdict=verdict,
        reasons=[Reason(code=f"mismatch_{verdict}", text=words[verdict])],
    )
