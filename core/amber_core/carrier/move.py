"""Where the ring goes next, so that the backlash lands in the middle of its window."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.carrier.pair import MOST_PIECES_A_SIDE, nearest_pair
from amber_core.errors import InvalidInput
from amber_core.shims.nearest import TOLERANCE_MM
from amber_core.shims.pick import ShimStack, stack_of
from amber_core.shims.stock import Shims, counted, nanometres
from amber_core.verdicts import SLACK, Reason
from amber_core.words import say

PRELOAD_NOTICED_MM = 0.02
"""A sum of both stacks this far from the one wanted is pointed out, [mm]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class CarrierNow:
    """How the carrier is set now and what is wanted of it.

    Parameters
    ----------
    method : {"side_shims", "cover_shims", "adjusters"}
        What holds the carrier sideways.
    ring_side_mm, far_side_mm : float, optional
        The stacks now, [mm]; needed for shims.
    notch_mm : float, optional
        Axial travel of an adjuster for one notch, [mm]; needed for adjusters.
    backlash_mean_mm, target_backlash_mm : float
        Measured round the ring, and wanted, [mm].
    backlash_per_ring_move : float
        Gained per move away from the pinion, [mm/mm], over 0.
    backlash_least_mm, min_mm : float, optional
        The least backlash now, and the minimum, [mm].
    preload_change_mm : float
        Tighter by this much, both sides together, [mm].
    stock : list of Shims, optional
        All that is free to use, those now in the housing included; one pool for both sides.
    """

    method: Literal["side_shims", "cover_shims", "adjusters"]
    backlash_mean_mm: float
    target_backlash_mm: float
    backlash_per_ring_move: float
    ring_side_mm: float | None = None
    far_side_mm: float | None = None
    notch_mm: float | None = None
    backlash_least_mm: float | None = None
    min_mm: float | None = None
    preload_change_mm: float = 0.0
    stock: list[Shims] | None = None

    def __post_init__(self) -> None:
        checks.above_zero("backlash_per_ring_move", self.backlash_per_ring_move, say("Backlash per millimetre of ring gear move"))
        for field in ("backlash_mean_mm", "target_backlash_mm", "backlash_least_mm", "min_mm"):
            checks.within(field, getattr(self, field), 0.0, 10.0, say("Backlash must be 0 to 10 mm."))
        checks.within(
            "preload_change_mm",
            self.preload_change_mm,
            -5.0,
            5.0,
            say("Preload change is out of range: it is a few tenths of a millimetre at most."),
        )
        if self.method == "adjusters":
            if self.notch_mm is None:
                raise InvalidInput("notch_mm", say("Enter how far the adjuster travels for one notch."))
            checks.within("notch_mm", self.notch_mm, 0.001, 5.0, say("Adjuster travel for one notch must be 0.001 to 5 mm."))
            return
        for field, what in (("ring_side_mm", say("ring gear side")), ("far_side_mm", say("far side"))):
            if getattr(self, field) is None:
                raise InvalidInput(field, say("Enter the thickness of the shims now on the {what}.", what=what))
            checks.within(field, getattr(self, field), 0.0, 50.0, say("Stack of side shims must be 0 to 50 mm."))


@dataclass(frozen=True, slots=True, kw_only=True)
class SidePicks:
    """The stack for each side; `within` when it is a hundredth or less from the one wanted."""

    ring_side: ShimStack
    far_side: ShimStack


@dataclass(frozen=True, slots=True, kw_only=True)
class CarrierMove:
    """The move. `ring_move_mm` + = away from the pinion [mm]; notches whole, + = in; stacks are the new ones, [mm]."""

    ring_move_mm: float
    wanted_ring_move_mm: float
    expected_backlash_mm: float
    expected_least_mm: float | None
    ring_side_mm: float | None
    far_side_mm: float | None
    ring_side_notches: int | None
    far_side_notches: int | None
    picks: SidePicks | None
    reasons: list[Reason]


def move_carrier(given: CarrierNow) -> CarrierMove:
    """The next move for backlash.

    Parameters
    ----------
    given : CarrierNow
        Stacks or notch [mm], backlash now and wanted [mm], slope [mm/mm].

    Returns
    -------
    CarrierMove
        The new stacks or the notches to turn, and the backlash to expect [mm].

    Raises
    ------
    InvalidInput
        From CarrierNow, with the field.

    Notes
    -----
    Ring move = (target - mean)/slope. Side shims, away from the pinion: ring side less and far side more by the same; half of
    a preload change goes on each side. Cover shims, thicker moving the cover outward, have every sign reversed. Adjusters
    turn whole notches, ring side round(-move/notch), far side its negative; an odd notch of preload goes on the far side.

    Examples
    --------
    >>> now = CarrierNow(method="side_shims", ring_side_mm=1.0, far_side_mm=1.0, backlash_mean_mm=0.13,
    ...     target_backlash_mm=0.20, backlash_per_ring_move=0.7)
    >>> move = move_carrier(now)
    >>> round(move.ring_side_mm, 3), round(move.far_side_mm, 3)
    (0.9, 1.1)
    """
    wanted = (given.target_backlash_mm - given.backlash_mean_mm) / given.backlash_per_ring_move
    return _by_adjusters(given, wanted) if given.method == "adjusters" else _by_shims(given, wanted)


