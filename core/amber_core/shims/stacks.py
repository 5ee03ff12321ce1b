"""Every total that a drawer of shims can make, and the best stack for a total.

The best stack of a total has the fewest pieces; among those, the thicker shim first. Layer k knows what the k thinnest
shims can do, so a stack is read off from the thickest down.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from amber_core.errors import InvalidInput
from amber_core.words import say

Totals = NDArray[np.int64]

MOST_STATES = 4_000_000


class Stacks:
    """Totals [nm] that some shims can make, by piece count.

    Parameters
    ----------
    shims : list of tuple
        Thickness [nm] and count, thickest first.
    most_pieces : int
        The most pieces of a stack.
    ceiling_nm : int or None
        Totals over this cannot be wanted.

    Raises
    ------
    InvalidInput
        When the thicknesses are so many and so odd that they cannot be tried out in reasonable time.
    """

    def __init__(self, shims: list[tuple[int, int]], most_pieces: int, ceiling_nm: int | None = None) -> None:
        self.shims = shims[::-1]
        self.most_pieces = most_pieces
        start: list[Totals] = [np.zeros(1, dtype=np.int64)] + [np.zeros(0, dtype=np.int64)] * most_pieces
        self._layers: list[list[Totals]] = [start]
        states = 1
        for thickness, count in self.shims:
            layer = [self._grown(self._layers[-1], pieces, thickness, count, ceiling_nm) for pieces in range(most_pieces + 1)]
            states += sum(len(totals) for totals in layer)
            if states > MOST_STATES:
                raise InvalidInput(
                    "stock", say("There are too many different thicknesses to try them all. Round them to 0.001 mm or give fewer.")
                )
            self._layers.append(layer)

    @staticmethod
    def _grown(before: list[Totals], pieces: int, thickness: int, count: int, ceiling_nm: int | None) -> Totals:
        parts = [before[pieces - copies] + copies * thickness for copies in range(min(count, pieces) + 1)]
        totals = np.unique(np.concatenate(parts))
        return totals if ceiling_nm is None else totals[totals <= ceiling_nm]

    def totals(self, pieces: int) -> Totals:
        """Totals of exactly so many pieces, ascending, [nm]."""
        return self._layers[-1][pieces]

    def totals_up_to(self, pieces: int) -> Totals:
        """Totals of at most so many pieces, ascending, [nm]."""
        return np.unique(np.concatenate(self._layers[-1][: pieces + 1]))

    def reaches(self, layer: int, pieces: int, total: int) -> bool:
        """Whether the `layer` thinnest shims make this total [nm] in exactly so many pieces."""
        if pieces < 0 or total < 0:
            return False
        totals = self._layers[layer][pieces]
        at = int(np.searchsorted(totals, total))
        return at < len(totals) and int(totals[at]) == total

    def fewest(self, layer: int, total: int, most: int) -> int | None:
        """Fewest pieces in which the `layer` thinnest shims make this total [nm], or None."""
        return next((pieces for pieces in range(most + 1) if self.reaches(layer, pieces, total)), None)

    def stack(self, pieces: int, total: int) -> list[int]:
        """The stack of this total [nm] in exactly so many pieces with the thicker shims first, [nm]."""
        found: list[int] = []
        for layer in range(len(self.shims), 0, -1):
            thickness, count = self.shims[layer - 1]
            copies = min(count, pieces)
            while not self.reaches(layer - 1, pieces - copies, total - copies * thickness):
                copies -= 1
            found += [thickness] * copies
            pieces, total = pieces - copies, total - copies * thickness
        return found
