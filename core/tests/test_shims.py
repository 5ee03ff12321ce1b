"""Picking shims: optimal against every stack there is, by trying them all."""

from __future__ import annotations

from itertools import product
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core.errors import InvalidInput
from amber_core.shims.pick import ShimPick, ShimWish, nearest_stacks, pick_shims
from amber_core.shims.stock import Shims

Drawer = list[tuple[int, int]]
drawers = st.dictionaries(st.integers(1, 40), st.integers(1, 3), min_size=0, max_size=5).map(
    lambda rows: sorted(((10 * thickness, count) for thickness, count in rows.items()), reverse=True)
)


def by_trying_all(drawer: Drawer, target: int, most_pieces: int) -> list[list[int]]:
    """The best stack of every total, nearest total first; written apart from the code it checks."""
    best: dict[int, tuple[int, int, list[int]]] = {}
    for counts in product(*(range(count + 1) for _, count in drawer)):
        if sum(counts) > most_pieces:
            continue
        stack = [thickness for (thickness, _), many in zip(drawer, counts, strict=True) for _ in range(many)]
        key = (abs(sum(stack) - target), len(stack), [-piece for piece in stack])
        if sum(stack) not in best or key < best[sum(stack)]:
            best[sum(stack)] = key
    return [[-piece for piece in stack] for _, _, stack in sorted(best.values())[:4]]


class Optimal(TestCase):
    @settings(max_examples=200, deadline=None)
    @given(drawer=drawers, target=st.integers(-100, 1500), most_pieces=st.integers(0, 5))
    def test_no_stack_is_better_and_the_order_is_as_stated(self, drawer: Drawer, target: int, most_pieces: int) -> None:
        usable = [(thickness, min(count, most_pieces)) for thickness, count in drawer if most_pieces]
        self.assertEqual(nearest_stacks(usable, target, most_pieces, 4), by_trying_all(drawer, target, most_pieces))


class Picks(TestCase):
    STOCK = [{"thickness_mm": 0.50, "count": 2}, {"thickness_mm": 0.34, "count": 1}, {"thickness_mm": 0.10, "count": 4}]

    def pick(self, **fields: Any) -> ShimPick:
        rows = fields.pop("stock", self.STOCK)
        return pick_shims(ShimWish(stock=[Shims(**row) for row in rows], **fields))

    def test_a_stack_with_its_pieces_and_three_others(self) -> None:
        found = self.pick(target_mm=0.84, tolerance_mm=0.01)
        self.assertEqual([(one.thickness_mm, one.count) for one in found.pieces], [(0.5, 1), (0.34, 1)])
        self.assertTrue(found.within)
        self.assertEqual(len(found.alternatives), 3)
        self.assertEqual(len({found.total_mm, *(one.total_mm for one in found.alternatives)}), 4)

    def test_fewer_pieces_before_more_then_the_thicker_first(self) -> None:
        stock = [{"thickness_mm": 0.3, "count": 3}, {"thickness_mm": 0.4, "count": 3}, {"thickness_mm": 0.2, "count": 3}]
        found = self.pick(target_mm=0.6, tolerance_mm=0.0, stock=stock)
        self.assertEqual([(one.thickness_mm, one.count) for one in found.pieces], [(0.4, 1), (0.2, 1)])

    def test_a_window_aims_at_its_middle(self) -> None:
        found = self.pick(low_mm=0.58, high_mm=0.66)
        self.assertAlmostEqual(found.error_mm, 0.60 - 0.62)
        self.assertTrue(found.within)

    def test_equal_rows_are_added_up(self) -> None:
        found = self.pick(target_mm=0.4, tolerance_mm=0.0, stock=[{"thickness_mm": 0.2, "count": 1}, {"thickness_mm": 0.2, "count": 1}])
        self.assertEqual([(one.thickness_mm, one.count) for one in found.pieces], [(0.2, 2)])

    def test_an_empty_drawer_is_no_error(self) -> None:
        found = self.pick(target_mm=0.5, tolerance_mm=0.1, stock=[])
        self.assertEqual((found.total_mm, found.within, found.alternatives), (0.0, False, []))

    def test_nothing_is_a_legal_choice(self) -> None:
        self.assertEqual(self.pick(target_mm=0.01, tolerance_mm=0.02).pieces, [])

    def test_floats_that_do_not_add_up_still_do(self) -> None:
        found = self.pick(target_mm=0.3, tolerance_mm=0.0, stock=[{"thickness_mm": 0.1, "count": 3}])
        self.assertTrue(found.within)
        self.assertEqual(found.error_mm, 0.0)

    def test_a_full_catalogue_of_odd_thicknesses_at_eight_pieces(self) -> None:
        rows = [{"thickness_mm": round(0.301 + 0.0087 * k, 3), "count": 3} for k in range(200)]
        self.assertEqual(self.pick(target_mm=3.1, tolerance_mm=0.0, stock=rows, max_pieces=8).error_mm, 0.0)

    def test_refused(self) -> None:
        cases = [
            ({"tolerance_mm": 0.1}, "target_mm"),
            ({"target_mm": 1.0}, "tolerance_mm"),
            ({"low_mm": 2.0, "high_mm": 1.0}, "low_mm"),
            ({"target_mm": 1.0, "tolerance_mm": 0.1, "max_pieces": 9}, "max_pieces"),
            ({"target_mm": 1.0, "tolerance_mm": 0.1, "stock": [{"thickness_mm": -1.0, "count": 1}]}, "thickness_mm"),
            ({"target_mm": 1.0, "tolerance_mm": 0.1, "stock": [{"thickness_mm": 0.1, "count": 1}] * 201}, "stock"),
        ]
        for fields, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                self.pick(**fields)
            self.assertEqual(caught.exception.field, field)
