"""Positions round a circle, and what a drawer of shims can make."""

from __future__ import annotations

from itertools import combinations
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from amber_core.circle import distinct_positions, fit_once_per_turn, once_per_turn, seen_all_round, widest_gap_deg
from amber_core.errors import InvalidInput
from amber_core.shims.stacks import Stacks
from amber_core.shims.stock import Shims, as_pieces, counted


class Positions(TestCase):
    def test_readings_closer_than_five_degrees_stand_at_one_position(self) -> None:
        cases = [
            ([0.0, 4.9, 90.0], [0.0, 90.0]),
            ([0.0, 5.0, 90.0], [0.0, 5.0, 90.0]),
            ([358.0, 1.0, 180.0], [1.0, 180.0]),
            ([0.0, 360.0, 720.0], [0.0]),
            ([-90.0, 270.0], [270.0]),
        ]
        for angles, wanted in cases:
            with self.subTest(str(angles)):
                self.assertEqual(distinct_positions(angles), wanted)

    def test_the_widest_gap_goes_over_the_top_too(self) -> None:
        self.assertEqual(widest_gap_deg([10.0, 100.0, 200.0]), 170.0)
        self.assertEqual(widest_gap_deg([50.0]), 360.0)
        self.assertFalse(seen_all_round([10.0, 100.0, 200.0], 3))
        self.assertTrue(seen_all_round([0.0, 150.0, 300.0], 3))
        self.assertFalse(seen_all_round([0.0, 150.0, 300.0], 4))

    @given(st.lists(st.floats(0.0, 359.99), min_size=1, max_size=20), st.integers(-3, 3))
    def test_whole_turns_change_nothing(self, angles: list[float], turns: int) -> None:
        there = distinct_positions([angle + 360.0 * turns for angle in angles])
        for one, other in zip(distinct_positions(angles), there, strict=True):
            self.assertAlmostEqual(one, other, places=6)

    @given(st.lists(st.floats(-0.2, 0.4), min_size=6, max_size=12), st.floats(0.1, 5.0))
    def test_once_per_turn_scales_and_takes_no_more_than_there_is(self, values: list[float], factor: float) -> None:
        angles = [360.0 * k / len(values) for k in range(len(values))]
        one, scaled = once_per_turn(angles, values), once_per_turn(angles, [factor * value for value in values])
        self.assertAlmostEqual(scaled.amplitude_mm, factor * one.amplitude_mm, places=9)
        self.assertTrue(0.0 <= one.share <= 1.0)
        self.assertLessEqual(one.amplitude_mm, 2.0 * (max(values) - min(values)) + 1e-12)
        self.assertAlmostEqual(fit_once_per_turn(angles, values).mean_mm, sum(values) / len(values), places=9)


class DrawerOfShims(TestCase):
    @given(st.lists(st.tuples(st.integers(1, 20), st.integers(1, 2)), max_size=4, unique_by=lambda row: row[0]), st.integers(0, 4))
    def test_it_reaches_every_total_and_no_other(self, rows: list[tuple[int, int]], most: int) -> None:
        shims = sorted(rows, reverse=True)
        pieces = [thickness for thickness, count in shims for _ in range(count)]
        stacks = Stacks([(thickness, min(count, most)) for thickness, count in shims if most], most)
        for size in range(most + 1):
            wanted = sorted({sum(chosen) for chosen in combinations(pieces, size)})
            self.assertEqual(list(stacks.totals(size)), wanted)
            for total in wanted:
                stack = stacks.stack(size, int(total))
                self.assertEqual((len(stack), sum(stack)), (size, total))
                self.assertTrue(all(stack.count(piece) <= dict(shims)[piece] for piece in stack))

    def test_a_drawer_too_odd_to_try_is_refused_with_what_to_do(self) -> None:
        odd = [(1_000_003 + 7919 * k * k, 6) for k in range(120)]
        with self.assertRaises(InvalidInput) as caught:
            Stacks(sorted(odd, reverse=True), 6)
        self.assertEqual(caught.exception.field, "stock")
        self.assertIn("Round them to 0.001 mm", caught.exception.message)

    def test_counts_are_capped_and_empty_rows_left_out(self) -> None:
        rows = [Shims(thickness_mm=0.1, count=50), Shims(thickness_mm=0.2, count=0), Shims(thickness_mm=0.1, count=1)]
        self.assertEqual(counted(rows, 6), [(100_000, 6)])
        self.assertEqual([(one.thickness_mm, one.count) for one in as_pieces([300_000, 100_000, 300_000])], [(0.3, 2), (0.1, 1)])
