"""Other tyres: what they do to the gearing and to the speedometer."""

from __future__ import annotations

from dataclasses import dataclass
from math import floor
from typing import Literal

from amber_core import checks
from amber_core.ratios.limits import circumference_ok, ratio_ok, speed_ok
from amber_core.verdicts import Reason
from amber_core.words import say


@dataclass(frozen=True, slots=True, kw_only=True)
class TyreChange:
    """Axle ratio now [-], rolling circumferences of the old and the new tyre [m]."""

    ratio: float
    circumference_old_m: float
    circumference_new_m: float

    def __post_init__(self) -> None:
        ratio_ok("ratio", self.ratio)
        circumference_ok("circumference_old_m", self.circumference_old_m)
        circumference_ok("circumference_new_m", self.circumference_new_m)


@dataclass(frozen=True, slots=True, kw_only=True)
class ChangedGearing:
    """What the axle feels like with the new tyre, what would give the old feel back [-], and how much longer it is geared [%]."""

    equivalent_ratio: float
    restore_ratio: float
    longer_pct: float


def tyre_change(given: TyreChange) -> ChangedGearing:
    """What a change of tyre does to the gearing.

    Parameters
    ----------
    given : TyreChange
        i [-], C_old and C_new [m].

    Returns
    -------
    ChangedGearing
        Ratios [-], change [%].

    Raises
    ------
    InvalidInput
        From TyreChange, with the field.

    Notes
    -----
    Equivalent i C_old / C_new; for the old feel i C_new / C_old.

    Examples
    --------
    >>> round(tyre_change(TyreChange(ratio=3.73, circumference_old_m=2.35, circumference_new_m=2.62)).restore_ratio, 3)
    4.159
    """
    grown = given.circumference_new_m / given.circumference_old_m
    return ChangedGearing(equivalent_ratio=given.ratio / grown, restore_ratio=given.ratio * grown, longer_pct=100.0 * (grown - 1.0))


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedometerQuestion:
    """What it shows [km/h], tyres [m], axle ratios [-], and where it takes its pulses.

    Parameters
    ----------
    source : {"prop", "wheel"}
        Ahead of the axle (gearbox, transfer case, propshaft), or at the wheel, where the axle ratio does not matter.
    factor_before : float
        Shown over true before the change, 1.00 to 1.05 as a rule, [-].
    driven_teeth : int, optional
        Teeth of the speedometer's driven gear now, where there is one.
    """

    indicated_kmh: float
    circumference_old_m: float
    circumference_new_m: float
    ratio_old: float = 1.0
    ratio_new: float = 1.0
    source: Literal["prop", "wheel"] = "prop"
    factor_before: float = 1.0
    driven_teeth: int | None = None

    def __post_init__(self) -> None:
        speed_ok("indicated_kmh", self.indicated_kmh)
        checks.above_zero("indicated_kmh", self.indicated_kmh, say("Indicated speed"))
        for name in ("circumference_old_m", "circumference_new_m"):
            circumference_ok(name, getattr(self, name))
        for name in ("ratio_old", "ratio_new"):
            ratio_ok(name, getattr(self, name))
        checks.within("factor_before", self.factor_before, 0.5, 2.0, say("Indicated over true speed must be 0.5 to 2."))
        checks.within("driven_teeth", self.driven_teeth, 5, 100, say("Driven gear teeth must be 5 to 100."))


@dataclass(frozen=True, slots=True, kw_only=True)
class DrivenGear:
    """Teeth of a driven gear, and shown over true with it [-]."""

    teeth: int
    shown_over_true: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Speedometer:
    """True speed [km/h], shown over true [-], what the pulses must be multiplied by to show the truth [-], and driven gears to fit."""

    true_kmh: float
    shown_over_true: float
    pulse_factor: float
    driven_gears: list[DrivenGear]
    reasons: list[Reason]


def speedometer(given: SpeedometerQuestion) -> Speedometer:
    """What the speedometer is worth after a change of tyre or axle ratio.

    Parameters
    ----------
    given : SpeedometerQuestion
        Indicated [km/h], C [m], i [-].

    Returns
    -------
    Speedometer
        True speed [km/h], factors [-]; driven gears that do not under-read first.

    Raises
    ------
    InvalidInput
        From SpeedometerQuestion, with the field.

    Notes
    -----
    True = indicated / f0 C_new / C_old, times i_old / i_new when the pulses are taken ahead of the axle. A driven gear with more teeth
    turns slower: shown over true goes with 1 / teeth.

    Examples
    --------
    >>> question = SpeedometerQuestion(indicated_kmh=100, circumference_old_m=2.35, circumference_new_m=2.62, source="wheel")
    >>> round(speedometer(question).true_kmh, 1)
    111.5
    """
    true = given.indicated_kmh / given.factor_before * given.circumference_new_m / given.circumference_old_m
    if given.source == "prop":
        true *= given.ratio_old / given.ratio_new
    over = given.indicated_kmh / true
    gears = []
    if given.driven_teeth is not None:
        exact = given.driven_teeth * over
        gears = [DrivenGear(teeth=teeth, shown_over_true=exact / teeth) for teeth in (floor(exact), floor(exact) + 1) if teeth > 0]
    reasons = [Reason(code="law", text=say("A speedometer must never show less than the true speed. Follow local rules."))]
    if over < 1.0:
        text = say(
            "The speedometer under-reads: at {indicated_kmh:kmh0} shown, the true speed is {true:kmh1}. Correct "
            "it before the vehicle goes on the road.",
            indicated_kmh=given.indicated_kmh,
            true=true,
        )
        reasons.insert(0, Reason(code="under_reads", text=text, field="indicated_kmh"))
    return Speedometer(true_kmh=true, shown_over_true=over, pulse_factor=1.0 / over, driven_gears=gears, reasons=reasons)
