"""What becomes of end play when case and shaft get hot."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason
from amber_core.words import say

ALPHA = {"aluminium": 23e-6, "iron": 11e-6, "steel": 11.7e-6}
"""Thermal expansion, [1/K] (typical)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class HotPlayQuestion:
    """Distance between the bearings [mm], what case and shaft are of, how much warmer they get [K], and the play when cold [mm].

    Expansion [1/K] or a material, one of the two, for each. A negative play is preload; a negative rise is cooling.
    """

    span_mm: float
    rise_k: float
    play_cold_mm: float
    alpha_case: float | None = None
    case: Literal["aluminium", "iron"] | None = None
    alpha_shaft: float | None = None
    shaft: Literal["steel"] | None = None
    rise_shaft_k: float | None = None

    def __post_init__(self) -> None:
        checks.above_zero("span_mm", self.span_mm, say("Distance between the bearings"))
        checks.within("span_mm", self.span_mm, 0.0, 10_000.0, say("Distance between the bearings must be under 10 000 mm."))
        for field, named in (("alpha_case", self.case), ("alpha_shaft", self.shaft)):
            alpha = getattr(self, field)
            if (alpha is None) == (named is None):
                raise InvalidInput(field, say("Give either the material or its thermal expansion, one of the two."))
            checks.within(field, alpha, 0.0, 0.001, say("Thermal expansion is given for 1 K, such as 0.0000117."))
        for field in ("rise_k", "rise_shaft_k"):
            checks.within(field, getattr(self, field), -500.0, 1000.0, say("Rise must be −500 to 1000 K."))
        checks.within("play_cold_mm", self.play_cold_mm, -20.0, 20.0, say("End play must be −20 to 20 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class HotPlay:
    """Change (+ looser) and the play when hot, [mm]."""

    change_mm: float
    play_hot_mm: float
    reasons: list[Reason]


def play_when_hot(given: HotPlayQuestion) -> HotPlay:
    """Work out the end play when hot.

    Parameters
    ----------
    given : HotPlayQuestion
        Span and play [mm], rises [K].

    Returns
    -------
    HotPlay
        Change and play [mm].

    Raises
    ------
    InvalidInput
        From HotPlayQuestion, with the field.

    Notes
    -----
    Change = span (alpha_case rise - alpha_shaft rise_shaft). For cups that the case holds from outside; pairs that a nut on the shaft
    holds together go the other way.

    Examples
    --------
    >>> round(play_when_hot(HotPlayQuestion(span_mm=165.0, case="aluminium", shaft="steel", rise_k=65.0, play_cold_mm=0.02)).change_mm, 3)
    0.121
    """
    case = ALPHA[given.case] if given.case is not None else given.alpha_case or 0.0
    shaft = ALPHA[given.shaft] if given.shaft is not None else given.alpha_shaft or 0.0
    rise_shaft = given.rise_k if given.rise_shaft_k is None else given.rise_shaft_k
    change = given.span_mm * (case * given.rise_k - shaft * rise_shaft)
    hot = given.play_cold_mm + change
    reasons = []
    if hot < -SLACK and given.play_cold_mm >= -SLACK:
        text = say("Free when cold and tight when hot, by {tight:mm3}. Leave more end play.", tight=-hot)
        reasons.append(Reason(code="tight_hot", text=text, field="play_cold_mm"))
    return HotPlay(change_mm=change, play_hot_mm=hot, reasons=reasons)
