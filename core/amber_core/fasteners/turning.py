"""What a bolt does while it is turned: it seats, it pulls, or it stretches."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK, Reason
from amber_core.words import say

STRETCHING = 0.35
"""A last slope under this part of the steepest one before it: the bolt turns without gaining torque."""
COUNTS = 0.10
"""Torque under this part of the target is still the joint closing."""
MOST_STEPS = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class TurnStep:
    """How far the bolt has been turned [deg], and the torque then [N m]."""

    turn_deg: float
    torque_nm: float

    def __post_init__(self) -> None:
        checks.within("turn_deg", self.turn_deg, -3600.0, 36_000.0, say("Turn must be −3600 to 36 000 degrees."))
        checks.within("torque_nm", self.torque_nm, 0.0, 10_000.0, say("Torque must be 0 to 10 000 Nm. Check the unit."))


@dataclass(frozen=True, slots=True, kw_only=True)
class TurningQuestion:
    """Steps with rising turns, the target and the run-down torque of a locking nut or insert [N m]; whether it is tightened by angle."""

    steps: list[TurnStep]
    target_nm: float
    run_down_nm: float = 0.0
    tightened_by_angle: bool = False

    def __post_init__(self) -> None:
        checks.within("target_nm", self.target_nm, 0.0, 10_000.0, say("Torque must be 0 to 10 000 Nm. Check the unit."))
        checks.within("run_down_nm", self.run_down_nm, 0.0, 10_000.0, say("Run-down torque must be 0 to 10 000 Nm. Check the unit."))
        if not 1 <= len(self.steps) <= MOST_STEPS:
            raise InvalidInput("steps", say("Give 1 to {most} readings of turn and torque.", most=MOST_STEPS))
        if any(b.turn_deg - a.turn_deg < checks.LEAST for a, b in zip(self.steps, self.steps[1:], strict=False)):
            raise InvalidInput("steps", say("Each reading must be turned further than the one before it."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Turning:
    """What the bolt does, and the last slope [N m/deg]; no slope from one reading."""

    state: Literal["seating", "pulling", "yielding", "there"]
    slope_nm_per_deg: float | None
    reasons: list[Reason]


def follow_turning(given: TurningQuestion) -> Turning:
    """Judge a bolt from its readings of turn and torque.

    Parameters
    ----------
    given : TurningQuestion
        Turns [deg] and torques [N m].

    Returns
    -------
    Turning
        State and slope [N m/deg].

    Raises
    ------
    InvalidInput
        From TurningQuestion, with the field.

    Notes
    -----
    Run-down torque comes on top of the target: what counts is the reading less it. Yielding: not tightened by angle, three readings or
    more, over 10 % of the target and short of it, and the last slope under 0.35 of the greatest before it (rule of thumb).

    Examples
    --------
    >>> steps = [TurnStep(turn_deg=15.0 * k, torque_nm=t) for k, t in enumerate((12.0, 30.0, 48.0, 52.0))]
    >>> follow_turning(TurningQuestion(steps=steps, target_nm=80.0)).state
    'yielding'
    """
    slopes = [(b.torque_nm - a.torque_nm) / (b.turn_deg - a.turn_deg) for a, b in zip(given.steps, given.steps[1:], strict=False)]
    torque = given.steps[-1].torque_nm - given.run_down_nm
    slope = slopes[-1] if slopes else None
    counts = torque > COUNTS * given.target_nm + SLACK
    short = torque < given.target_nm - SLACK
    steepest = max(slopes[:-1], default=0.0)
    if not given.tightened_by_angle and steepest > 0.0 and slopes[-1] < STRETCHING * steepest and counts and short:
        text = say("The bolt turns without gaining torque: it is stretching. Stop, take it out and fit a new one.")
        return Turning(state="yielding", slope_nm_per_deg=slope, reasons=[Reason(code="stretching", text=text, field="steps")])
    if not short:
        text = say("The torque is reached: {torque:Nm1}.", torque=given.steps[-1].torque_nm)
        return Turning(state="there", slope_nm_per_deg=slope, reasons=[Reason(code="reached", text=text, field="target_nm")])
    if slope is not None and slope > 0.0 and counts:
        text = say("The bolt is pulling: {short:Nm1} to go.", short=given.target_nm - torque)
        return Turning(state="pulling", slope_nm_per_deg=slope, reasons=[Reason(code="pulling", text=text, field="steps")])
    text = say("The joint is still closing. Go on turning.")
    return Turning(state="seating", slope_nm_per_deg=slope, reasons=[Reason(code="seating", text=text, field="steps")])
