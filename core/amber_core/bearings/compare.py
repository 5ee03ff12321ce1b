"""New side bearings against the old ones: what to do with the shims, and what happens if they are left."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import fmean
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason
from amber_core.words import Said, say

MOST_READINGS = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class BearingHeights:
    """Heights of both side bearings, cone in cup, loaded and turned, [mm]."""

    ring_side_mm: list[float]
    far_side_mm: list[float]

    def __post_init__(self) -> None:
        for field, heights in (("ring_side_mm", self.ring_side_mm), ("far_side_mm", self.far_side_mm)):
            if not 1 <= len(heights) <= MOST_READINGS:
                raise InvalidInput(field, say("Give 1 to {most} readings.", most=MOST_READINGS))
            for index, one in enumerate(heights):
                checks.within(f"{field}[{index}]", one, 0.0, 500.0, say("Bearing height must be 0 to 500 mm. Check the unit."))


@dataclass(frozen=True, slots=True, kw_only=True)
class SideBearingsQuestion:
    """Old and new bearings, the shims that were in [mm], and where they lie."""

    old: BearingHeights
    new: BearingHeights
    ring_side_shim_mm: float
    far_side_shim_mm: float
    carrier: Literal["side_shims", "cover_shims"]
    same_mm: float = 0.02

    def __post_init__(self) -> None:
        for field in ("ring_side_shim_mm", "far_side_shim_mm"):
            checks.within(field, getattr(self, field), 0.0, 100.0, say("Stack of shims must be 0 to 100 mm."))
        checks.within("same_mm", self.same_mm, 0.0, 1.0, say("What counts as the same must be 0 to 1 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class BothSides:
    """Ring side and far side, [mm]."""

    ring_side: float
    far_side: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SideShims:
    """Shims of the ring side and of the far side, [mm]."""

    ring_side_mm: float
    far_side_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class IfLeft:
    """Ring move (+ away from the pinion) and change of the preload (+ tighter) with the old shims, [mm]."""

    ring_move_mm: float
    preload_change_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class BearingComparison:
    """New less old, whether the shims go back as they are, the shims that make up for it, and what happens without, [mm]."""

    difference_mm: BothSides
    reuse: bool
    shims: SideShims
    if_left: IfLeft
    reasons: list[Reason]


def compare_bearings(given: SideBearingsQuestion) -> BearingComparison:
    """Compare new side bearings with the old ones.

    Parameters
    ----------
    given : SideBearingsQuestion
        Heights and shims, [mm].

    Returns
    -------
    BearingComparison
        Differences, shims and moves, [mm].

    Raises
    ------
    InvalidInput
        From SideBearingsQuestion, with the field.

    Notes
    -----
    Side shims lie outboard of the cup: each is less by its side's difference. Cover shims lie under the flange of a cover that holds the
    cup: each is more by it. Left alone, the ring moves by -(ring side - far side)/2 and the preload tightens by the sum.

    Examples
    --------
    >>> old = BearingHeights(ring_side_mm=[29.32], far_side_mm=[29.4])
    >>> new = BearingHeights(ring_side_mm=[29.42], far_side_mm=[29.37])
    >>> question = SideBearingsQuestion(old=old, new=new, ring_side_shim_mm=1.85, far_side_shim_mm=2.1, carrier="side_shims")
    >>> round(compare_bearings(question).shims.ring_side_mm, 2)
    1.75
    """
    ring = fmean(given.new.ring_side_mm) - fmean(given.old.ring_side_mm)
    far = fmean(given.new.far_side_mm) - fmean(given.old.far_side_mm)
    sign = -1.0 if given.carrier == "side_shims" else 1.0
    shims = SideShims(ring_side_mm=given.ring_side_shim_mm + sign * ring, far_side_mm=given.far_side_shim_mm + sign * far)
    sides: tuple[tuple[Said, float, str], ...] = (
        (say("ring side"), shims.ring_side_mm, "ring_side_shim_mm"),
        (say("far side"), shims.far_side_mm, "far_side_shim_mm"),
    )
    reasons = [
        Reason(
            code="negative_stack",
            text=say("The shim of the {side} would be {shim:mm2}, less than none. Measure the bearings again.", side=side, shim=shim),
            field=field,
        )
        for side, shim, field in sides
        if shim < -SLACK
    ]
    return BearingComparison(
        difference_mm=BothSides(ring_side=ring, far_side=far),
        reuse=max(abs(ring), abs(far)) <= given.same_mm + SLACK,
        shims=shims,
        if_left=IfLeft(ring_move_mm=-(ring - far) / 2.0, preload_change_mm=ring + far),
        reasons=reasons,
    )
