"""Which gear set is it: from tooth counts, or from turns counted at the pinion and at the wheels."""

from __future__ import annotations

from dataclasses import dataclass
from math import gcd
from typing import Literal

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.verdicts import SLACK
from amber_core.words import say

HuntingClass = Literal["hunting", "partial", "non_hunting"]


@dataclass(frozen=True, slots=True, kw_only=True)
class GearSetClues:
    """What was counted.

    Parameters
    ----------
    ring_teeth, pinion_teeth : int, optional
        Both, or neither.
    pinion_turns : float, optional
        Turns of the pinion, [turn], with the turns of the wheels beside it.
    wheel_turns, other_wheel : float, {"held", "turning_together"}, optional
        Turns of one wheel [turn] and what the other did.
    left_turns, right_turns : float, optional
        Turns of both wheels, [turn].
    turn_uncertainty : float
        How well a pinion turn was read, [turn].
    tooth_pairs : list of list of int, optional
        Candidates as [pinion, ring]; the default is every pinion 5..17 with every ring 25..55 of ratio 2..8.
    guess_ratio : float, optional
        What somebody thinks it is, [-]; compared with the count.
    """

    ring_teeth: int | None = None
    pinion_teeth: int | None = None
    pinion_turns: float | None = None
    wheel_turns: float | None = None
    other_wheel: Literal["held", "turning_together"] | None = None
    left_turns: float | None = None
    right_turns: float | None = None
    turn_uncertainty: float = 0.05
    tooth_pairs: list[list[int]] | None = None
    guess_ratio: float | None = None

    def __post_init__(self) -> None:
        self._check_teeth()
        self._check_turns()
        if self.ring_teeth is None and self.pinion_turns is None:
            raise InvalidInput("", say("Enter both tooth counts, or the turns counted at the pinion and the wheels."))
        checks.within("turn_uncertainty", self.turn_uncertainty, 0.0, 1.0, say("Accuracy of the turn count must be 0 to 1 turn."))
        checks.within("guess_ratio", self.guess_ratio, 1.0, 20.0, say("Final drive ratio must be 1 to 20."))
        for index, pair in enumerate(self.tooth_pairs or []):
            if len(pair) != 2 or min(pair) < 1:
                raise InvalidInput(f"tooth_pairs[{index}]", say("Give each candidate as two tooth counts: pinion, ring gear."))

    def _check_teeth(self) -> None:
        if (self.ring_teeth is None) != (self.pinion_teeth is None):
            missing = "ring_teeth" if self.ring_teeth is None else "pinion_teeth"
            raise InvalidInput(missing, say("Count the teeth of both the ring gear and the pinion."))
        checks.within("pinion_teeth", self.pinion_teeth, 3, 60, say("Pinion teeth must be 3 to 60."))
        checks.within("ring_teeth", self.ring_teeth, 3, 200, say("Ring gear teeth must be 3 to 200."))
        if self.ring_teeth is not None and self.pinion_teeth is not None and self.ring_teeth < self.pinion_teeth:
            raise InvalidInput("ring_teeth", say("The ring gear must have more teeth than the pinion. The two counts look swapped."))

    def _check_turns(self) -> None:
        if self.pinion_turns is None:
            if self.wheel_turns is not None or self.left_turns is not None or self.right_turns is not None:
                raise InvalidInput("pinion_turns", say("Count the turns of the pinion as well."))
            return
        checks.above_zero("pinion_turns", self.pinion_turns, say("Pinion turns"))
        checks.within("pinion_turns", self.pinion_turns, 0.0, 10000.0, say("Turns must be 10 000 at most. Check the number."))
        if self.wheel_turns is not None:
            if self.other_wheel is None:
                raise InvalidInput("other_wheel", say("Choose whether the other wheel was held or both turned together."))
            checks.above_zero("wheel_turns", self.wheel_turns, say("Wheel turns"))
        elif self.left_turns is None or self.right_turns is None:
            missing = "wheel_turns" if self.left_turns is None and self.right_turns is None else "left_turns"
            missing = "right_turns" if self.left_turns is not None else missing
            raise InvalidInput(missing, say("Count the turns of the wheel too. For two wheels enter both, 0 for the one held."))
        elif abs(self.left_turns + self.right_turns) < SLACK:
            raise InvalidInput("left_turns", say("The turns of the two wheels add up to nothing, so the ring gear did not turn."))

    @property
    def ring_turns(self) -> float | None:
        """Turns of the ring, [turn]: the mean of both wheels'; half the free wheel's when the other is held."""
        if self.pinion_turns is None:
            return None
        if self.wheel_turns is not None:
            return self.wheel_turns / 2.0 if self.other_wheel == "held" else self.wheel_turns
        assert self.left_turns is not None and self.right_turns is not None
        return abs(self.left_turns + self.right_turns) / 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """A pair of tooth counts that the turns allow; `error` is its ratio less the counted one, [-]."""

    pinion_teeth: int
    ring_teeth: int
    ratio: float
    error: float


