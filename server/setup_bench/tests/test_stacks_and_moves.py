"""Stacks as people write them."""

from __future__ import annotations

from django.test import SimpleTestCase

from amber_core.errors import InvalidInput
from setup_bench.stacks import parse_stack, stored, total_mm


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
