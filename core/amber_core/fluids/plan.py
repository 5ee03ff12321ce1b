"""Filling an axle: bottles, friction modifier, and the level on ground that is not level."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, radians, tan

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Limit, Reason, VerdictWord, judge
from amber_core.words import say

LEVEL_ENOUGH_MM = 5.0
"""What the oil may stand off at the plug before the ground counts as not level, either way, [mm]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class FluidQuestion:
    """What the sheet says, what was poured, and how the vehicle stands.

    Parameters
    ----------
    capacity_l, min_l, max_l, bottle_l, poured_l, resolution_l : float
        Fill, its limits, a bottle, what was poured (modifier included) and what a measure can tell apart, [l].
    modifier_ml_per_l, modifier_ml : float, optional
        Dose for each litre of the fill, or the whole dose, which goes before it, [ml].
    modifier_in_oil : bool
        The oil has the modifier in it already.
    level_below_plug_mm : float
        How far below the plug the right level stands on level ground, [mm].
    pitch_deg, roll_deg : float
        + = rear lower, + = left lower, [deg].
    plug_rearward_mm, plug_left_mm : float
        The plug from the middle of the oil's surface, [mm].
    """

    capacity_l: float | None = None
    min_l: float | None = None
    max_l: float | None = None
    bottle_l: float = 1.0
    modifier_ml_per_l: float | None = None
    modifier_ml: float | None = None
    modifier_in_oil: bool = False
    poured_l: float | None = None
    resolution_l: float = 0.05
    level_below_plug_mm: float = 0.0
    pitch_deg: float = 0.0
    roll_deg: float = 0.0
    plug_rearward_mm: float = 0.0
    plug_left_mm: float = 0.0

    def __post_init__(self) -> None:
        for name in ("capacity_l", "min_l", "max_l", "poured_l"):
            checks.within(name, getattr(self, name), 0.0, 1000.0, say("Oil must be 0 to 1000 litres. Check the unit."))
        checks.above_zero("bottle_l", self.bottle_l, say("Bottle size"))
        checks.within("bottle_l", self.bottle_l, 0.001, 1000.0, say("Bottle size must be 0.001 to 1000 litres."))
        checks.window_in_order(self.min_l, self.max_l, "min_l", say("fill"))
        for name in ("modifier_ml_per_l", "modifier_ml"):
            checks.within(name, getattr(self, name), 0.0, 100_000.0, say("Friction modifier must be 0 to 100 000 ml."))
        checks.within("resolution_l", self.resolution_l, 0.0, 10.0, say("Resolution must be 0 to 10 litres."))
        checks.within("level_below_plug_mm", self.level_below_plug_mm, 0.0, 1000.0, say("Level below the plug must be 0 to 1000 mm."))
        for name in ("pitch_deg", "roll_deg"):
            checks.within(name, getattr(self, name), -45.0, 45.0, say("Slope of the vehicle must be −45 to 45 degrees."))
        for name in ("plug_rearward_mm", "plug_left_mm"):
            checks.within(name, getattr(self, name), -5000.0, 5000.0, say("Place of the plug must be −5000 to 5000 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class FluidPlan:
    """Bottles to open, modifier [ml], oil left over [l]; oil at the plug against level ground and the dip that is right here [mm]."""

    bottles: int | None
    modifier_ml: float | None
    left_over_l: float | None
    level_error_mm: float
    dip_mm: float
    verdict: VerdictWord
    reasons: list[Reason]


def plan_fluid(given: FluidQuestion) -> FluidPlan:
    """How much to buy, what goes in first, and how deep the level stands on this ground.

    Parameters
    ----------
    given : FluidQuestion
        Litres, millilitres, slopes [deg], places [mm].

    Returns
    -------
    FluidPlan
        Bottles, modifier [ml], levels [mm], verdict of what was poured.

    Raises
    ------
    InvalidInput
        From FluidQuestion, and on ``modifier_ml`` when the modifier is more than the fill.

    Notes
    -----
    The modifier is part of the fill and goes in first: oil = capacity - modifier. Level error = rearward tan(pitch) + left tan(roll);
    dip = level below the plug - level error.

    Examples
    --------
    >>> plan_fluid(FluidQuestion(capacity_l=2.3, modifier_ml_per_l=50.0)).bottles
    3
    """
    modifier = _modifier(given)
    bottles, left = None, None
    if given.capacity_l is not None:
        oil = given.capacity_l - (modifier or 0.0) / 1000.0
        if oil < -SLACK:
            field = "modifier_ml" if given.modifier_ml is not None else "modifier_ml_per_l"
            raise InvalidInput(field, say("This is more modifier than the axle holds. Check the unit."))
        oil = max(oil, 0.0)
        bottles = max(ceil(oil / given.bottle_l - SLACK), 0)
        left = bottles * given.bottle_l - oil
    error = given.plug_rearward_mm * tan(radians(given.pitch_deg)) + given.plug_left_mm * tan(radians(given.roll_deg))
    dip = given.level_below_plug_mm - error
    verdict, reasons = _judge(given)
    if given.modifier_in_oil:
        reasons.append(Reason(code="in_the_oil", text=say("The oil has the friction modifier in it: add none."), field="modifier_in_oil"))
    if abs(error) > LEVEL_ENOUGH_MM + SLACK:
        text = (
            say("The vehicle is not level: the oil stands {error:mm0} higher at the plug than it should. Level it first.", error=error)
            if error > 0.0
            else say("The vehicle is not level: the oil stands {error:mm0} lower at the plug than it should. Level it first.", error=-error)
        )
        reasons.append(Reason(code="not_level", text=text))
    if dip < -SLACK:
        text = say("The right level stands above the plug here: oil runs out before the axle is full. Level the vehicle first.")
        reasons.append(Reason(code="runs_out", text=text))
    return FluidPlan(
        bottles=bottles, modifier_ml=modifier, left_over_l=left, level_error_mm=error, dip_mm=dip, verdict=verdict, reasons=reasons
    )


def _modifier(given: FluidQuestion) -> float | None:
    if given.modifier_in_oil:
        return 0.0
    if given.modifier_ml is not None:
        return given.modifier_ml
    if given.modifier_ml_per_l is None or given.capacity_l is None:
        return None
    return given.modifier_ml_per_l * given.capacity_l


def _judge(given: FluidQuestion) -> tuple[VerdictWord, list[Reason]]:
    poured, what = given.poured_l, say("Oil poured")
    if poured is None:
        return "unknown", []
    limits = []
    if given.min_l is not None:
        limits.append(Limit(value=poured, bound=given.min_l, side="min", field="min_l", what=what, unit="l"))
    if given.max_l is not None:
        limits.append(Limit(value=poured, bound=given.max_l, side="max", field="max_l", what=what, unit="l"))
    return judge(limits, given.resolution_l)