@dataclass(frozen=True, slots=True, kw_only=True)
class GearSetIdentity:
    """What it is. Ratios and errors are plain numbers [-]; turns until the same teeth meet again are [turn]."""

    ratio: float
    ratio_error: float | None
    hunting: HuntingClass | None
    common_factor: int | None
    ring_turns_to_repeat: int | None
    pinion_turns_to_repeat: int | None
    candidates: list[Candidate]
    counted_ratio: float | None
    counted_error: float | None
    agrees: bool | None
    guess_agrees: bool | None


def identify_gear_set(given: GearSetClues) -> GearSetIdentity:
    """Ratio, hunting class and candidates from what was counted.

    Parameters
    ----------
    given : GearSetClues
        Tooth counts z1, z2 [-] and turns [turn].

    Returns
    -------
    GearSetIdentity
        i = z2/z1, or the counted ratio with its error.

    Raises
    ------
    InvalidInput
        From GearSetClues, with the field.

    Notes
    -----
    Ring turns = (left + right)/2, the kinematics of an open differential. Error of the ratio = turn uncertainty / ring
    turns. With g = gcd(z1, z2) the same pair of teeth meets again after z1/g turns of the ring and z2/g of the pinion.

    Examples
    --------
    >>> identify_gear_set(GearSetClues(pinion_teeth=10, ring_teeth=41)).hunting
    'hunting'
    """
    counted = error = None
    ring_turns = given.ring_turns
    if ring_turns is not None:
        assert given.pinion_turns is not None
        counted, error = given.pinion_turns / ring_turns, given.turn_uncertainty / ring_turns
    teeth = None if given.ring_teeth is None or given.pinion_teeth is None else (given.pinion_teeth, given.ring_teeth)
    ratio = teeth[1] / teeth[0] if teeth else counted
    assert ratio is not None
    factor = gcd(*teeth) if teeth else None
    return GearSetIdentity(
        ratio=ratio,
        ratio_error=None if teeth else error,
        hunting=_hunting(teeth, factor) if teeth and factor else None,
        common_factor=factor,
        ring_turns_to_repeat=teeth[0] // factor if teeth and factor else None,
        pinion_turns_to_repeat=teeth[1] // factor if teeth and factor else None,
        candidates=_candidates(given.tooth_pairs, counted, error),
        counted_ratio=counted,
        counted_error=error,
        agrees=_agree(ratio, counted, error) if teeth else None,
        guess_agrees=None if given.guess_ratio is None else _agree(given.guess_ratio, ratio, (error or 0.0) + 0.005),
    )


def _hunting(teeth: tuple[int, int], factor: int) -> HuntingClass:
    if factor == 1:
        return "hunting"
    return "non_hunting" if factor == min(teeth) else "partial"


def _agree(ratio: float, counted: float | None, error: float | None) -> bool | None:
    if counted is None or error is None:
        return None
    return abs(ratio - counted) <= error + SLACK


def _candidates(pairs: list[list[int]] | None, counted: float | None, error: float | None) -> list[Candidate]:
    if counted is None or error is None:
        return []
    usual = ([pinion, ring] for pinion in range(5, 18) for ring in range(25, 56) if 2.0 <= ring / pinion <= 8.0)
    found = [
        Candidate(pinion_teeth=pinion, ring_teeth=ring, ratio=ring / pinion, error=ring / pinion - counted)
        for pinion, ring in (pairs if pairs is not None else usual)
    ]
    near = [one for one in found if abs(one.error) <= error + SLACK]
    return sorted(near, key=lambda one: (round(abs(one.error), 12), one.pinion_teeth, one.ring_teeth))
