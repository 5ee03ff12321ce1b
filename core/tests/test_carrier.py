"""The next move of the carrier: signs, laws, and the two stacks picked from one drawer."""

from __future__ import annotations

from itertools import product
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from amber_core.carrier.move import CarrierMove, CarrierNow, move_carrier
from amber_core.carrier.pair import nearest_pair
from amber_core.errors import InvalidInput
from amber_core.shims.stock import Shims

Drawer = list[tuple[int, int]]


def move(**fields: Any) -> CarrierMove:
    usual: dict[str, Any] = {
        "method": "side_shims",
        "ring_side_mm": 1.0,
        "far_side_mm": 1.0,
        "backlash_mean_mm": 0.13,
        "target_backlash_mm": 0.20,
        "backlash_per_ring_move": 0.7,
    }
    return move_carrier(CarrierNow(**{**usual, **fields}))


class Signs(TestCase):
    def test_side_shims_away_from_the_pinion_take_from_the_ring_side(self) -> None:
        found = move()
        self.assertAlmostEqual(found.ring_move_mm, 0.1)
        self.assertAlmostEqual(found.ring_side_mm or 0.0, 0.9)
        self.assertAlmostEqual(found.far_side_mm or 0.0, 1.1)
        self.assertAlmostEqual(found.expected_backlash_mm, 0.20)

    def test_cover_shims_have_every_sign_reversed_preload_too(self) -> None:
        found = move(method="cover_shims", preload_change_mm=0.04)
        self.assertAlmostEqual(found.ring_side_mm or 0.0, 1.08)
        self.assertAlmostEqual(found.far_side_mm or 0.0, 0.88)

    def test_preload_goes_half_on_each_side(self) -> None:
        found = move(backlash_mean_mm=0.20, preload_change_mm=0.06)
        self.assertAlmostEqual(found.ring_side_mm or 0.0, 1.03)
        self.assertAlmostEqual(found.far_side_mm or 0.0, 1.03)

    def test_adjusters_turn_whole_notches_and_expect_what_those_give(self) -> None:
        found = move(method="adjusters", notch_mm=0.03)
        self.assertEqual((found.ring_side_notches, found.far_side_notches), (-3, 3))
        self.assertAlmostEqual(found.ring_move_mm, 0.09)
        self.assertAlmostEqual(found.expected_backlash_mm, 0.13 + 0.7 * 0.09)
        self.assertAlmostEqual(found.wanted_ring_move_mm, 0.1)

    def test_an_odd_notch_of_preload_goes_on_the_far_side(self) -> None:
        found = move(method="adjusters", notch_mm=0.03, backlash_mean_mm=0.20, preload_change_mm=0.09)
        self.assertEqual((found.ring_side_notches, found.far_side_notches), (1, 2))
        looser = move(method="adjusters", notch_mm=0.03, backlash_mean_mm=0.20, preload_change_mm=-0.09)
        self.assertEqual((looser.ring_side_notches, looser.far_side_notches), (-1, -2))


class Laws(TestCase):
    @given(
        mean=st.floats(0.02, 0.8),
        target=st.floats(0.02, 0.8),
        slope=st.floats(0.4, 1.1),
        method=st.sampled_from(["side_shims", "cover_shims"]),
    )
    def test_a_move_and_its_opposite_cancel(self, mean: float, target: float, slope: float, method: str) -> None:
        there = move(method=method, backlash_mean_mm=mean, target_backlash_mm=target, backlash_per_ring_move=slope)
        back = move(
            method=method,
            ring_side_mm=max(0.0, there.ring_side_mm or 0.0),
            far_side_mm=max(0.0, there.far_side_mm or 0.0),
            backlash_mean_mm=target,
            target_backlash_mm=mean,
            backlash_per_ring_move=slope,
        )
        self.assertAlmostEqual(there.ring_move_mm, -back.ring_move_mm, places=9)
        if min(there.ring_side_mm or 0.0, there.far_side_mm or 0.0) >= 0.0:
            self.assertAlmostEqual(back.ring_side_mm or 0.0, 1.0, places=9)
            self.assertAlmostEqual(back.far_side_mm or 0.0, 1.0, places=9)

    @given(mean=st.floats(0.05, 0.6), preload=st.floats(-0.2, 0.2))
    def test_a_pure_move_keeps_the_sum_and_preload_alone_keeps_the_difference(self, mean: float, preload: float) -> None:
        pure = move(backlash_mean_mm=mean)
        self.assertAlmostEqual((pure.ring_side_mm or 0.0) + (pure.far_side_mm or 0.0), 2.0, places=9)
        tighter = move(backlash_mean_mm=0.20, preload_change_mm=preload)
        self.assertAlmostEqual((tighter.ring_side_mm or 0.0) - (tighter.far_side_mm or 0.0), 0.0, places=9)
        self.assertAlmostEqual((tighter.ring_side_mm or 0.0) + (tighter.far_side_mm or 0.0), 2.0 + preload, places=9)


