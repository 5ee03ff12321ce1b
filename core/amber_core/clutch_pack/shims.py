"""Shims for both clutch packs from one kit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from amber_core import checks
from amber_core.clutch_pack.two_stacks import best_pair, best_single
from amber_core.shims.stock import Shims, as_pieces, counted, nanometres
from amber_core.verdicts import SLACK, Reason, VerdictWord, held, window, worse
from amber_core.words import say

MOST_A_SIDE = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class SideStack:
    """The plates of one side without shims, [mm], and whether they were clamped when measured."""

    stack_mm: float
    clamped: bool = True

    def __post_init__(self) -> None:
        checks.within("stack_mm", self.stack_mm, 0.0, 300.0, say("Clutch stack must be 0 to 300 mm. Check the unit."))


@dataclass(frozen=True, slots=True, kw_only=True)
class PackShimsQuestion:
    """Both stacks and the window of a pack with its shims, [mm]; the kit; how and when it was measured.

    Parameters
    ----------
    ring_side, far_side : SideStack
        Each side's plates.
    min_mm, max_mm : float
        The pack with its shims, [mm].
    wear_limit_mm : float, optional
        A used stack under this is worn out, [mm].
    plates : {"new", "used"}
        Only used plates wear.
    stock : list of Shims
        The kit; both sides take from it.
    max_pieces : int
        Shims a side, 4 at most.
    clamp_n, wet : float, bool, optional
        Clamp load [N] and whether the plates were wet, as the limit was measured; given back.
    """

    ring_side: SideStack
    far_side: SideStack
    min_mm: float
    max_mm: float
    stock: list[Shims]
    wear_limit_mm: float | None = None
    plates: Literal["new", "used"] = "new"
    max_pieces: int = 2
    clamp_n: float | None = None
    wet: bool | None = None
    resolution_mm: float = 0.01

    def __post_init__(self) -> None:
        for field in ("min_mm", "max_mm", "wear_limit_mm"):
            checks.within(field, getattr(self, field), 0.0, 300.0, say("Clutch stack must be 0 to 300 mm. Check the unit."))
        checks.window_in_order(self.min_mm, self.max_mm, "min_mm", say("clutch stack"))
        checks.within("max_pieces", self.max_pieces, 0, MOST_A_SIDE, say("A side takes {most} shims at most.", most=MOST_A_SIDE))
        checks.within("clamp_n", self.clamp_n, 0.0, 1e6, say("Clamp load must be 0 to 1 000 000 N."))
        checks.resolution_ok(self.resolution_mm)


@dataclass(frozen=True, slots=True, kw_only=True)
class PackPick:
    """Shims from the kit and their sum, [mm]."""

    pieces: list[Shims]
    total_mm: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ShimmedSide:
    """shim_mm wanted, what the kit gives, and the pack with it, [mm]; `limits` says how the pack stands."""

    shim_mm: float
    pick: PackPick | None
    pack_mm: float | None
    verdict: VerdictWord
    reasons: list[Reason]
    limits: list[Reason]


@dataclass(frozen=True, slots=True, kw_only=True)
class PackShims:
    """Both sides, ring side less far side [mm], and the worse verdict."""

    ring_side: ShimmedSide
    far_side: ShimmedSide
    difference_mm: float | None
    verdict: VerdictWord
    clamp_n: float | None
    wet: bool | None


def shim_packs(given: PackShimsQuestion) -> PackShims:
    """Pick the shims of both clutch packs from one kit.

    Parameters
    ----------
    given : PackShimsQuestion
        Stacks, window, kit, [mm].

    Returns
    -------
    PackShims
        Shims and packs, [mm].

    Raises
    ------
    InvalidInput
        From PackShimsQuestion, or for a kit too large to try out.

    Notes
    -----
    shim = middle of the window - stack. Least greatest miss of the two packs, then least sum of both, then fewest pieces, then the
    larger shims on the ring side, then on the far side; exact, in whole nanometres. A worn side gets none, and the other picks alone.

    Examples
    --------
    >>> kit = [Shims(thickness_mm=0.5, count=1), Shims(thickness_mm=0.6, count=1)]
    >>> packs = shim_packs(PackShimsQuestion(ring_side=SideStack(stack_mm=15.9), far_side=SideStack(stack_mm=15.9), min_mm=16.3,
    ...     max_mm=16.6, stock=kit))
    >>> packs.ring_side.pick.total_mm
    0.6
    """
    stock = counted(given.stock, 2 * MOST_A_SIDE)
    sides = (given.ring_side, given.far_side)
    worn = [_worn(given, one) for one in sides]
    twice_middle = nanometres(given.min_mm) + nanometres(given.max_mm)
    wanted = [twice_middle - 2 * nanometres(one.stack_mm) for one in sides]
    picks: list[list[int] | None]
    if any(worn):
        picks = [None if bad else best_single(stock, wish, given.max_pieces) for bad, wish in zip(worn, wanted, strict=True)]
    else:
        picks = list(best_pair(stock, (wanted[0], wanted[1]), given.max_pieces))
    ring, far = (_side(given, one, pick) for one, pick in zip(sides, picks, strict=True))
    difference = None if ring.pack_mm is None or far.pack_mm is None else ring.pack_mm - far.pack_mm
    return PackShims(
        ring_side=ring,
        far_side=far,
        difference_mm=difference,
        verdict=worse([ring.verdict, far.verdict]),
        clamp_n=given.clamp_n,
        wet=given.wet,
    )


def _worn(given: PackShimsQuestion, side: SideStack) -> bool:
    return given.plates == "used" and given.wear_limit_mm is not None and side.stack_mm < given.wear_limit_mm - SLACK


def _side(given: PackShimsQuestion, side: SideStack, pick: list[int] | None) -> ShimmedSide:
    shim = (given.min_mm + given.max_mm) / 2.0 - side.stack_mm
    if pick is None:
        text = say(
            "The stack of {stack:mm2} is under the wear limit of {limit:mm2}. Fit new plates.",
            stack=side.stack_mm,
            limit=given.wear_limit_mm,
        )
        worn = Reason(code="worn", text=text, field="wear_limit_mm")
        return ShimmedSide(shim_mm=shim, pick=None, pack_mm=None, verdict="out", reasons=[worn], limits=[])
    pieces = as_pieces(pick)
    total = sum(nanometres(one.thickness_mm) * one.count for one in pieces) / 1e6
    pack = side.stack_mm + total
    verdict, limits = held(window(pack, pack, given.min_mm, given.max_mm, (say("The pack"), say("The pack")), "mm"), given.resolution_mm)
    reasons = []
    if not side.clamped:
        verdict = "unknown"
        text = say("A loose stack reads too much. Measure it under the clamp load that the limit was measured with.")
        reasons.append(Reason(code="not_clamped", text=text, field="clamped"))
    elif side.stack_mm > given.max_mm + SLACK:
        verdict = "out"
        text = say(
            "The plates alone, {stack:mm2}, are over the maximum of {most:mm2}. Check for a plate too many or a bent one.",
            stack=side.stack_mm,
            most=given.max_mm,
        )
        reasons.append(Reason(code="stack_too_thick", text=text, field="stack_mm"))
    return ShimmedSide(
        shim_mm=shim, pick=PackPick(pieces=pieces, total_mm=total), pack_mm=pack, verdict=verdict, reasons=reasons, limits=limits
    )
