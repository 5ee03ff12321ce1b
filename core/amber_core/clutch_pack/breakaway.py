"""Breakaway torque between the wheels of a limited-slip axle, measured and expected."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import median
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.preload.pull import Pull, torque_from_pull
from amber_core.verdicts import SLACK, Reason, VerdictWord, held, window
from amber_core.words import say

MOST_READINGS = 100
UNEVEN = 0.25
"""A spread over this part of the median: the packs grab."""


@dataclass(frozen=True, slots=True, kw_only=True)
class BreakawayQuestion:
    """Readings [N m] or pulls on a lever, the limits of the same test, and what the pack is made of.

    Parameters
    ----------
    readings_nm, pulls : list
        One of the two: torque read [N m], or force [N] at a radius [mm].
    test : {"free", "case_held"}
        The other wheel on the ground and the gearbox in neutral; or in gear with both wheels up.
    min_nm, max_nm : float, optional
        Limits of that test, [N m].
    faces_ring_side, faces_far_side : int, optional
        Rubbing faces of each pack.
    spring_n, friction : float
        Preload spring [N] and coefficient of friction (typical).
    inner_mm, outer_mm : float, optional
        Diameters of the rubbing faces, [mm].
    """

    readings_nm: list[float] | None = None
    pulls: list[Pull] | None = None
    test: Literal["free", "case_held"] = "free"
    min_nm: float | None = None
    max_nm: float | None = None
    faces_ring_side: int | None = None
    faces_far_side: int | None = None
    spring_n: float | None = None
    friction: float = 0.10
    inner_mm: float | None = None
    outer_mm: float | None = None
    resolution_nm: float = 0.05

    def __post_init__(self) -> None:
        if (self.readings_nm is None) == (self.pulls is None):
            raise InvalidInput(
                "readings_nm" if self.pulls is None else "pulls", say("Give either torque readings or pulls on a lever, one of the two.")
            )
        given: list[object] = [*(self.readings_nm or []), *(self.pulls or [])]
        if not 1 <= len(given) <= MOST_READINGS:
            field = "readings_nm" if self.pulls is None else "pulls"
            raise InvalidInput(field, say("Give 1 to {most} readings.", most=MOST_READINGS))
        for index, one in enumerate(self.readings_nm or []):
            checks.within(f"readings_nm[{index}]", one, 0.0, 10_000.0, say("Torque must be 0 to 10 000 Nm. Check the unit."))
        for field in ("min_nm", "max_nm"):
            checks.within(field, getattr(self, field), 0.0, 10_000.0, say("Torque must be 0 to 10 000 Nm. Check the unit."))
        checks.window_in_order(self.min_nm, self.max_nm, "min_nm", say("breakaway torque"))
        for field in ("faces_ring_side", "faces_far_side"):
            checks.within(field, getattr(self, field), 0, 400, say("A pack has 0 to 400 rubbing faces."))
        checks.within("spring_n", self.spring_n, 0.0, 1e6, say("Spring load must be 0 to 1 000 000 N."))
        checks.within("friction", self.friction, 0.0, 2.0, say("Coefficient of friction must be 0 to 2."))
        checks.within("inner_mm", self.inner_mm, 0.0, 2000.0, say("Diameter must be 0 to 2000 mm."))
        checks.above_zero("outer_mm", self.outer_mm, say("Outer diameter"))
        checks.within("outer_mm", self.outer_mm, 0.0, 2000.0, say("Diameter must be 0 to 2000 mm."))
        if self.inner_mm is not None and self.outer_mm is not None and self.outer_mm - self.inner_mm < checks.LEAST:
            raise InvalidInput("inner_mm", say("The inner diameter must be smaller than the outer one."))
        checks.torque_resolution_ok(self.resolution_nm)


@dataclass(frozen=True, slots=True, kw_only=True)
class Breakaway:
    """Median and spread of the readings, and what the pack should give, [N m]; `limits` says how the median stands."""

    torque_nm: float
    spread_nm: float
    expected_nm: float | None
    verdict: VerdictWord
    reasons: list[Reason]
    limits: list[Reason]


def judge_breakaway(given: BreakawayQuestion) -> Breakaway:
    """Judge the breakaway torque of one wheel, and work out what is expected.

    Parameters
    ----------
    given : BreakawayQuestion
        Torques [N m], or forces [N] at radii [mm].

    Returns
    -------
    Breakaway
        Torques [N m].

    Raises
    ------
    InvalidInput
        From BreakawayQuestion, with the field.

    Notes
    -----
    Case held: T = (n_ring + n_far) mu F r_m, r_m = 2/3 (ro^3 - ri^3)/(ro^2 - ri^2), even pressure. Free: the case turns half as far as
    the wheel, so by virtual work the wheel feels the mean of both packs, half of the sum.

    Examples
    --------
    >>> question = BreakawayQuestion(readings_nm=[62.0, 66.0, 71.0], faces_ring_side=8, faces_far_side=8, spring_n=1900.0, inner_mm=62.0,
    ...     outer_mm=92.0)
    >>> round(judge_breakaway(question).expected_nm, 1)
    59.3
    """
    torques = given.readings_nm if given.readings_nm is not None else [torque_from_pull(one).torque_nm for one in given.pulls or []]
    torque, spread = float(median(torques)), max(torques) - min(torques)
    name = say("Breakaway torque")
    verdict, limits = held(window(torque, torque, given.min_nm, given.max_nm, (name, name), "nm"), given.resolution_nm)
    reasons = []
    if spread > UNEVEN * torque + SLACK:
        text = say("The readings differ by {spread:Nm0}: it grabs and lets go. Check soaking, modifier and plates.", spread=spread)
        reasons.append(Reason(code="uneven", text=text, field="readings_nm" if given.pulls is None else "pulls"))
    return Breakaway(torque_nm=torque, spread_nm=spread, expected_nm=_expected(given), verdict=verdict, reasons=reasons, limits=limits)


def _expected(given: BreakawayQuestion) -> float | None:
    ring, far, spring, inner, outer = given.faces_ring_side, given.faces_far_side, given.spring_n, given.inner_mm, given.outer_mm
    if ring is None or far is None or spring is None or inner is None or outer is None:
        return None
    ri, ro = inner / 2000.0, outer / 2000.0
    mean_radius = 2.0 / 3.0 * (ro**3 - ri**3) / (ro**2 - ri**2)
    both = (ring + far) * given.friction * spring * mean_radius
    return both / 2.0 if given.test == "free" else both