class FromTheDrawer(TestCase):
    def test_expected_values_follow_the_picks(self) -> None:
        stock = [Shims(thickness_mm=mm, count=1) for mm in (0.88, 0.92, 1.08, 1.0)]
        found = move(stock=stock)
        assert found.picks is not None
        self.assertEqual([one.thickness_mm for one in found.picks.ring_side.pieces], [0.88])
        self.assertEqual([one.thickness_mm for one in found.picks.far_side.pieces], [1.08])
        self.assertAlmostEqual(found.ring_move_mm, 0.1)

    @settings(max_examples=60, deadline=None)
    @given(
        rows=st.dictionaries(st.integers(1, 30), st.integers(1, 2), min_size=1, max_size=4),
        ring=st.integers(-20, 500),
        far=st.integers(-20, 500),
    )
    def test_no_pair_is_better(self, rows: dict[int, int], ring: int, far: int) -> None:
        drawer = sorted(((10 * thickness, count) for thickness, count in rows.items()), reverse=True)
        found = nearest_pair(drawer, ring, far)
        got = self.key(sum(found.ring_side), sum(found.far_side), len(found.ring_side) + len(found.far_side), ring, far)
        self.assertEqual(got, min(self.every_key(drawer, ring, far)))
        for thickness, count in drawer:
            self.assertLessEqual(found.ring_side.count(thickness) + found.far_side.count(thickness), count)

    @staticmethod
    def key(ring_total: int, far_total: int, pieces: int, ring: int, far: int) -> tuple[int, int, int]:
        return abs(ring_total - far_total - (ring - far)), abs(ring_total + far_total - ring - far), pieces

    def every_key(self, drawer: Drawer, ring: int, far: int) -> list[tuple[int, int, int]]:
        found = []
        for mine in product(*(range(count + 1) for _, count in drawer)):
            rests = product(*(range(count - used + 1) for (_, count), used in zip(drawer, mine, strict=True)))
            for other in rests:
                if max(sum(mine), sum(other)) <= 6:
                    totals = [sum(t * n for (t, _), n in zip(drawer, side, strict=True)) for side in (mine, other)]
                    found.append(self.key(totals[0], totals[1], sum(mine) + sum(other), ring, far))
        return found


class Reasons(TestCase):
    def test_a_stack_below_nothing(self) -> None:
        found = move(ring_side_mm=0.05)
        self.assertEqual([(one.code, one.field) for one in found.reasons], [("negative_stack", "ring_side_mm")])

    def test_the_least_backlash_would_fall_short(self) -> None:
        found = move(backlash_mean_mm=0.30, backlash_least_mm=0.22, min_mm=0.15)
        self.assertEqual([one.code for one in found.reasons], ["least_would_fall_short"])

    def test_refused(self) -> None:
        cases = [
            ({"backlash_per_ring_move": 0.0}, "backlash_per_ring_move"),
            ({"method": "adjusters"}, "notch_mm"),
            ({"far_side_mm": None}, "far_side_mm"),
            ({"backlash_mean_mm": -0.1}, "backlash_mean_mm"),
        ]
        for fields, field in cases:
            with self.subTest(field), self.assertRaises(InvalidInput) as caught:
                move(**fields)
            self.assertEqual(caught.exception.field, field)
