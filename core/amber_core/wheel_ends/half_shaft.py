"""A half shaft in its side gear: whether its circlip has gone home."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason, VerdictWord
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class HomeQuestion:
    """Gap of the joint to the housing now, before, and on the other side, [mm]; how far one stands out that is not home; a tug at it."""

    gap_now_mm: float
    gap_before_mm: float | None = None
    gap_other_side_mm: float | None = None
    step_mm: float = 3.0
    tolerance_mm: float = 0.5
    tug: Literal["holds", "comes_out"] | None = None

    def __post_init__(self) -> None:
        for field in ("gap_now_mm", "gap_before_mm", "gap_other_side_mm"):
            checks.within(field, getattr(self, field), 0.0, 500.0, say("Gap must be 0 to 500 mm. Check the unit."))
        checks.above_zero("step_mm", self.step_mm, say("How far it stands out when not home"))
        checks.within("step_mm", self.step_mm, 0.0, 100.0, say("A circlip that is not home stands out by 100 mm at most."))
        checks.within("tolerance_mm", self.tolerance_mm, 0.0, 50.0, say("Tolerance must be 0 to 50 mm."))
        if self.step_mm <= 2.0 * self.tolerance_mm + SLACK:
            raise InvalidInput("tolerance_mm", say("The tolerance must be under half of how far a shaft stands out that is not home."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Home:
    """How far the shaft stands out more than before, or than the other side, [mm]."""

    extra_mm: float | None
    against: Literal["before", "other_side"] | None
    verdict: VerdictWord
    reasons: list[Reason]


def judge_home(given: HomeQuestion) -> Home:
    """Judge whether a half shaft has gone home.

    Parameters
    ----------
    given : HomeQuestion
        Gaps [mm].

    Returns
    -------
    Home
        Extra gap [mm].

    Raises
    ------
    InvalidInput
        From HomeQuestion, with the field.

    Notes
    -----
    Extra = now - before, else now - the other side. Within the tolerance it is home; from the step less the tolerance the circlip is not
    in its groove; a shaft that comes out when tugged is never home.

    Examples
    --------
    >>> judge_home(HomeQuestion(gap_now_mm=4.9, gap_before_mm=2.0)).verdict
    'out'
    """
    against: Literal["before", "other_side"] | None = None
    extra: float | None = None
    if given.gap_before_mm is not None:
        against, extra = "before", given.gap_now_mm - given.gap_before_mm
    elif given.gap_other_side_mm is not None:
        against, extra = "other_side", given.gap_now_mm - given.gap_other_side_mm
    verdict, reasons = _by_gap(given, extra)
    if given.tug == "comes_out":
        text = say("It comes out when tugged at the joint's body: the circlip has not caught. Push it home and tug again.")
        return Home(extra_mm=extra, against=against, verdict="out", reasons=[*reasons, Reason(code="not_caught", text=text, field="tug")])
    if given.tug is None and verdict == "in":
        text = say("The gap says it is home. Tug at the joint's body to be sure.")
        reasons = [*reasons, Reason(code="tug_it", text=text, field="tug")]
    return Home(extra_mm=extra, against=against, verdict=verdict, reasons=reasons)


def _by_gap(given: HomeQuestion, extra: float | None) -> tuple[VerdictWord, list[Reason]]:
    if extra is None:
        return "unknown", []
    if abs(extra) <= given.tolerance_mm + SLACK:
        return "in", []
    if extra >= given.step_mm - given.tolerance_mm - SLACK:
        text = say("It stands out {extra:mm1} more than it should: the circlip is not in its groove.", extra=extra)
        return "out", [Reason(code="ring_not_home", text=text, field="gap_now_mm")]
    if extra < 0.0:
        text = say("It sits {extra:mm1} deeper than before. Is it the right shaft?", extra=-extra)
        return "edge", [Reason(code="deeper_than_before", text=text, field="gap_now_mm")]
    text = say("It stands out {extra:mm1} more than it should. Measure again, and push it home.", extra=extra)
    return "edge", [Reason(code="between", text=text, field="gap_now_mm")]
