"""Two stacks from one drawer: the ring side and the far side of a carrier, picked together."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from amber_core.shims.stacks import Stacks, Totals

MOST_PIECES_A_SIDE = 6
_MOST_LEVELS = 20_000


@dataclass(frozen=True, slots=True)
class Pair:
    """A stack for each side, thickest first, [nm]."""

    ring_side: list[int]
    far_side: list[int]


def nearest_pair(shims: list[tuple[int, int]], ring_nm: int, far_nm: int) -> Pair:
    """The two stacks nearest to what is wanted, sharing one drawer.

    Parameters
    ----------
    shims : list of tuple
        Thickness [nm] and count, thickest first, one pool for both sides.
    ring_nm, far_nm : int
        The stacks wanted, [nm].

    Returns
    -------
    Pair
        Least error of the difference first (it sets the backlash), then of the sum (it sets the preload), then fewest pieces.
    """
    stacks = Stacks(shims, MOST_PIECES_A_SIDE)
    totals = stacks.totals_up_to(MOST_PIECES_A_SIDE)
    for level in _levels(totals, ring_nm - far_nm):
        best: tuple[int, list[int], list[int]] | None = None
        sum_error: int | None = None
        for ring, far in sorted(level, key=lambda pair: (abs(sum(pair) - ring_nm - far_nm), pair)):
            error = abs(ring + far - ring_nm - far_nm)
            if sum_error is not None and error > sum_error:
                break
            found = _shared(stacks, ring, far)
            if found is None:
                continue
            sum_error = error
            key = (len(found.ring_side) + len(found.far_side), [-one for one in found.ring_side], [-one for one in found.far_side])
            best = key if best is None else min(best, key)
        if best is not None:
            return Pair(ring_side=[-one for one in best[1]], far_side=[-one for one in best[2]])
    return Pair(ring_side=[], far_side=[])


def _levels(totals: Totals, wanted: int):  # type: ignore[no-untyped-def]
    """Pairs (ring, far) grouped by the error of their difference, smallest error first."""
    beyond = -1
    for _ in range(_MOST_LEVELS):
        error = _next_error(totals, wanted, beyond)
        if error is None:
            return
        level = []
        for difference in {wanted - error, wanted + error}:
            rings = totals[np.isin(totals - difference, totals)]
            level += [(int(ring), int(ring) - difference) for ring in rings]
        yield level
        beyond = error


def _next_error(totals: Totals, wanted: int, beyond: int) -> int | None:
    """The smallest |ring - far - wanted| greater than `beyond`."""
    least: int | None = None
    for sign in (1, -1):
        # far = ring - wanted - sign * error, with error > beyond: look for the nearest total on that side
        edge = totals - wanted - sign * (beyond + 1)
        at = np.searchsorted(totals, edge, side="right" if sign > 0 else "left") - (1 if sign > 0 else 0)
        possible = (at >= 0) & (at < len(totals))
        if possible.any():
            errors = np.abs(totals[possible] - totals[at[possible]] - wanted)
            least = int(errors.min()) if least is None else min(least, int(errors.min()))
    return least


def _shared(stacks: Stacks, ring: int, far: int) -> Pair | None:
    """Both totals out of one drawer in the fewest pieces together, or None."""
    count = len(stacks.shims)
    least_ring = stacks.fewest(count, ring, MOST_PIECES_A_SIDE)
    least_far = stacks.fewest(count, far, MOST_PIECES_A_SIDE)
    if least_ring is None or least_far is None:
        return None
    for pieces in range(least_ring + least_far, 2 * MOST_PIECES_A_SIDE + 1):
        for mine in range(min(pieces - least_far, MOST_PIECES_A_SIDE), least_ring - 1, -1):
            if pieces - mine > MOST_PIECES_A_SIDE:
                continue
            found = _split(stacks, count, (ring, mine), (far, pieces - mine), set())
            if found is not None:
                return Pair(ring_side=found[0], far_side=found[1])
    return None


def _split(
    stacks: Stacks, layer: int, ring: tuple[int, int], far: tuple[int, int], dead: set[tuple[int, int, int, int, int]]
) -> tuple[list[int], list[int]] | None:
    """Take from the thickest shim down; `ring` and `far` are (total left [nm], pieces left)."""
    if layer == 0:
        return ([], []) if ring == far == (0, 0) else None
    state = (layer, *ring, *far)
    if state in dead:
        return None
    thickness, many = stacks.shims[layer - 1]
    for mine in range(min(many, ring[1]), -1, -1):
        left = (ring[0] - mine * thickness, ring[1] - mine)
        if not stacks.reaches(layer - 1, left[1], left[0]):
            continue
        for other in range(min(many - mine, far[1]), -1, -1):
            rest = (far[0] - other * thickness, far[1] - other)
            if not stacks.reaches(layer - 1, rest[1], rest[0]):
                continue
            below = _split(stacks, layer - 1, left, rest, dead)
            if below is not None:
                return [thickness] * mine + below[0], [thickness] * other + below[1]
    dead.add(state)
    return None
