"""End play of a pair of bearings by shims, by whichever of the three schools."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.shims.nearest import nearest_stack
from amber_core.shims.pick import ShimPick
from amber_core.shims.stock import Shims
from amber_core.verdicts import SLACK, Limit, Reason, VerdictWord, judge
from amber_core.words import say

USUAL_SET_MM = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class EndPlayWindow:
    """Least and greatest allowed: [mm], or [Nm] for a light preload."""

    min: float
    max: float

    def __post_init__(self) -> None:
        checks.window_in_order(self.min, self.max, "min", say("value"))
        checks.within("min", self.min, 0.0, 200.0, say("A window must begin at 0 or more."))

    @property
    def middle(self) -> float:
        """The middle of the window."""
        return (self.min + self.max) / 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class EndPlayQuestion:
    """Stack and play [mm] or rotating torque [Nm]; the school; whether a thicker stack adds or removes play."""

    stack_mm: float
    school: Literal["free_play", "zero", "light_preload"]
    window: EndPlayWindow
    shim_effect: Literal["adds_play", "removes_play"]
    end_play_mm: float | None = None
    rotating_torque_nm: float | None = None
    torque_per_mm_nm: float | None = None
    stock: list[Shims] | None = None
    resolution_mm: float = 0.01
    resolution_nm: float = 0.05

    def __post_init__(self) -> None:
        checks.within("stack_mm", self.stack_mm, 0.0, 50.0, say("Stack must be 0 to 50 mm."))
        checks.within("end_play_mm", self.end_play_mm, 0.0, 20.0, say("End play must be 0 to 20 mm."))
        checks.torque_ok("rotating_torque_nm", self.rotating_torque_nm)
        checks.above_zero("torque_per_mm_nm", self.torque_per_mm_nm, say("Torque gained per millimetre"))
        checks.resolution_ok(self.resolution_mm)
        checks.torque_resolution_ok(self.resolution_nm)
        if self.end_play_mm is None and (self.school != "light_preload" or self.rotating_torque_nm is None):
            text = (
                say("Measure the end play along the axis.")
                if self.school != "light_preload"
                else say("Measure the rotating torque or the end play.")
            )
            raise InvalidInput("end_play_mm", text)


@dataclass(frozen=True, slots=True, kw_only=True)
class EndPlayStack:
    """The new stack and its change [mm]; None where a torque cannot be turned into a change yet."""

    stack_mm: float
    change_mm: float | None
    pick: ShimPick | None
    verdict: VerdictWord
    reasons: list[Reason]


def shim_end_play(given: EndPlayQuestion) -> EndPlayStack:
    """The stack that brings end play or light preload into its window.

    Parameters
    ----------
    given : EndPlayQuestion
        Stack, play [mm], torque [Nm], window.

    Returns
    -------
    EndPlayStack
        New stack and change [mm].

    Raises
    ------
    InvalidInput
        From EndPlayQuestion, with the field.

    Notes
    -----
    s = +1 when a thicker stack adds play, -1 when it removes it. Free play: change = s (middle - play). Zero: -s play. Light
    preload: with torque s (torque - middle)/(torque per mm); with play -s (play + middle/(torque per mm)), 0.02 mm for the
    last term when unknown.

    Examples
    --------
    >>> question = EndPlayQuestion(stack_mm=1.0, end_play_mm=0.15, school="free_play", window=EndPlayWindow(min=0.03, max=0.07),
    ...     shim_effect="removes_play")
    >>> round(shim_end_play(question).stack_mm, 3)
    1.1
    """
    change = _change(given)
    verdict, reasons = _judge(given)
    if change is None:
        text = say("It is not known yet how the torque changes with the stack. Change it by {step:mm2} and measure again.", step=0.02)
        reasons = [*reasons, Reason(code="slope_unknown", text=text, field="torque_per_mm_nm")]
    stack = given.stack_mm + (change or 0.0)
    if stack < -SLACK:
        text = say("The stack would be {stack:mm2}, less than none. Measure the end play again.", stack=stack)
        reasons = [*reasons, Reason(code="negative_stack", text=text, field="stack_mm")]
    pick = nearest_stack(given.stock, stack) if change is not None else None
    return EndPlayStack(stack_mm=stack, change_mm=change, pick=pick, verdict=verdict, reasons=reasons)


def _change(given: EndPlayQuestion) -> float | None:
    sign = 1.0 if given.shim_effect == "adds_play" else -1.0
    play, torque, slope = given.end_play_mm, given.rotating_torque_nm, given.torque_per_mm_nm
    if given.school == "light_preload":
        if torque is not None:
            return None if slope is None else sign * (torque - given.window.middle) / slope
        assert play is not None
        return -sign * (play + (given.window.middle / slope if slope is not None else USUAL_SET_MM))
    assert play is not None
    return sign * (given.window.middle - play) if given.school == "free_play" else -sign * play


def _judge(given: EndPlayQuestion) -> tuple[VerdictWord, list[Reason]]:
    window = given.window
    if given.school == "light_preload":
        if given.rotating_torque_nm is None:
            text = say("There is end play where a light preload is wanted.")
            loose = (given.end_play_mm or 0.0) > SLACK
            return ("out", [Reason(code="has_play", text=text, field="end_play_mm")]) if loose else ("unknown", [])
        value, what, unit, resolution = given.rotating_torque_nm, say("Rotating torque"), "Nm", given.resolution_nm
    else:
        assert given.end_play_mm is not None
        value, what, unit, resolution = given.end_play_mm, say("End play"), "mm", given.resolution_mm
    limits = [
        Limit(value=value, bound=window.min, side="min", field="window.min", what=what, unit=unit),
        Limit(value=value, bound=window.max, side="max", field="window.max", what=what, unit=unit),
    ]
    return judge(limits, resolution)
