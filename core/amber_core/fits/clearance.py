"""Clearance of a shaft or pin in its bores, and how far out of round both are."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason, VerdictWord, held, window
from amber_core.words import say

MOST_READINGS = 100


@dataclass(frozen=True, slots=True, kw_only=True)
class ClearanceQuestion:
    """Diameters of the shaft and of its bores, and the window of the clearance, [mm]."""

    shaft_mm: list[float]
    bore_mm: list[float]
    max_mm: float | None = None
    min_mm: float | None = None
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        for field, readings in (("shaft_mm", self.shaft_mm), ("bore_mm", self.bore_mm)):
            if not 1 <= len(readings) <= MOST_READINGS:
                raise InvalidInput(field, say("Give 1 to {most} readings.", most=MOST_READINGS))
            for index, one in enumerate(readings):
                checks.within(f"{field}[{index}]", one, 0.0, 5000.0, say("Diameter must be 0 to 5 000 mm. Check the unit."))
        for field in ("min_mm", "max_mm"):
            checks.within(field, getattr(self, field), 0.0, 5000.0, say("Clearance must be 0 mm or more."))
        checks.window_in_order(self.min_mm, self.max_mm, "min_mm", say("clearance"))
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Clearance:
    """Least and greatest clearance, and how far shaft and bore are out of round, [mm]."""

    least_mm: float
    greatest_mm: float
    shaft_out_of_round_mm: float
    bore_out_of_round_mm: float
    verdict: VerdictWord
    reasons: list[Reason]
    limits: list[Reason]


def judge_clearance(given: ClearanceQuestion) -> Clearance:
    """Judge the clearance of a shaft in its bores.

    Parameters
    ----------
    given : ClearanceQuestion
        Diameters [mm].

    Returns
    -------
    Clearance
        Clearances [mm].

    Raises
    ------
    InvalidInput
        From ClearanceQuestion, with the field.

    Notes
    -----
    Least = least bore - greatest shaft; greatest = greatest bore - least shaft; out of round = greatest - least.

    Examples
    --------
    >>> round(judge_clearance(ClearanceQuestion(shaft_mm=[21.97, 21.95], bore_mm=[22.03])).greatest_mm, 2)
    0.08
    """
    least, greatest = min(given.bore_mm) - max(given.shaft_mm), max(given.bore_mm) - min(given.shaft_mm)
    names = say("The least clearance"), say("The greatest clearance")
    verdict, limits = held(window(least, greatest, given.min_mm, given.max_mm, names, "mm"), given.resolution_mm)
    reasons = []
    if least < -SLACK:
        text = say("At its thickest the shaft is {over:mm3} larger than the smallest bore: it does not go in freely.", over=-least)
        reasons.append(Reason(code="interference", text=text, field="bore_mm"))
    return Clearance(
        least_mm=least,
        greatest_mm=greatest,
        shaft_out_of_round_mm=max(given.shaft_mm) - min(given.shaft_mm),
        bore_out_of_round_mm=max(given.bore_mm) - min(given.bore_mm),
        verdict=verdict,
        reasons=reasons,
        limits=limits,
    )
