"""How far an axle shaft's spline still reaches into its side gear when the shaft stands farthest out."""

from __future__ import annotations

from dataclasses import dataclass

from amber_core import checks
from amber_core.verdicts import SLACK, Limit, Reason, VerdictWord, held
from amber_core.words import say

USUAL_SHARE = 0.8
"""Of the spline's diameter, where no figure is known (rule of thumb)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class EngagementQuestion:
    """Engagement with the shaft home, how far it can stand out, the spline, what is wanted and the gear's own spline, [mm].

    `gap_to_cross_mm` is what is left to the cross pin with the shaft home; negative where they meet.
    """

    engaged_home_mm: float
    outward_mm: float
    spline_diameter_mm: float
    least_mm: float | None = None
    gear_spline_mm: float | None = None
    gap_to_cross_mm: float | None = None
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        for field in ("engaged_home_mm", "outward_mm", "spline_diameter_mm", "least_mm", "gear_spline_mm"):
            checks.within(field, getattr(self, field), 0.0, 1000.0, say("This must be 0 to 1000 mm. Check the unit."))
        checks.within("gap_to_cross_mm", self.gap_to_cross_mm, -1000.0, 1000.0, say("Gap to the cross pin must be −1000 to 1000 mm."))
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Engagement:
    """Least engagement and what is wanted, [mm]."""

    engaged_least_mm: float
    wanted_mm: float
    verdict: VerdictWord
    reasons: list[Reason]
    limits: list[Reason]


def judge_engagement(given: EngagementQuestion) -> Engagement:
    """Judge the engagement of an axle shaft in its side gear.

    Parameters
    ----------
    given : EngagementQuestion
        Lengths [mm].

    Returns
    -------
    Engagement
        Lengths [mm].

    Raises
    ------
    InvalidInput
        From EngagementQuestion, with the field.

    Notes
    -----
    Least = min(home - outward, the gear's spline): what reaches past the gear's spline carries nothing. Wanted is the figure given, else
    0.8 of the spline's diameter (rule of thumb).

    Examples
    --------
    >>> judge_engagement(EngagementQuestion(engaged_home_mm=34.0, outward_mm=4.0, spline_diameter_mm=32.0)).engaged_least_mm
    30.0
    """
    least = given.engaged_home_mm - given.outward_mm
    if given.gear_spline_mm is not None:
        least = min(least, given.gear_spline_mm)
    wanted = USUAL_SHARE * given.spline_diameter_mm if given.least_mm is None else given.least_mm
    limit = Limit(value=least, bound=wanted, side="min", field="least_mm", what=say("The least engagement"), unit="mm", digits=1)
    verdict, limits = held([limit], given.resolution_mm)
    reasons = []
    if given.gap_to_cross_mm is not None and given.gap_to_cross_mm <= SLACK:
        verdict = "out"
        text = say("The shaft touches the cross pin before it is home. Check the shaft's length.")
        reasons.append(Reason(code="touches_cross", text=text, field="gap_to_cross_mm"))
    return Engagement(engaged_least_mm=least, wanted_mm=wanted, verdict=verdict, reasons=reasons, limits=limits)
