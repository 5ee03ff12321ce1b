"""Stacks as people write them, and ring moves for every way a carrier is held."""

from __future__ import annotations

from django.test import SimpleTestCase

from amber_core.errors import InvalidInput
from setup_bench.estimate import ring_move_mm
from setup_bench.models import Trial
from setup_bench.stacks import parse_stack, stored, total_mm
from stores.models import AxleFamily


class Stacks(SimpleTestCase):
    def test_written_stacks(self) -> None:
        cases = [
            ("4.60 mm + 0.05 mm", "thou", [(4.6, 1), (0.05, 1)]),
            ("0.5mm+0.5 mm", "mm", [(0.5, 2)]),
            ("0,5 + 0,34", "mm", [(0.5, 1), (0.34, 1)]),
            ("20 thou", "mm", [(0.508, 1)]),
            ("110", "hundredths_mm", [(1.1, 1)]),
            ("none", "mm", []),
            ("0", "mm", []),
        ]
        for typed, unit, pieces in cases:
            with self.subTest(typed):
                self.assertEqual(parse_stack(typed, unit=unit, field="ring_side"), pieces)

    def test_refused_on_their_field(self) -> None:
        for typed in ("", "+", "1.10 +", "abc", "1.10 Nm", "99 mm", "-1 mm", "0.001 mm"):
            with self.subTest(typed), self.assertRaises(InvalidInput) as caught:
                parse_stack(typed, unit="mm", field="far_side")
            self.assertEqual(caught.exception.field, "far_side")

    def test_totals(self) -> None:
        self.assertEqual(total_mm(stored([[0.1, 3]])), 0.3)
        self.assertEqual(total_mm(stored(None)), 0.0)


class RingMoves(SimpleTestCase):
    def shims(self, ring: float, far: float) -> Trial:
        return Trial(ring_side_pieces=[[ring, 1]], far_side_pieces=[[far, 1]])

    def test_side_shims_covers_and_adjusters(self) -> None:
        side, covers = AxleFamily(carrier_method="side_shims"), AxleFamily(carrier_method="cover_shims")
        before, after = self.shims(1.0, 1.0), self.shims(0.9, 1.1)
        self.assertAlmostEqual(ring_move_mm(side, before, after), 0.1)
        self.assertAlmostEqual(ring_move_mm(covers, before, after), -0.1)
        adjusters = AxleFamily(carrier_method="adjusters", notch_mm=0.05)
        turned = ring_move_mm(adjusters, Trial(ring_side_notches=0, far_side_notches=0), Trial(ring_side_notches=-2, far_side_notches=2))
        self.assertAlmostEqual(turned, 0.1)

    def test_equal_changes_on_both_sides_move_nothing(self) -> None:
        self.assertAlmostEqual(ring_move_mm(AxleFamily(carrier_method="side_shims"), self.shims(1.0, 1.0), self.shims(1.1, 1.1)), 0.0)
