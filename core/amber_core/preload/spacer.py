"""A solid spacer with shims instead of a crush sleeve: the stack for the next trial."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.shims.nearest import nearest_stack
from amber_core.shims.pick import ShimPick
from amber_core.shims.stock import Shims
from amber_core.verdicts import SLACK, Reason
from amber_core.words import say

USUAL_SET_MM = 0.02
"""How much a stack is made shorter than no play when nothing is known of the bearings, and how far a blind step goes, [mm]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class SpacerTrial:
    """A stack [mm] and the rotating torque [Nm] it gave at full nut torque."""

    stack_mm: float
    rotating_torque_nm: float

    def __post_init__(self) -> None:
        checks.within("stack_mm", self.stack_mm, -5.0, 50.0, say("Stack must be 0 to 50 mm."))
        checks.torque_ok("rotating_torque_nm", self.rotating_torque_nm)


@dataclass(frozen=True, slots=True, kw_only=True)
class SpacerQuestion:
    """The OLD sleeve as crushed and the spacer [mm] for a first stack; or the stack now with its play [mm] or torque [Nm]."""

    sleeve_length_mm: float | None = None
    spacer_length_mm: float | None = None
    stack_mm: float | None = None
    end_play_mm: float | None = None
    rotating_torque_nm: float | None = None
    target_nm: float | None = None
    torque_per_mm_nm: float | None = None
    trials: list[SpacerTrial] | None = None
    stock: list[Shims] | None = None

    def __post_init__(self) -> None:
        for name in ("sleeve_length_mm", "spacer_length_mm"):
            checks.within(
                name, getattr(self, name), 1.0, 300.0, say("Sleeve or spacer length must be 1 to 300 mm. Give it in millimetres.")
            )
        checks.within("stack_mm", self.stack_mm, 0.0, 50.0, say("Stack must be 0 to 50 mm."))
        checks.within("end_play_mm", self.end_play_mm, 0.0, 20.0, say("End play must be 0 to 20 mm."))
        checks.torque_ok("rotating_torque_nm", self.rotating_torque_nm)
        checks.torque_ok("target_nm", self.target_nm)
        checks.above_zero("torque_per_mm_nm", self.torque_per_mm_nm, say("Torque gained per millimetre"))
        self._check_enough()

    def _check_enough(self) -> None:
        if self.stack_mm is None:
            for name in ("sleeve_length_mm", "spacer_length_mm"):
                if getattr(self, name) is None:
                    raise InvalidInput(name, say("For a first stack, measure the old crush sleeve as crushed, and the solid spacer."))
        elif self.end_play_mm is None and self.rotating_torque_nm is None:
            raise InvalidInput("end_play_mm", say("Measure the end play or the rotating torque of this stack at full nut torque."))
        elif not self.end_play_mm and self.rotating_torque_nm is not None and self.target_nm is None:
            raise InvalidInput("target_nm", say("Enter the rotating torque wanted."))

    @property
    def slope(self) -> float | None:
        """Torque lost per millimetre of stack, over 0 [Nm/mm]: given, or from two trials."""
        if self.torque_per_mm_nm is not None:
            return self.torque_per_mm_nm
        trials = self.trials or []
        if len(trials) < 2:
            return None
        (first, last) = trials[-2:]
        thinner = first.stack_mm - last.stack_mm
        if abs(thinner) < SLACK:
            return None
        slope = (last.rotating_torque_nm - first.rotating_torque_nm) / thinner
        return slope if slope > 0.0 else None


@dataclass(frozen=True, slots=True, kw_only=True)
class SpacerStack:
    """The stack for the next trial [mm], what it follows from, and the shims for it."""

    stack_mm: float
    step: Literal["first", "from_end_play", "from_torque"]
    pick: ShimPick | None
    reasons: list[Reason]


def next_spacer_stack(given: SpacerQuestion) -> SpacerStack:
    """The next stack of a shimmed spacer.

    Parameters
    ----------
    given : SpacerQuestion
        Lengths, stack and play [mm], torques [Nm].

    Returns
    -------
    SpacerStack
        Stack [mm].

    Raises
    ------
    InvalidInput
        From SpacerQuestion, with the field.

    Notes
    -----
    First: sleeve - spacer. With play e: stack - e - set, set = target / (torque per mm), 0.02 mm when unknown; play rules when both are
    given. With torque: stack + (torque - target)/(torque per mm); without a slope 0.02 mm the right way. More shim is less preload.

    Examples
    --------
    >>> question = SpacerQuestion(stack_mm=1.20, end_play_mm=0.10, target_nm=2.0, torque_per_mm_nm=40.0)
    >>> round(next_spacer_stack(question).stack_mm, 3)
    1.05
    """
    slope, target = given.slope, given.target_nm
    reasons: list[Reason] = []
    step: Literal["first", "from_end_play", "from_torque"] = "first"
    if given.stack_mm is None:
        assert given.sleeve_length_mm is not None and given.spacer_length_mm is not None
        stack = given.sleeve_length_mm - given.spacer_length_mm
        reasons.append(
            Reason(
                code="first_with_play",
                text=say("Add {extra:mm2} for the first trial, so that it has end play and no bearing is crushed.", extra=0.10),
            )
        )
    elif given.end_play_mm:
        step = "from_end_play"
        stack = given.stack_mm - given.end_play_mm - (target / slope if target is not None and slope is not None else USUAL_SET_MM)
    elif given.rotating_torque_nm is not None and target is not None:
        step = "from_torque"
        stack = given.stack_mm + _from_torque(given.rotating_torque_nm - target, slope)
    else:  # no play and no torque read: a little shorter
        step = "from_end_play"
        stack = given.stack_mm - (target / slope if target is not None and slope is not None else USUAL_SET_MM)
    if step != "first" and slope is None:
        text = say("It is not known yet how the torque changes with the stack, so this is a careful step. Two trials settle it.")
        reasons.append(Reason(code="slope_unknown", text=text, field="torque_per_mm_nm"))
    if stack < -SLACK:
        text = say("The stack would be {stack:mm2}, less than none. The solid spacer is too long, or a length was misread.", stack=stack)
        reasons.append(Reason(code="negative_stack", text=text, field="spacer_length_mm"))
    return SpacerStack(stack_mm=stack, step=step, pick=nearest_stack(given.stock, stack), reasons=reasons)


def _from_torque(too_much_nm: float, slope: float | None) -> float:
    if slope is not None:
        return too_much_nm / slope
    if abs(too_much_nm) < SLACK:
        return 0.0
    return USUAL_SET_MM if too_much_nm > 0.0 else -USUAL_SET_MM
