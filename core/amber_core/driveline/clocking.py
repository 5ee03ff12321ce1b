"""How the two yokes of a shaft should be phased, in degrees and in whole spline teeth."""

from __future__ import annotations

from cmath import phase
from dataclasses import dataclass
from math import degrees, radians, sqrt

import numpy as np

from amber_core import checks
from amber_core.driveline.axes import wrap90
from amber_core.driveline.chain import Complex, JointChain, equivalent_deg
from amber_core.errors import InvalidInput
from amber_core.words import say

_NOTHING = 1e-12
"""Terms below this leave nothing to clock, [rad^2]."""


def teeth_ok(field: str, teeth: int | None) -> None:
    """Refuse a spline that no slip joint has; None passes.

    Raises
    ------
    InvalidInput
        On `field`.
    """
    checks.within(field, teeth, 4, 120, say("Spline teeth must be 4 to 120."))


def turn_of(steps: int, teeth: int) -> float:
    """What whole teeth of a spline turn one half against the other, 360 m / N, [deg]."""
    return steps * 360.0 / teeth


def whole_teeth(turn_deg: float, teeth: int) -> int | None:
    """How many whole teeth a turn [deg] is, to a twentieth of a tooth; None where it is between two."""
    steps = turn_deg * teeth / 360.0
    return round(steps) if abs(steps - round(steps)) <= 0.05 else None


@dataclass(frozen=True, slots=True, kw_only=True)
class ClockingQuestion(JointChain):
    """A chain, which shaft can be clocked (counted from the driver), and the teeth of its spline."""

    shaft: int = 1
    teeth: int | None = None

    def __post_init__(self) -> None:
        JointChain.__post_init__(self)
        if not 1 <= self.shaft <= self.shaft_count:
            raise InvalidInput(
                "shaft", say("Propshaft number must be 1 to {shaft_count}, counted from the gearbox.", shaft_count=self.shaft_count)
            )
        teeth_ok("teeth", self.teeth)


@dataclass(frozen=True, slots=True, kw_only=True)
class Clocking:
    """How far to turn the rear half, + clockwise looking along the chain, and the clocking then [deg, repeating every 180], null where
    clocking has no effect; equivalent angles left, now, and with whole teeth [deg]; teeth to turn by."""

    turn_deg: float | None
    clock_deg: float | None
    b_eq_min_deg: float
    b_eq_now_deg: float
    indifferent: bool
    teeth: int | None
    turn_teeth_deg: float | None
    b_eq_teeth_deg: float | None


def best_clocking(given: ClockingQuestion) -> Clocking:
    """Best clocking of one shaft, the others as they are.

    Parameters
    ----------
    given : ClockingQuestion
        b, eps, clock [deg]; shaft k; N teeth.

    Returns
    -------
    Clocking
        turn = (arg F + 180 - arg G) / 2; b_eq,min^2 = ||F| - |G||; teeth m that leave the least |F + G e^(2 i m 360/N)|.

    Raises
    ------
    InvalidInput
        From ClockingQuestion, with the field.

    Notes
    -----
    F = D_1 + .. + D_k, G = D_(k+1) + .. at the present clocking. Forks repeat after half a turn: an even N has N/2 places, an odd one N.
    For one shaft the optimum is the plane angle itself: each yoke in its own joint's plane at the same instant.

    Examples
    --------
    >>> best_clocking(ClockingQuestion(joint_angle_deg=[6.0, 6.5], plane_angle_deg=[24], shaft=1, teeth=32)).teeth
    2
    """
    return clocking_of(given.terms(), given.clocks[given.shaft - 1], given.shaft, given.teeth)


def clocking_of(terms: Complex, clock_deg: float, shaft: int, teeth: int | None) -> Clocking:
    """The same for a chain whose terms [rad^2] are known."""
    front, rear = complex(terms[:shaft].sum()), complex(terms[shaft:].sum())
    indifferent = abs(front) < _NOTHING or abs(rear) < _NOTHING
    turn = None if indifferent else float(wrap90((degrees(phase(front)) + 180.0 - degrees(phase(rear))) / 2.0))
    steps = None if teeth is None else 0 if indifferent else best_teeth(front, rear, teeth)
    step = None if teeth is None or steps is None else turn_of(steps, teeth)
    left = None if step is None else equivalent_deg(front + rear * np.exp(2j * radians(step)))
    return Clocking(
        turn_deg=turn,
        clock_deg=None if turn is None else float(wrap90(clock_deg + turn)),
        b_eq_min_deg=degrees(sqrt(abs(abs(front) - abs(rear)))),
        b_eq_now_deg=equivalent_deg(front + rear),
        indifferent=indifferent,
        teeth=steps,
        turn_teeth_deg=step,
        b_eq_teeth_deg=left,
    )


def best_teeth(front: complex, rear: complex, teeth: int) -> int:
    """Whole teeth to turn the rear half by; the fewest of those that leave the least."""
    tries = sorted(range(-(teeth // 2), teeth // 2 + 1), key=lambda m: (abs(m), -m))
    left = np.abs(front + rear * np.exp(2j * np.radians(np.array(tries) * 360.0 / teeth)))
    slack = 1e-12 * (abs(front) + abs(rear))
    return tries[int(np.argmax(left <= left.min() + slack))]


@dataclass(frozen=True, slots=True, kw_only=True)
class FloorQuestion(JointChain):
    """A chain, and the shafts that can be clocked, counted from the driver; all when left out."""

    shafts: list[int] | None = None

    def __post_init__(self) -> None:
        JointChain.__post_init__(self)
        for index, one in enumerate(self.shafts or []):
            if not 1 <= one <= self.shaft_count:
                raise InvalidInput(
                    f"shafts[{index}]",
                    say("Propshaft number must be 1 to {shaft_count}, counted from the gearbox.", shaft_count=self.shaft_count),
                )


@dataclass(frozen=True, slots=True, kw_only=True)
class ClockingFloor:
    """Lowest equivalent angle that clocking can reach, and the present one, [deg]."""

    b_eq_floor_deg: float
    b_eq_now_deg: float


def clocking_floor(given: FloorQuestion) -> ClockingFloor:
    """What is left even with every clockable shaft at its best.

    Parameters
    ----------
    given : FloorQuestion
        b, eps, clock [deg]; which shafts are free.

    Returns
    -------
    ClockingFloor
        b_eq^2 = max(0, 2 max g - sum g), g_m = |terms between two free shafts|, [deg].

    Raises
    ------
    InvalidInput
        From FloorQuestion, with the field.

    Notes
    -----
    Arrows of lengths g_m that may point anywhere close to a polygon unless one is longer than all the others together.

    Examples
    --------
    >>> round(clocking_floor(FloorQuestion(joint_angle_deg=[3, 7, 5], shafts=[1, 2])).b_eq_floor_deg, 3)
    3.873
    """
    terms = given.terms()
    cuts = sorted(set(given.shafts if given.shafts is not None else range(1, given.shaft_count + 1)))
    groups = [abs(part.sum()) for part in np.split(terms, cuts)]
    return ClockingFloor(
        b_eq_floor_deg=degrees(sqrt(max(0.0, 2.0 * max(groups) - sum(groups)))),
        b_eq_now_deg=equivalent_deg(complex(terms.sum())),
    )
