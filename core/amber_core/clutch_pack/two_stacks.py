"""Two stacks of shims out of one stock, each as near to its own target as it can be, exactly."""

from __future__ import annotations

from collections import Counter
from heapq import heappop, heappush

import numpy as np
from numpy.typing import NDArray

from amber_core.errors import InvalidInput
from amber_core.words import say

MOST_STACKS = 1_500_000

_Key = tuple[int, int, int, int, int]


class _Candidates:
    """Every stack of the stock, best first for one target: by miss, then fewest pieces, then the larger total, then thicker shims first."""

    def __init__(self, rows: NDArray[np.int64], thickness: NDArray[np.int64], wanted_twice: int) -> None:
        totals = thickness[rows].sum(axis=1)
        pieces = (rows >= 0).sum(axis=1)
        miss = np.abs(2 * totals - wanted_twice)
        order = np.lexsort((*rows.T[::-1], -totals, pieces, miss))
        self.rows, self._thickness = rows[order], thickness
        self._figures = np.column_stack([miss, pieces, totals])[order]

    def __len__(self) -> int:
        return len(self.rows)

    def figures(self, index: int) -> tuple[int, int, int]:
        """Twice the miss [nm], pieces, total [nm]."""
        miss, pieces, total = self._figures[index].tolist()
        return miss, pieces, total

    def stack(self, index: int) -> list[int]:
        """Thicknesses [nm], thickest first."""
        return [int(self._thickness[one]) for one in self.rows[index] if one >= 0]


def best_single(stock: list[tuple[int, int]], wanted_twice: int, most: int) -> list[int]:
    """The stack whose total is nearest to half of `wanted_twice` [nm]; thicknesses, thickest first."""
    return _Candidates(*_stacks(stock, most), wanted_twice).stack(0)


def best_pair(stock: list[tuple[int, int]], wanted_twice: tuple[int, int], most: int) -> tuple[list[int], list[int]]:
    """Two stacks that the stock holds together.

    Parameters
    ----------
    stock : list of (thickness, count)
        [nm], [-], thickest first, no thickness twice.
    wanted_twice : (int, int)
        Twice the total that each side wants, so that the middle of a window stays whole, [nm].
    most : int
        Pieces a side.

    Returns
    -------
    tuple of list
        Thicknesses of each side, thickest first, [nm].

    Raises
    ------
    InvalidInput
        On ``stock`` when there are more stacks than can be tried.

    Notes
    -----
    Both lists of stacks are sorted by what a side adds to the order wanted, so pairs can be taken from a heap, best first, until one
    fits the stock. No pieces at all is a stack.
    """
    rows, thickness = _stacks(stock, most)
    first, second = (_Candidates(rows, thickness, wish) for wish in wanted_twice)
    counts = dict(stock)

    def key(i: int, j: int) -> _Key:
        (miss, pieces, total), (other_miss, other_pieces, other_total) = first.figures(i), second.figures(j)
        return max(miss, other_miss), miss + other_miss, pieces + other_pieces, -total, -other_total

    heap: list[tuple[_Key, int, int]] = [(key(0, 0), 0, 0)]
    while True:
        _, i, j = heappop(heap)
        one, other = first.stack(i), second.stack(j)
        if all(count <= counts[thick] for thick, count in Counter([*one, *other]).items()):
            return one, other
        if j + 1 < len(second):
            heappush(heap, (key(i, j + 1), i, j + 1))
        if j == 0 and i + 1 < len(first):
            heappush(heap, (key(i + 1, 0), i + 1, 0))


def _stacks(stock: list[tuple[int, int]], most: int) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Every stack of up to `most` pieces as rows of indices into the thicknesses, thickest first, -1 for none."""
    thickness = np.array([*(one for one, _ in stock), 0], dtype=np.int64)  # the last one is what -1 points at
    counts = np.array([count for _, count in stock], dtype=np.int64)
    layer = np.full((1, most), -1, dtype=np.int64)
    layers = [layer]
    for place in range(most if stock else 0):
        last = layer[:, place - 1] if place else np.zeros(1, dtype=np.int64)
        repeats = len(stock) - last
        if sum(map(len, layers)) + int(repeats.sum()) > MOST_STACKS:
            raise InvalidInput("stock", say("There are too many different shims to try them all. Give fewer, or fewer pieces a side."))
        grown = np.repeat(layer, repeats, axis=0)
        begins = np.cumsum(repeats) - repeats
        added = np.arange(len(grown)) - np.repeat(begins, repeats) + np.repeat(last, repeats)
        grown[:, place] = added
        same = (grown[:, : place + 1] == added[:, None]).sum(axis=1)
        layer = grown[same <= counts[added]]
        layers.append(layer)
    return np.concatenate(layers), thickness
