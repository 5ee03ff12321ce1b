"""Which shims of the drawer make the stack that is wanted."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from amber_core import checks
from amber_core.errors import InvalidInput
from amber_core.shims.stacks import Stacks, Totals
from amber_core.shims.stock import MOST_PIECES, NM_PER_MM, Shims, as_pieces, counted, nanometres
from amber_core.verdicts import SLACK
from amber_core.words import say

ALTERNATIVES = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class ShimWish:
    """A stack wanted: target_mm with tolerance_mm, or low_mm to high_mm (the target is the middle), [mm]; from this stock."""

    stock: list[Shims]
    target_mm: float | None = None
    tolerance_mm: float | None = None
    low_mm: float | None = None
    high_mm: float | None = None
    max_pieces: int = 6

    def __post_init__(self) -> None:
        if self.target_mm is None and (self.low_mm is None or self.high_mm is None):
            raise InvalidInput("target_mm", say("Give the stack wanted with its tolerance, or its minimum and maximum thickness."))
        if self.target_mm is not None and self.tolerance_mm is None:
            raise InvalidInput("tolerance_mm", say("Give how far from the wanted thickness a stack may be."))
        for field in ("target_mm", "low_mm", "high_mm"):
            checks.within(field, getattr(self, field), -100.0, 100.0, say("Stack of shims must be 0 to 100 mm."))
        checks.within("tolerance_mm", self.tolerance_mm, 0.0, 100.0, say("Tolerance must be 0 mm or more."))
        checks.window_in_order(self.low_mm, self.high_mm, "low_mm", say("stack thickness"))
        checks.within(
            "max_pieces", self.max_pieces, 0, MOST_PIECES, say("A stack can have {most_pieces} pieces at most.", most_pieces=MOST_PIECES)
        )

    @property
    def target_and_tolerance_mm(self) -> tuple[float, float]:
        """The middle and half the width of what is allowed, [mm]."""
        if self.target_mm is not None and self.tolerance_mm is not None:
            return self.target_mm, self.tolerance_mm
        assert self.low_mm is not None and self.high_mm is not None
        return (self.low_mm + self.high_mm) / 2.0, (self.high_mm - self.low_mm) / 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ShimStack:
    """A stack from the drawer: its pieces, total_mm and error_mm = total - target, [mm]."""

    pieces: list[Shims]
    total_mm: float
    error_mm: float
    within: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ShimPick:
    """The best stack and the next three totals, [mm]."""

    pieces: list[Shims]
    total_mm: float
    error_mm: float
    within: bool
    alternatives: list[ShimStack]


def pick_shims(given: ShimWish) -> ShimPick:
    """Pick the stack nearest to the target.

    Parameters
    ----------
    given : ShimWish
        Target and tolerance [mm], stock, most pieces [-].

    Returns
    -------
    ShimPick
        The best stack, `within` or not, and three with other totals.

    Raises
    ------
    InvalidInput
        From ShimWish, or for a stock too odd to try out.

    Notes
    -----
    Exact, in whole nanometres. The thick half and the thin half of the drawer are tried out apart and met in the middle.
    Order: smallest error, fewest pieces, thicker shims first. No pieces at all is a stack of 0.

    Examples
    --------
    >>> stock = [Shims(thickness_mm=0.5, count=2), Shims(thickness_mm=0.34, count=1)]
    >>> pick_shims(ShimWish(target_mm=0.85, tolerance_mm=0.02, stock=stock)).total_mm
    0.84
    """
    target_mm, tolerance_mm = given.target_and_tolerance_mm
    target = nanometres(target_mm)
    stacks = nearest_stacks(counted(given.stock, given.max_pieces), target, given.max_pieces, 1 + ALTERNATIVES)
    found = [stack_of(stack, target, tolerance_mm) for stack in stacks]
    best = found[0]
    return ShimPick(pieces=best.pieces, total_mm=best.total_mm, error_mm=best.error_mm, within=best.within, alternatives=found[1:])


def stack_of(pieces: list[int], target: int, tolerance_mm: float) -> ShimStack:
    """A stack [nm] held against its target [nm] and tolerance [mm]."""
    error = (sum(pieces) - target) / NM_PER_MM
    return ShimStack(pieces=as_pieces(pieces), total_mm=sum(pieces) / NM_PER_MM, error_mm=error, within=abs(error) <= tolerance_mm + SLACK)


def nearest_stacks(shims: list[tuple[int, int]], target: int, most_pieces: int, wanted: int) -> list[list[int]]:
    """The stacks [nm] of the `wanted` distinct totals nearest to `target` [nm], best first."""
    ceiling = _ceiling(shims, target, most_pieces, wanted)
    half = len(shims) // 2
    thick, thin = Stacks(shims[:half], most_pieces, ceiling), Stacks(shims[half:], most_pieces, ceiling)
    best: list[tuple[int, int, list[int], list[int]]] = []
    for total in _nearest_totals(thick, thin, target, wanted):
        stack = _best_stack(thick, thin, total)
        best.append((abs(total - target), len(stack), [-piece for piece in stack], stack))
    return [stack for *_, stack in sorted(best, key=lambda one: one[:3])[:wanted]]


def _ceiling(shims: list[tuple[int, int]], target: int, most_pieces: int, wanted: int) -> int | None:
    """Totals over this cannot be among the nearest: nothing and the single shims are nearer already."""
    easy = sorted(abs(total - target) for total in [0, *(thickness for thickness, _ in shims if most_pieces)])
    return None if len(easy) < wanted else max(0, target + easy[wanted - 1])


def _nearest_totals(thick: Stacks, thin: Stacks, target: int, wanted: int) -> list[int]:
    """The distinct totals nearest to the target, with all that tie with the last."""
    found: list[Totals] = []
    for pieces in range(thick.most_pieces + 1):
        others = thin.totals_up_to(thick.most_pieces - pieces)
        mine = thick.totals(pieces)
        if not len(mine) or not len(others):
            continue
        at = np.searchsorted(others, target - mine)
        for step in range(-wanted, wanted):
            near = np.clip(at + step, 0, len(others) - 1)
            found.append(mine + others[near])
    totals = np.unique(np.concatenate(found))
    errors = np.abs(totals - target)
    worst = np.sort(errors)[min(wanted, len(errors)) - 1]
    return [int(total) for total in totals[errors <= worst]]


def _best_stack(thick: Stacks, thin: Stacks, total: int) -> list[int]:
    for pieces in range(thick.most_pieces + 1):
        found: list[list[int]] = []
        for mine in range(pieces + 1):
            left = thick.totals(mine)
            rest = thin.totals(pieces - mine)
            if not len(left) or not len(rest):
                continue
            wanted = total - left  # rest is in order: looked up, which is quicker than to sort both together
            for one in left[rest[np.minimum(np.searchsorted(rest, wanted), len(rest) - 1)] == wanted]:
                found.append(thick.stack(mine, int(one)) + thin.stack(pieces - mine, total - int(one)))
        if found:
            return max(found)
    raise AssertionError("a total that was reached has a stack")
