"""Loose rollers without a cage: how many fit, and how many are missing."""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, degrees, floor, pi

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import Reason, VerdictWord
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class RollersQuestion:
    """Roller diameter, and the circle through the rollers' middles or the inner race, [mm]; counted, and what the sheet says."""

    roller_mm: float
    pitch_mm: float | None = None
    inner_race_mm: float | None = None
    counted: int | None = None
    sheet_count: int | None = None

    def __post_init__(self) -> None:
        checks.above_zero("roller_mm", self.roller_mm, say("Roller diameter"))
        checks.within("roller_mm", self.roller_mm, 0.0, 500.0, say("Roller diameter must be under 500 mm. Check the unit."))
        if (self.pitch_mm is None) == (self.inner_race_mm is None):
            field = "pitch_mm" if self.pitch_mm is None else "inner_race_mm"
            raise InvalidInput(field, say("Give either the pitch circle or the inner race, one of the two."))
        checks.above_zero("pitch_mm", self.pitch_mm, say("Pitch circle"))
        checks.above_zero("inner_race_mm", self.inner_race_mm, say("Inner race"))
        for field in ("pitch_mm", "inner_race_mm"):
            checks.within(field, getattr(self, field), 0.0, 5000.0, say("Diameter must be 0 to 5 000 mm. Check the unit."))
        if self.roller_mm >= self.circle_mm:
            raise InvalidInput("roller_mm", say("A roller must be smaller than the circle that it runs on."))
        for field in ("counted", "sheet_count"):
            given = getattr(self, field)
            checks.within(field, given, 0, 1_000_000, say("A count must be 0 or more."))
            if given is not None and given > self.fits:
                text = say(
                    "{count} rollers cannot be in there: {fits} fit. Check the diameters and count again.", count=given, fits=self.fits
                )
                raise InvalidInput(field, text)

    @property
    def circle_mm(self) -> float:
        """The circle through the rollers' middles, [mm]."""
        return self.pitch_mm if self.pitch_mm is not None else (self.inner_race_mm or 0.0) + self.roller_mm

    @property
    def fits(self) -> int:
        """How many rollers fit round the circle."""
        return floor(180.0 / degrees(asin(self.roller_mm / self.circle_mm)) + 1e-9)


@dataclass(frozen=True, slots=True, kw_only=True)
class Rollers:
    """How many fit, the gap left round the circle [mm], and how many are missing."""

    fits: int
    gap_mm: float
    missing: int | None
    verdict: VerdictWord
    reasons: list[Reason]


def count_rollers(given: RollersQuestion) -> Rollers:
    """Hold counted rollers against how many belong in.

    Parameters
    ----------
    given : RollersQuestion
        Diameters [mm] and counts.

    Returns
    -------
    Rollers
        Counts, and the gap [mm].

    Raises
    ------
    InvalidInput
        From RollersQuestion, with the field; on ``counted`` or ``sheet_count`` where more are given than fit.

    Notes
    -----
    fits = floor(180/asin(d/D)); gap = pi D - fits D asin(d/D). Wanted is the sheet's count, else what fits.

    Examples
    --------
    >>> count_rollers(RollersQuestion(roller_mm=2.5, inner_race_mm=16.2, counted=22)).missing
    1
    """
    circle, fits = given.circle_mm, given.fits
    gap = pi * circle - fits * circle * asin(given.roller_mm / circle)
    if given.counted is None:
        return Rollers(fits=fits, gap_mm=gap, missing=None, verdict="unknown", reasons=[])
    wanted = fits if given.sheet_count is None else given.sheet_count
    missing = max(0, wanted - given.counted)
    if missing:
        text = (
            say("{missing} rollers are missing: {counted} of {wanted} are there. Find them before it is closed.",
                missing=missing, counted=given.counted, wanted=wanted)
            if missing > 1
            else say("One roller is missing: {counted} of {wanted} are there. Find it before it is closed.",
                     counted=given.counted, wanted=wanted)
        )  # fmt: skip
        return Rollers(fits=fits, gap_mm=gap, missing=missing, verdict="out", reasons=[Reason(code="missing", text=text, field="counted")])
    if given.counted > wanted:
        text = say("{counted} were counted and the sheet says {wanted}. Check which bearing it is.", counted=given.counted, wanted=wanted)
        more = Reason(code="more_than_sheet", text=text, field="sheet_count")
        return Rollers(fits=fits, gap_mm=gap, missing=0, verdict="edge", reasons=[more])
    return Rollers(fits=fits, gap_mm=gap, missing=0, verdict="in", reasons=[])
