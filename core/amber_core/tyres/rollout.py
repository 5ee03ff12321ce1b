"""Rolling circumference, measured on the ground."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

from amber_core import checks
from amber_core.verdicts import Reason
from amber_core.words import say

ENOUGH_TURNS = 5.0
_USUAL_K = (0.90, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class RollOut:
    """Distance rolled [mm], loaded, at road pressure, over turns of the wheel; `diameter_mm` of the unloaded tyre to compare with."""

    rollout_mm: float
    turns: float
    diameter_mm: float | None = None

    def __post_init__(self) -> None:
        checks.within("rollout_mm", self.rollout_mm, 100.0, 1e7, say("Roll-out must be 0.1 m to 10 km. Give it in millimetres."))
        checks.within("turns", self.turns, 0.25, 10000.0, say("Turns must be a quarter to 10 000."))
        checks.within("diameter_mm", self.diameter_mm, 100.0, 4000.0, say("Tyre diameter must be 100 to 4 000 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class RolledOut:
    """Circumference C [m], k = C over pi D [-] when D is known, turns a kilometre [1/km]."""

    circumference_m: float
    k: float | None
    revs_per_km: float
    reasons: list[Reason]


def roll_out(given: RollOut) -> RolledOut:
    """Circumference of a loaded tyre from a measured roll-out.

    Parameters
    ----------
    given : RollOut
        L [mm], N turns, D [mm].

    Returns
    -------
    RolledOut
        C [m], k [-], turns a kilometre.

    Raises
    ------
    InvalidInput
        From RollOut, with the field.

    Notes
    -----
    C = L / N; k = C / (pi D); turns a kilometre = 1000 / C.

    Examples
    --------
    >>> round(roll_out(RollOut(rollout_mm=12170, turns=5, diameter_mm=802.8)).circumference_m, 3)
    2.434
    """
    around = given.rollout_mm / given.turns / 1000.0
    k = None if given.diameter_mm is None else around * 1000.0 / (pi * given.diameter_mm)
    reasons = []
    if given.turns < ENOUGH_TURNS:
        text = say(
            "{turns:g} turns are too few to be accurate. Roll at least {enough_turns:g}, loaded, at road pressure.",
            turns=given.turns,
            enough_turns=ENOUGH_TURNS,
        )
        reasons.append(Reason(code="few_turns", text=text, field="turns"))
    if k is not None and not _USUAL_K[0] <= k <= _USUAL_K[1]:
        text = say("A tyre rolls 0.93 to 0.98 of its unloaded circumference; this one {k:.2f}. Check turns, length and diameter.", k=k)
        reasons.append(Reason(code="unlike", text=text, field="rollout_mm"))
    return RolledOut(circumference_m=around, k=k, revs_per_km=1000.0 / around, reasons=reasons)
