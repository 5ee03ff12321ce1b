"""The gap between the two halves of a locker that takes the spider gears' place."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import fmean
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason, VerdictWord, held, window
from amber_core.words import say

MOST_PLACES = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class LockerQuestion:
    """Gap at two places or more and its window, [mm]; the washers behind the halves, fitted or left out, and their thickness [mm]."""

    readings_mm: list[float]
    min_mm: float
    max_mm: float
    washers: Literal["fitted", "left_out", "unknown"]
    washer_mm: float | None = None
    max_spread_mm: float = 0.10
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        if not 2 <= len(self.readings_mm) <= MOST_PLACES:
            raise InvalidInput("readings_mm", say("Measure the gap at 2 to {most} places, at both ends of the halves.", most=MOST_PLACES))
        for index, one in enumerate(self.readings_mm):
            checks.within(f"readings_mm[{index}]", one, 0.0, 100.0, say("Locker gap must be 0 to 100 mm. Check the unit."))
        for field in ("min_mm", "max_mm", "max_spread_mm"):
            checks.within(field, getattr(self, field), 0.0, 100.0, say("Locker gap must be 0 to 100 mm. Check the unit."))
        checks.window_in_order(self.min_mm, self.max_mm, "min_mm", say("locker gap"))
        checks.within("washer_mm", self.washer_mm, 0.0, 20.0, say("Thrust washer must be 0 to 20 mm thick."))
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class LockerGap:
    """Least, greatest and mean gap, their difference, and the gap without and with both washers, [mm]."""

    least_mm: float
    greatest_mm: float
    mean_mm: float
    spread_mm: float
    without_washers_mm: float | None
    with_washers_mm: float | None
    verdict: VerdictWord
    reasons: list[Reason]
    limits: list[Reason]


def judge_locker_gap(given: LockerQuestion) -> LockerGap:
    """Judge the gap between the halves of a locker.

    Parameters
    ----------
    given : LockerQuestion
        Gaps and washer, [mm].

    Returns
    -------
    LockerGap
        Gaps [mm].

    Raises
    ------
    InvalidInput
        From LockerQuestion, with the field.

    Notes
    -----
    The washers lie behind the two halves: leaving both out opens the gap by two of them. Where it is not known whether they are in, both
    ways are counted from the mean.

    Examples
    --------
    >>> judge_locker_gap(LockerQuestion(readings_mm=[3.92, 3.98], min_mm=3.7, max_mm=4.3, washers="fitted")).verdict
    'in'
    """
    least, greatest, mean = min(given.readings_mm), max(given.readings_mm), fmean(given.readings_mm)
    spread = greatest - least
    fitted = out = None
    if given.washer_mm is not None:
        both = 2.0 * given.washer_mm
        fitted = mean if given.washers == "fitted" else mean - both
        out = mean if given.washers == "left_out" else mean + both
    names = say("The least gap"), say("The greatest gap")
    verdict, limits = held(window(least, greatest, given.min_mm, given.max_mm, names, "mm"), given.resolution_mm)
    reasons = []
    others = ([] if given.washers == "fitted" else [(fitted, True)]) + ([] if given.washers == "left_out" else [(out, False)])
    cure = next((way for gap, way in others if gap is not None and given.min_mm - SLACK <= gap <= given.max_mm + SLACK), None)
    if verdict == "out" and cure is not None:
        text = (
            say("With both thrust washers fitted the gap would be {gap:mm2}, which is in. See what the kit asks for.", gap=fitted)
            if cure
            else say("With both thrust washers left out the gap would be {gap:mm2}, which is in. See what the kit asks for.", gap=out)
        )
        reasons.append(Reason(code="washers", text=text, field="washers"))
    if spread > given.max_spread_mm + SLACK:
        text = say("The gap differs by {spread:mm2} from end to end. Seat both halves and look for dirt or a burr.", spread=spread)
        reasons.append(Reason(code="uneven", text=text, field="readings_mm"))
    return LockerGap(
        least_mm=least,
        greatest_mm=greatest,
        mean_mm=mean,
        spread_mm=spread,
        without_washers_mm=out,
        with_washers_mm=fitted,
        verdict=verdict,
        reasons=reasons,
        limits=limits,
    )