def _by_adjusters(given: CarrierNow, wanted: float) -> CarrierMove:
    assert given.notch_mm is not None
    ring = round(-wanted / given.notch_mm)
    preload = round(given.preload_change_mm / given.notch_mm)
    on_ring = int(preload / 2)
    far = -ring + preload - on_ring
    ring += on_ring
    move = -(ring - far) * given.notch_mm / 2.0
    return _answer(given, wanted=wanted, move=move, notches=(ring, far))


def _by_shims(given: CarrierNow, wanted: float) -> CarrierMove:
    assert given.ring_side_mm is not None and given.far_side_mm is not None
    sign = 1.0 if given.method == "side_shims" else -1.0
    ring = given.ring_side_mm - sign * (wanted - given.preload_change_mm / 2.0)
    far = given.far_side_mm + sign * (wanted + given.preload_change_mm / 2.0)
    picks, moved = None, wanted
    if given.stock is not None:
        picks = pick_sides(given.stock, ring_mm=ring, far_mm=far)
        picked = picks.ring_side.total_mm, picks.far_side.total_mm
        moved = -sign * ((picked[0] - given.ring_side_mm) - (picked[1] - given.far_side_mm)) / 2.0
    return _answer(given, wanted=wanted, move=moved, stacks=(ring, far), picks=picks)


def pick_sides(stock: list[Shims], *, ring_mm: float, far_mm: float) -> SidePicks:
    """The two stacks nearest to those wanted [mm], out of one drawer."""
    ring_nm, far_nm = nanometres(ring_mm), nanometres(far_mm)
    pair = nearest_pair(counted(stock, 2 * MOST_PIECES_A_SIDE), ring_nm, far_nm)
    return SidePicks(ring_side=stack_of(pair.ring_side, ring_nm, TOLERANCE_MM), far_side=stack_of(pair.far_side, far_nm, TOLERANCE_MM))


def _answer(
    given: CarrierNow,
    *,
    wanted: float,
    move: float,
    stacks: tuple[float, float] | None = None,
    notches: tuple[int, int] | None = None,
    picks: SidePicks | None = None,
) -> CarrierMove:
    gained = given.backlash_per_ring_move * move
    least = None if given.backlash_least_mm is None else given.backlash_least_mm + gained
    return CarrierMove(
        ring_move_mm=move,
        wanted_ring_move_mm=wanted,
        expected_backlash_mm=given.backlash_mean_mm + gained,
        expected_least_mm=least,
        ring_side_mm=stacks[0] if stacks else None,
        far_side_mm=stacks[1] if stacks else None,
        ring_side_notches=notches[0] if notches else None,
        far_side_notches=notches[1] if notches else None,
        picks=picks,
        reasons=[*_reasons(given, stacks, least), *_preload_reason(stacks, picks)],
    )


def _reasons(given: CarrierNow, stacks: tuple[float, float] | None, least: float | None) -> list[Reason]:
    found = []
    for side, what, stack in zip(("ring", "far"), (say("ring gear side"), say("far side")), stacks or (), strict=False):
        if stack < -SLACK:
            text = say(
                "The {what} would need {stack:mm2} of shims, less than none. Look for a wrong shim, bearing cup or carrier.",
                what=what,
                stack=stack,
            )
            found.append(Reason(code="negative_stack", text=text, field=f"{side}_side_mm"))
    if least is not None and given.min_mm is not None and least < given.min_mm - SLACK:
        text = say(
            "The least reading would come to {least:mm3}, under the minimum of {min_mm:mm3}. The variation is too great.",
            least=least,
            min_mm=given.min_mm,
        )
        found.append(Reason(code="least_would_fall_short", text=text, field="min_mm"))
    return found


def _preload_reason(stacks: tuple[float, float] | None, picks: SidePicks | None) -> list[Reason]:
    """The difference of the stacks is picked first; what that does to their sum is said."""
    if stacks is None or picks is None:
        return []
    change = picks.ring_side.total_mm + picks.far_side.total_mm - sum(stacks)
    if abs(change) <= PRELOAD_NOTICED_MM + SLACK:
        return []
    word = "thicker" if change > 0.0 else "thinner"
    text = say(
        "Both stacks together come out {change:mm2} {word} than wanted, which changes the side-bearing preload. Measure it again.",
        change=abs(change),
        word=word,
    )
    return [Reason(code="preload_changes", text=text, field="stock")]
